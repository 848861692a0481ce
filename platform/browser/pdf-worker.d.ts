declare module 'pdfjs-dist/build/pdf.worker.mjs' {
  /** pdf.js's parsing half, for when it runs where it is imported. */
  export const WorkerMessageHandler: unknown;
}
