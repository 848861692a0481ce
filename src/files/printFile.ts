import { t } from '@lingui/core/macro';
/** Opens the browser's print dialog on a PDF, or where it cannot show PDFs itself, the file in a tab of its own. */
export function printFile(file: Blob): void {
  const url = URL.createObjectURL(file);
  const frame = document.createElement('iframe');
  frame.style.cssText = 'position:fixed;right:0;bottom:0;width:1px;height:1px;border:0;opacity:0';
  frame.title = t`The file to be printed`;
  frame.setAttribute('aria-hidden', 'true');
  frame.tabIndex = -1;
  const elsewhere = (): void => void window.open(url, '_blank', 'noopener');
  frame.onload = () => {
    try {
      frame.contentWindow!.focus();
      frame.contentWindow!.print();
    } catch {
      elsewhere();
    }
  };
  frame.onerror = elsewhere;
  frame.src = url;
  document.body.append(frame);
  setTimeout(() => {
    frame.remove();
    URL.revokeObjectURL(url);
  }, 120_000);
}
