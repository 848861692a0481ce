import { t } from '@lingui/core/macro';
import type { Advice } from '../../core/work/order/advise';

/**
 * What the order helper found, in a sentence.
 * @param number - gives a page's number in the file
 */
export function adviceWords(advice: Advice, number: (id: string) => number): string {
  switch (advice.kind) {
    case 'blank':
      return t`Page ${{ page: number(advice.id) }} is blank.`;
    case 'alike':
      return t`Pages ${{ page: number(advice.first) }} and ${{ page2: number(advice.second) }} look the same.`;
    case 'order':
      return t`The numbers on the pages ask for another order.`;
    case 'gap':
      return advice.of === 'page'
        ? t`After page number ${{ after: advice.after }} comes ${{ next: advice.next }}.`
        : t`After question ${{ after: advice.after }} comes ${{ next: advice.next }}.`;
    case 'repeat':
      return t`Page number ${{ number: advice.number }} is there twice.`;
  }
}
