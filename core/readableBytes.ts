/** A size as people say it, in steps of 1000: "412 KB", "1.3 MB", "5.4 GB". */
export function readableBytes(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} KB`;
  return bytes < 999_950_000
    ? `${(bytes / 1e6).toFixed(1).replace('.0', '')} MB`
    : `${(bytes / 1e9).toFixed(1).replace('.0', '')} GB`;
}
