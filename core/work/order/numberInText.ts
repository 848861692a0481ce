/** A line of text as an OCR engine read it. */
export interface ReadLine {
  readonly text: string;
  /** 0 to 100. */
  readonly confidence: number;
}

const LEAST_CONFIDENCE = 70;
const HIGHEST = 500;
/** “3”, “- 3 -”, “3/7”, “3 of 7”, “page 3”, “p. 3”, “Page 3 of 7”, alone on their line. */
const ALONE = /^[\W_]*(?:(?:page|pg|p|sheet|no)\W{0,2}\s*)?(\d{1,3})(?:\s*(?:\/|of)\s*\d{1,3})?[\W_]*$/i;
/** The same with its word, behind a running title. */
const NAMED = /\b(?:page|sheet)\s+(\d{1,3})(?:\s*(?:\/|of)\s*\d{1,3})?[\W_]*$/i;

/**
 * The page number in what was read at the head and the foot of a page; null where there is none, or two that differ.
 */
export function numberInText(lines: readonly ReadLine[]): number | null {
  const named: number[] = [];
  const alone: number[] = [];
  for (const { text, confidence } of lines) {
    if (confidence < LEAST_CONFIDENCE) continue;
    const found = NAMED.exec(text.trim());
    const bare = found ?? ALONE.exec(text.trim());
    const number = Number(bare?.[1]);
    if (bare === null || !(number >= 1 && number <= HIGHEST)) continue;
    (found !== null || /[a-z]/i.test(text) ? named : alone).push(number);
  }
  // a word beside the number outweighs bare ones, which may be a result or a year's end
  const numbers = new Set(named.length > 0 ? named : alone);
  return numbers.size === 1 ? [...numbers][0]! : null;
}

/** “Question 3”, “Q3.”, “Task 2 (b)”, “Exercise 4:” at the beginning of a line. */
const QUESTION = /^\W*(?:question|task|exercise|problem|q)\s*\.?\s*(\d{1,2})(?!\d)/i;

/** The first question, task, exercise or problem that is headed in what was read; null where none is. */
export function questionInText(lines: readonly ReadLine[]): number | null {
  const numbers = lines
    .flatMap(({ text, confidence }) =>
      confidence < LEAST_CONFIDENCE ? [] : [Number(QUESTION.exec(text.trim())?.[1] ?? 0)],
    )
    .filter((number) => number > 0);
  return numbers.length === 0 ? null : Math.min(...numbers);
}
