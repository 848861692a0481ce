/** How every field for words looks. */
export const FIELD = 'min-h-[48px] rounded border border-rule bg-sheet px-3 font-read text-read text-ink';
