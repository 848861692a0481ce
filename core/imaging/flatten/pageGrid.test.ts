import { homographyBetween, applyHomography } from '../geometry/homography';
import { distance } from '../geometry/point';
import { wholePicture, type Quad } from '../geometry/quad';
import { readShape } from './flattenPage';
import { pageGrid } from './pageGrid';

it('lays near squares over a page, from edge to edge, as its photo shows it', () => {
  const corners: Quad = [
    { x: 200, y: 150 },
    { x: 1000, y: 200 },
    { x: 1050, y: 1350 },
    { x: 120, y: 1300 },
  ];
  const lines = pageGrid(readShape(corners, { width: 1200, height: 1600 }, { paper: 'a' }));
  // twelve squares across and seventeen down an A4 page, and the lines at both ends
  expect(lines).toHaveLength(13 + 18);
  const [left, top] = [lines[0]!, lines[13]!];
  expect(distance(left[0]!, corners[0])).toBeLessThan(1e-6);
  expect(distance(left.at(-1)!, corners[3])).toBeLessThan(1e-6);
  expect(distance(top.at(-1)!, corners[1])).toBeLessThan(1e-6);
  const middle = applyHomography(homographyBetween(wholePicture(1, 1), corners), { x: 0.5, y: 0.5 });
  expect(distance(lines[6]![16]!, middle)).toBeLessThan(1e-6);
});
