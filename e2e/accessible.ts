import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** WCAG 2.2 A and AA; that the spoken name begins with the label is not among the rules that are on by themselves. */
const RULES = {
  runOnly: { type: 'tag' as const, values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] },
  rules: { 'label-content-name-mismatch': { enabled: true } },
};

/** What depends on the language of the screen: the names of things. */
const NAMES = {
  runOnly: {
    type: 'rule' as const,
    values: [
      'label-content-name-mismatch',
      'button-name',
      'link-name',
      'label',
      'image-alt',
      'svg-img-alt',
      'valid-lang',
    ],
  },
};

/** What axe finds wrong on the screen, a line each: everything, or only with the names of things. */
export async function faults(page: Page, what: 'everything' | 'names' = 'everything'): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    // the app has no frames of another origin: one call in the page is enough
    .setLegacyMode()
    .options({ ...(what === 'everything' ? RULES : NAMES), resultTypes: ['violations'] })
    .analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 300)).join('\n')}`);
}
