declare module 'heic-decode' {
  /** Decodes the main picture of a HEIC file, upright. */
  export default function decode(file: {
    buffer: Uint8Array;
  }): Promise<{ width: number; height: number; data: Uint8ClampedArray }>;
}
