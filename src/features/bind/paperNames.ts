import type { MessageDescriptor } from '@lingui/core';
import { msg } from '@lingui/core/macro';
import type { Paper } from '../../../core/work/paper/paperSize';

export const PAPER_NAMES: Readonly<Record<Paper, MessageDescriptor>> = {
  auto: msg`Nearest sheet`,
  a4: msg`A4`,
  letter: msg`Letter`,
  a5: msg`A5`,
  asshot: msg`As the page is`,
};
