/**
 * Gives the memory of large arrays back at once where the browser can (ArrayBuffer.transfer); elsewhere the garbage collector
 * does. Whatever shares a buffer with one of them is void as well.
 */
export function releaseBuffers(...arrays: readonly ArrayBufferView[]): void {
  for (const { buffer } of arrays)
    if (buffer.byteLength > 0) (buffer as { transfer?: (length: number) => ArrayBuffer }).transfer?.(0);
}
