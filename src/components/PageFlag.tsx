import type { Page } from '../../core/handIn/handIn';
import { Flag } from './Flag';
import { pageConcern } from './pageConcern';

/** The one thing about a page that wants a look, if any. */
export function PageFlag({ page }: { readonly page: Page }) {
  const concern = pageConcern(page);
  return concern === null ? null : <Flag kind="look">{concern}</Flag>;
}
