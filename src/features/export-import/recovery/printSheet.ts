import { t } from '@lingui/core/macro';
/** Opens the browser's print dialog on plain text. */
export function printSheet(text: string): void {
  const frame = document.createElement('iframe');
  frame.style.cssText = 'position:fixed;right:0;bottom:0;width:1px;height:1px;border:0;opacity:0';
  frame.title = t`The sheet to be printed`;
  frame.setAttribute('aria-hidden', 'true');
  frame.tabIndex = -1;
  document.body.append(frame);
  const sheet = frame.contentDocument!.createElement('pre');
  sheet.style.cssText = 'font:16pt/1.6 monospace;margin:2cm';
  sheet.textContent = text;
  frame.contentDocument!.body.append(sheet);
  frame.contentWindow!.focus();
  frame.contentWindow!.print();
  setTimeout(() => frame.remove(), 60_000);
}
