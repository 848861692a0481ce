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

/** What depends on the theme. */
const COLOURS = { runOnly: { type: 'rule' as const, values: ['color-contrast', 'link-in-text-block'] } };
const LOOKED_AT = { everything: RULES, names: NAMES, colours: COLOURS };

/** What axe finds wrong on the screen, a line each: everything, or only with the names or the colours of things. */
export async function faults(page: Page, what: keyof typeof LOOKED_AT = 'everything'): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    // the app has no frames of another origin: one call in the page is enough
    .setLegacyMode()
    .options({ ...LOOKED_AT[what], resultTypes: ['violations'] })
    .analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 300)).join('\n')}`);
}
