/** What a named thing of a page is, as assistive technology has it. */
export type Role = 'button' | 'link' | 'slider';

/** A browser of any engine with one page open, as far as the journey needs it. */
export interface EngineBrowser {
  open(address: string): Promise<void>;
  reload(): Promise<void>;
  /** Runs in the page; what it gives must be JSON, or a promise of it. */
  run<T>(script: string): Promise<T>;
  /** Clicks, as a mouse does, on the first thing shown whose name matches. @returns whether there was one */
  click(role: Role, name: RegExp): Promise<boolean>;
  /** Presses the right arrow where the focus is. */
  pressRight(): Promise<void>;
  close(): Promise<void>;
}

/** A script that finds the first thing shown whose accessible name matches, or null. */
export const finding = (role: Role, name: RegExp): string => `(() => {
  const places = { button: 'button, [role=button]', link: 'a, [role=link]', slider: '[role=slider]' }['${role}'];
  const of = (element) => element?.getAttribute('aria-label') ??
    (element?.querySelector('[aria-label]')?.getAttribute('aria-label') ?? '') + (element?.textContent ?? '');
  const nameOf = (element) => element.getAttribute('aria-labelledby')?.split(' ').map((id) => of(document.getElementById(id))).join(' ') ?? of(element);
  const found = Array.from(document.querySelectorAll(places)).find((element) =>
    ${name}.test(nameOf(element)) && element.getAttribute('aria-disabled') !== 'true' && element.getBoundingClientRect().width > 0);
  found?.scrollIntoView({ block: 'center' });
  return found ?? null;
})()`;
