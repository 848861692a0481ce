const PAGE_BYTES = 65_536;
/** Where data may begin in the kernels' memory. */
export const FIRST_BYTE = 1024;

/** As many bytes as floats need, rounded so that what follows is well placed, with some to spare. */
export const roomFor = (values: number): number => 16 * (Math.ceil(values / 4) + 1);

export const bytesOfBase64 = (base64: string): Uint8Array<ArrayBuffer> => {
  const text = atob(base64);
  return Uint8Array.from({ length: text.length }, (_, i) => text.charCodeAt(i));
};

/**
 * Starts a WebAssembly module that was written by scripts/buildKernels.mjs.
 * @param memory - what its pointers point into
 */
export const startKernels = <T>(base64: string, memory: WebAssembly.Memory): T => new WebAssembly.Instance(new WebAssembly.Module(bytesOfBase64(base64)), { env: { memory } }).exports as unknown as T;

/** Makes sure of so many bytes; where the memory has to grow, views of it become void. */
export function growTo(memory: WebAssembly.Memory, bytes: number): void {
  // memory comes in pages of 64 KiB
  if (bytes > memory.buffer.byteLength) memory.grow(Math.ceil((bytes - memory.buffer.byteLength) / PAGE_BYTES));
}

let scratch: WebAssembly.Memory | null = null;

/**
 * Kernels that share one memory, from FIRST_BYTE on: what lies there is gone when the next of them is asked for.
 * @returns called with how many bytes are needed, the kernels and their memory
 */
export function scratchKernels<T>(base64: string): (bytes: number) => { readonly kernels: T; readonly buffer: ArrayBuffer } {
  let kernels: T | null = null;
  return (bytes) => {
    scratch ??= new WebAssembly.Memory({ initial: 16 });
    kernels ??= startKernels<T>(base64, scratch);
    growTo(scratch, bytes);
    return { kernels, buffer: scratch.buffer };
  };
}
