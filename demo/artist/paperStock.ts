import type { Sheet } from './sheet';

/** What the paper is before anyone writes on it. */
export type Stock = 'plain' | 'squared' | 'ruled';

/** Tones a student's paper comes in; recycled is the greyest. */
const TONES = ['#fbfaf6', '#f8f7f4', '#f5f1e6', '#eeece4'] as const;

export function layPaper(sheet: Sheet, stock: Stock): void {
  const { paper, widthMm, heightMm, random } = sheet;
  paper.fillStyle = random.pick(TONES);
  paper.fillRect(0, 0, widthMm, heightMm);
  if (stock === 'squared') ruleSquares(sheet);
  if (stock === 'ruled') ruleLines(sheet);
}

function ruleSquares({ paper, widthMm, heightMm, random }: Sheet): void {
  paper.strokeStyle = random.pick(['#b9cde4', '#c3cdd6', '#b8d3c9']);
  paper.lineWidth = 0.18;
  for (let x = 5; x < widthMm; x += 5) line(x, 0, x, heightMm);
  for (let y = 5; y < heightMm; y += 5) line(0, y, widthMm, y);
  function line(x0: number, y0: number, x1: number, y1: number): void {
    paper.beginPath();
    paper.moveTo(x0, y0);
    paper.lineTo(x1, y1);
    paper.stroke();
  }
}

function ruleLines({ paper, widthMm, heightMm, random }: Sheet): void {
  paper.strokeStyle = random.pick(['#a9bfdd', '#b5bcc6']);
  paper.lineWidth = 0.2;
  for (let y = 28; y < heightMm - 10; y += 8) {
    paper.beginPath();
    paper.moveTo(0, y);
    paper.lineTo(widthMm, y);
    paper.stroke();
  }
  paper.strokeStyle = '#d98a92';
  paper.beginPath();
  paper.moveTo(28, 0);
  paper.lineTo(28, heightMm);
  paper.stroke();
}
