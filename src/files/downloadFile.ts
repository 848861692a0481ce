/** Hands a file to the browser's own download. */
export function downloadFile(blob: Blob, name: string): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // the browser reads the address after this function has returned
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
