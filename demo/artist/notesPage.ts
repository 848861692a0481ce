import { HANDS, INKS, writeByHand, type Sheet } from './sheet';

const NOTES = [
  'Neaps about two days after the quarter moons.',
  'Barnacle zone ends at 3.1 m, sharp line.',
  'Bight: any slack part between the ends.',
  'Wrack dries black but is alive underneath.',
  'Stream rate at half tide is the greatest.',
  'Ask about the second low water at Skerry.',
  'Remember: datum is not mean sea level!',
  'Limpets go home to the same scar.',
  'Sheet bend for two ropes of unequal size.',
  'Samphire tastes of carrots, pick little.',
];

/** Lecture notes by hand on ruled paper. */
export function drawNotes(sheet: Sheet): void {
  const { ink, random, heightMm } = sheet;
  const font = random.pick(HANDS);
  const pen = random.pick([INKS.blue, INKS.black]);
  writeByHand(sheet, ink, `Notes, week ${random.whole(1, 10)}`, 34, 21, { sizeMm: 7.6, font, colour: pen });
  const last = Math.floor((heightMm - 40 - random.between(0, 60)) / 8);
  for (let i = 0; i < last; i++) {
    if (random.chance(0.18)) continue;
    writeByHand(sheet, ink, random.pick(NOTES), 32 + (random.chance(0.2) ? 10 : 0), 35.2 + i * 8, {
      sizeMm: 6.4,
      font,
      colour: pen,
    });
  }
}
