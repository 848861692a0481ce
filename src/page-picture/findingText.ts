import type { MessageDescriptor } from '@lingui/core';
import { msg } from '@lingui/core/macro';
import type { ShotFinding } from '../../core/imaging/quality/shotFindings';

/** What the check of a photo found, in a word or two. */
export const FINDING_WORDS: Readonly<Record<ShotFinding, MessageDescriptor>> = {
  incomplete: msg`part missing`,
  blurred: msg`blurred`,
  cut: msg`edge cut off`,
  glare: msg`reflection`,
  thumb: msg`finger in it`,
  lowDetail: msg`low detail`,
  dark: msg`too dark`,
};
