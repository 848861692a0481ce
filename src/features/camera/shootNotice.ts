import { t } from '@lingui/core/macro';
import type { Page } from '../../../core/work/hand-in/handIn';
import type { ShotPlace } from './keepShot';

/** What the camera says about the pages, in a line, and what can be done about it. */
export interface ShootNotice {
  readonly text: string | null;
  readonly action: { readonly label: string; readonly onPress: () => void } | null;
}

interface NoticeOptions {
  /** Where the next shot goes. */
  readonly place: ShotPlace;
  /** The page that the last shot went to, and how, for as long as it can be dropped. */
  readonly lastKept: Page | undefined;
  readonly lastPlace: ShotPlace['to'] | undefined;
  /** A reflection is being filled. */
  readonly filling: boolean;
  readonly numberOf: (pageId: string) => number;
  readonly onLeave: () => void;
  readonly onDrop: () => void;
  readonly onToEnd: () => void;
  readonly onOpen: (page: Page) => void;
}

/** Says first what the next shot is for, then what became of the last, then where shots go. */
export function shootNotice(options: NoticeOptions): ShootNotice {
  const { place, lastKept, lastPlace, filling, numberOf, onLeave, onToEnd } = options;
  if (place.to === 'again' || place.to === 'fill') {
    const page = numberOf(place.page.id);
    if (filling) return { text: t`Filling the reflection on page ${page} …`, action: null };
    const text =
      place.to === 'again'
        ? t`Shooting page ${page} again`
        : t`Second photo of page ${page}: all of it, from further to the side`;
    return { text, action: { label: t`Leave it as it is`, onPress: onLeave } };
  }
  if (lastKept !== undefined) return noticeOfLast(lastKept, lastPlace, options);
  if (place.to === 'after')
    return {
      text: t`Adding behind page ${{ page: numberOf(place.pageId) }}`,
      action: { label: t`Add to the end`, onPress: onToEnd },
    };
  return { text: null, action: null };
}

function noticeOfLast(
  last: Page,
  went: ShotPlace['to'] | undefined,
  { numberOf, onDrop, onOpen }: NoticeOptions,
): ShootNotice {
  const page = numberOf(last.id);
  if (went === 'again') return { text: t`Page ${page} has its new photo`, action: null };
  if (went !== 'fill') return { text: t`Page ${page} kept`, action: { label: t`Drop it`, onPress: onDrop } };
  const shinesStill = last.findings?.includes('glare') ?? false;
  return {
    text: shinesStill
      ? t`The reflection on page ${page} is filled in part: a third photo may show the rest`
      : t`The reflection on page ${page} is filled`,
    action: { label: t`Look at it`, onPress: () => onOpen(last) },
  };
}
