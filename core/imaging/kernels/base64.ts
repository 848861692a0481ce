/** The bytes that base64 stands for. */
export const bytesOfBase64 = (base64: string): Uint8Array<ArrayBuffer> => {
  const text = atob(base64);
  return Uint8Array.from({ length: text.length }, (_, i) => text.charCodeAt(i));
};
