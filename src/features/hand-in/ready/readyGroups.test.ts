import type { ReadyLine } from '../../../../core/work/ready/readyCheck';
import { groupsOf, repeatedDoubts } from './readyGroups';

const blurred = (page: number): ReadyLine => ({
  key: `blurred ${page}`,
  level: 'doubt',
  point: { code: 'finding', finding: 'blurred', number: page },
  fix: { to: 'again', pageId: `page-${page}` },
});
const edges = (page: number): ReadyLine => ({
  key: `edges ${page}`,
  level: 'doubt',
  point: { code: 'edgesUnsure', number: page },
  fix: { to: 'page', pageId: `page-${page}` },
});
const unbound: ReadyLine = { key: 'bind', level: 'stop', point: { code: 'notBound' }, fix: { to: 'bind' } };
const late: ReadyLine = { key: 'late', level: 'doubt', point: { code: 'late' }, fix: { to: 'place' } };

describe('what is still to do', () => {
  it('stands together by page, in the order of its worst line; what is about no page stands alone', () => {
    const groups = groupsOf([unbound, blurred(2), edges(1), edges(2), late]);
    expect(groups.map(({ pageId, lines }) => [pageId, lines.map(({ key }) => key)])).toEqual([
      [null, ['bind']],
      ['page-2', ['blurred 2', 'edges 2']],
      ['page-1', ['edges 1']],
      [null, ['late']],
    ]);
  });

  it('can be settled for all of a kind where it stands on several pages', () => {
    expect(repeatedDoubts([unbound, blurred(2), edges(1), blurred(3), late])).toEqual([
      { kind: 'blurred', keys: ['blurred 2', 'blurred 3'] },
    ]);
  });
});
