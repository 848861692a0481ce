import type { Paper } from '../../core/pdf/paperSize';

export const PAPER_NAMES: Readonly<Record<Paper, string>> = {
  auto: 'Nearest sheet',
  a4: 'A4',
  letter: 'Letter',
  a5: 'A5',
  asshot: 'As the page is',
};
