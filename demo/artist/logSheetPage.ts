import { HANDS, INKS, setType, writeByHand, type Sheet } from './sheet';

const SPECIES = [
  'Flat periwinkle',
  'Common limpet',
  'Acorn barnacle',
  'Dog whelk',
  'Channel wrack',
  'Spiral wrack',
  'Beadlet anemone',
  'Shore crab',
  'Edible winkle',
  'Sea lettuce',
  'Coral weed',
  'Mussel',
];

/** A printed survey form with a dark banner and a table, filled in by hand. */
export function drawLogSheet(sheet: Sheet): void {
  const { ink, random, widthMm, heightMm } = sheet;
  const font = random.pick(HANDS);
  const margin = 15;
  ink.fillStyle = '#2b3a4a';
  ink.fillRect(margin, 14, widthMm - 2 * margin, 15);
  setType(sheet, 'Skerry Point Evening College', margin + 4, 21, { sizeMm: 4.6, bold: true, colour: '#ffffff' });
  setType(sheet, 'Seashore Botany: shore log sheet', margin + 4, 26.4, { sizeMm: 3.8, colour: '#ffffff' });
  ['Name', 'Station', 'Date', 'Tide'].forEach((label, i) => {
    const y = 40 + Math.floor(i / 2) * 11;
    const x = margin + (i % 2) * ((widthMm - 2 * margin) / 2);
    setType(sheet, label, x, y, { sizeMm: 3.8 });
    ink.fillRect(x + 15, y + 0.8, (widthMm - 2 * margin) / 2 - 22, 0.25);
    writeByHand(
      sheet,
      ink,
      ['M. Tolvanen-Adeyemi', `Gannet ${random.whole(1, 9)}`, `${random.whole(1, 28)} October`, 'falling'][i]!,
      x + 17,
      y,
      {
        sizeMm: 5.4,
        font,
        colour: INKS.blue,
      },
    );
  });
  const columns = [0, 0.36, 0.52, 0.68, 1].map((t) => margin + t * (widthMm - 2 * margin));
  const top = 62;
  const rows = Math.min(SPECIES.length, Math.floor((heightMm - top - 50) / 12));
  const rowMm = 12;
  const bottom = top + 10 + rows * rowMm;
  ['Species', 'Low', 'Mid', 'Remarks'].forEach((head, i) =>
    setType(sheet, head, columns[i]! + 2, top + 6.5, { sizeMm: 4, bold: true }),
  );
  for (const x of columns) ink.fillRect(x - 0.15, top, 0.3, bottom - top);
  for (let r = 0; r <= rows; r++) ink.fillRect(margin, top + 10 + r * rowMm - 0.12, widthMm - 2 * margin, 0.25);
  ink.fillRect(margin, top - 0.2, widthMm - 2 * margin, 0.4);
  for (let r = 0; r < rows; r++) {
    const y = top + 10 + r * rowMm + 8;
    setType(sheet, SPECIES[r]!, columns[0]! + 2, y - 0.6, { sizeMm: 4 });
    for (const column of [1, 2]) {
      writeByHand(sheet, ink, String(random.whole(0, 64)), columns[column]! + 6, y, {
        sizeMm: 6,
        font,
        colour: INKS.blue,
      });
    }
    if (random.chance(0.5)) {
      writeByHand(
        sheet,
        ink,
        random.pick(['in crevices', 'under weed', 'few, small', 'most on north face', 'none alive']),
        columns[3]! + 3,
        y,
        {
          sizeMm: 5.4,
          font,
          colour: INKS.blue,
        },
      );
    }
  }
  setType(sheet, 'Count every individual inside the frame. Hand in by the end of the week.', margin, bottom + 10, {
    sizeMm: 3.6,
  });
  setType(sheet, `Sheet ${random.whole(1, 6)} of 6`, widthMm - margin - 22, heightMm - 14, { sizeMm: 3.6 });
}
