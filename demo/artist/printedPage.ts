import { setType, type Sheet } from './sheet';

const SENTENCES = [
  'The range of the tide is the difference in height between one high water and the low water that follows it.',
  'At springs the range is large, at neaps it is small, and between them it changes a little every day.',
  'A secondary port has no full tables of its own, so its times and heights are found from differences.',
  'Interpolate between the printed columns; do not simply take the nearer one.',
  'Write each step on a line of its own, and box the answer with its unit.',
  'The stream turns before high water inside the point and after it outside the skerries.',
  'A strong south-westerly wind holds the water up and may add three tenths of a metre.',
  'Low pressure raises the level by about one centimetre for each hectopascal below the mean.',
  'Count the plants within the frame, note the height above datum, and sketch what you cannot name.',
  'A rope has a standing part, a bight and a working end, and every plate must show all three.',
  'Shade with parallel strokes; a smudged tone cannot be read in the copy.',
  'Hand in one file for the whole set, with the pages upright and in order.',
];

/** A page of course notes: heading, justified-left paragraphs, a footer. */
export function drawPrintedText(sheet: Sheet): void {
  const { ink, random, widthMm, heightMm } = sheet;
  const margin = random.between(18, 26);
  const sizeMm = random.between(3.7, 4.5);
  setType(sheet, random.pick(['Tides and Tidal Streams', 'Seashore Botany', 'Ropework Drawing']), margin, 24, {
    sizeMm: 7,
    bold: true,
  });
  setType(sheet, 'Course notes for the autumn term', margin, 32, { sizeMm: 4.2 });
  let y = 44;
  while (y < heightMm - 32) {
    const words = Array.from({ length: random.whole(3, 5) }, () => random.pick(SENTENCES))
      .join(' ')
      .split(' ');
    let line = '';
    for (const word of [...words, '']) {
      const longer = line === '' ? word : `${line} ${word}`;
      ink.font = `${sizeMm}px "Source Serif 4"`;
      if (word === '' || ink.measureText(longer).width > widthMm - 2 * margin) {
        if (y > heightMm - 26) break;
        setType(sheet, line, margin, y, { sizeMm });
        y += sizeMm * 1.42;
        line = word;
      } else {
        line = longer;
      }
    }
    y += sizeMm * 0.8;
  }
  setType(sheet, `Skerry Point Evening College, page ${random.whole(1, 40)}`, margin, heightMm - 14, { sizeMm: 3.4 });
}
