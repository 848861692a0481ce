import { t } from '@lingui/core/macro';
/** The recovery words as plain text, to be printed or kept. @param origin - of the server that they open */
export const recoverySheet = (words: readonly string[], origin: string): string =>
  [
    t`Fotoplan recovery code`,
    '',
    ...words.map((word, i) => `${String(i + 1).padStart(2)}. ${word}`),
    '',
    t`Open ${origin}/recover on the new device and type the words in this order.`,
    t`Whoever has these words can open your work.`,
    '',
  ].join('\n');
