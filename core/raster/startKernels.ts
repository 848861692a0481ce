const PAGE_BYTES = 65_536;
const FIRST_PAGES = 16;

/** Memory comes in pages of 64 KiB. */
export const pagesFor = (bytes: number): number => Math.ceil(bytes / PAGE_BYTES);

export const bytesOfBase64 = (base64: string): Uint8Array<ArrayBuffer> => {
  const text = atob(base64);
  return Uint8Array.from({ length: text.length }, (_, i) => text.charCodeAt(i));
};

/**
 * Starts a WebAssembly module that was written by scripts/buildKernels.mjs, with memory of its own.
 * @param pages - of 64 KiB, to begin with; growing makes views of the memory void
 */
export function startKernels<T>(base64: string, pages = FIRST_PAGES): { readonly memory: WebAssembly.Memory; readonly kernels: T } {
  const memory = new WebAssembly.Memory({ initial: pages });
  return { memory, kernels: new WebAssembly.Instance(new WebAssembly.Module(bytesOfBase64(base64)), { env: { memory } }).exports as unknown as T };
}
