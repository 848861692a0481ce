import { act, render, screen } from '@testing-library/react';
import { Profiler, useState } from 'react';
import type { Page } from '../../../core/work/hand-in/handIn';
import { ShotStrip } from './ShotStrip';

let mockPictures = 0;
jest.mock('../../page-picture/PageImage', () => ({
  PageImage: () => {
    mockPictures++;
    return null;
  },
}));

const SHOTS = 50;
const MOST_RENDERS_A_SHOT = 3;
const nothing = (): void => undefined;
const shot = (i: number): Page => ({ id: `page ${i}`, findings: [] }) as unknown as Page;

it('draws the strip anew for a shot and not for a camera frame, and of the shots only the new one', () => {
  let renders = 0;
  let keep: (page: Page) => void = nothing;
  let frame: () => void = nothing;
  function Camera() {
    const [pages, setPages] = useState<readonly Page[]>([]);
    const [, setFrame] = useState(0);
    keep = (page) => setPages((before) => [...before, page]);
    frame = () => setFrame((before) => before + 1);
    return (
      <Profiler id="strip" onRender={() => renders++}>
        <ShotStrip wide={false} pages={pages} againId={null} onOpen={nothing} onAgain={nothing} onFill={nothing} />
      </Profiler>
    );
  }
  render(<Camera />);
  renders = 0;
  for (let i = 0; i < SHOTS; i++) act(() => keep(shot(i)));
  const drawn = mockPictures;
  const rendered = renders;
  for (let i = 0; i < SHOTS; i++) act(() => frame());
  expect(mockPictures).toBe(drawn);
  expect(rendered / SHOTS).toBeLessThanOrEqual(MOST_RENDERS_A_SHOT);
  expect(mockPictures).toBeLessThanOrEqual(SHOTS * MOST_RENDERS_A_SHOT);
  expect(screen.getAllByRole('listitem').length).toBeGreaterThan(5);
});
