/** Gives the memory of a large picture back at once where the browser can (ArrayBuffer.transfer); elsewhere the garbage collector does. */
export function releaseBuffer(buffer: ArrayBuffer): void {
  (buffer as { transfer?: (length: number) => ArrayBuffer }).transfer?.(0);
}
