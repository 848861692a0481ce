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
export const startKernels = <T>(base64: string, memory: WebAssembly.Memory): T =>
  new WebAssembly.Instance(new WebAssembly.Module(bytesOfBase64(base64)), { env: { memory } }).exports as unknown as T;

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
export function scratchKernels<T>(
  base64: string,
): (bytes: number) => { readonly kernels: T; readonly buffer: ArrayBuffer } {
  let kernels: T | null = null;
  return (bytes) => {
    scratch ??= new WebAssembly.Memory({ initial: 16 });
    kernels ??= startKernels<T>(base64, scratch);
    growTo(scratch, bytes);
    return { kernels, buffer: scratch.buffer };
  };
}

/** Kernels with a memory of their own, in which whatever is reserved stays until it is released. */
export interface KernelArena<T> {
  readonly kernels: T;
  /** Starts other kernels that work in the same memory. */
  readonly join: <U>(base64: string) => U;
  /** The memory as it is now: views of it become void when more is reserved. */
  readonly buffer: () => ArrayBuffer;
  /** @returns the place of so many bytes, in multiples of 16 with some to spare; what lies there is not cleared */
  readonly reserve: (bytes: number) => number;
  /** The place that would be reserved next. */
  readonly end: () => number;
  /** Gives back everything from a place on. */
  readonly releaseFrom: (at: number) => void;
}

/** Kernels may read a little past the end of what they are given. */
const TO_SPARE_BYTES = 64;

/**
 * @param firstPages - of 64 KiB; more are added where they do not suffice
 * @returns called, the arena, started at the first call
 */
export function arenaKernels<T>(base64: string, firstPages: number): () => KernelArena<T> {
  let arena: KernelArena<T> | null = null;
  const start = (): KernelArena<T> => {
    const memory = new WebAssembly.Memory({ initial: firstPages });
    let next = FIRST_BYTE;
    return {
      kernels: startKernels<T>(base64, memory),
      join: <U>(other: string) => startKernels<U>(other, memory),
      buffer: () => memory.buffer,
      reserve: (bytes) => {
        const at = next;
        next += Math.ceil((bytes + TO_SPARE_BYTES) / 16) * 16;
        growTo(memory, next);
        return at;
      },
      end: () => next,
      releaseFrom: (at) => {
        next = at;
      },
    };
  };
  return () => (arena ??= start());
}
