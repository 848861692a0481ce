import type { ReadyLine, ReadyPoint } from '../../../../core/work/ready/readyCheck';

/** What is open on one page, or one thing that is about no page. */
export interface ReadyGroup {
  readonly pageId: string | null;
  readonly lines: readonly ReadyLine[];
}

const pageOf = ({ fix }: ReadyLine): string | null => (fix !== null && 'pageId' in fix ? fix.pageId : null);

/** Open lines by page, the one with the worst line first; what is about no page stands for itself. */
export function groupsOf(open: readonly ReadyLine[]): readonly ReadyGroup[] {
  const groups: { readonly pageId: string | null; readonly lines: ReadyLine[] }[] = [];
  for (const line of open) {
    const pageId = pageOf(line);
    const group = pageId === null ? undefined : groups.find((each) => each.pageId === pageId);
    if (group === undefined) groups.push({ pageId, lines: [line] });
    else group.lines.push(line);
  }
  return groups;
}

/** What a doubt about a page is about, for all pages alike. */
export type DoubtKind = 'edgesUnsure' | 'turnUnsure' | 'blank' | Extract<ReadyPoint, { code: 'finding' }>['finding'];

function kindOf({ level, point }: ReadyLine): DoubtKind | null {
  if (level !== 'doubt') return null;
  if (point.code === 'finding') return point.finding;
  return point.code === 'edgesUnsure' || point.code === 'turnUnsure' || point.code === 'blank' ? point.code : null;
}

/** The doubts that stand on several pages, with the keys of all of them. */
export function repeatedDoubts(
  open: readonly ReadyLine[],
): readonly { readonly kind: DoubtKind; readonly keys: readonly string[] }[] {
  const byKind = new Map<DoubtKind, string[]>();
  for (const line of open) {
    const kind = kindOf(line);
    if (kind !== null) byKind.set(kind, [...(byKind.get(kind) ?? []), line.key]);
  }
  return [...byKind].filter(([, keys]) => keys.length > 1).map(([kind, keys]) => ({ kind, keys }));
}
