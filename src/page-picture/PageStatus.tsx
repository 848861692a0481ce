import type { Page } from '../../core/work/hand-in/handIn';
import { StatusMessage } from '../ui/StatusMessage';
import { pageConcern } from './pageConcern';

/** The one thing about a page that wants a look, if any. */
export function PageStatus({ page }: { readonly page: Page }) {
  const concern = pageConcern(page);
  return concern === null ? null : <StatusMessage status="warning">{concern}</StatusMessage>;
}
