/** A size as people say it, in steps of 1000: "412 KB", "1.3 MB". */
export function readableBytes(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} KB`;
  return `${(bytes / 1e6).toFixed(1).replace('.0', '')} MB`;
}
