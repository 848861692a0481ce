import type { Quad } from '../geometry/quad';
import type { LiveOutline } from './findLiveOutline';
import { NOT_STEADY, steadyOutline, type SteadyState } from './steadyOutline';

const at = (x: number, y: number, confidence = 0.95): LiveOutline => ({
  quad: [
    { x, y },
    { x: x + 300, y },
    { x: x + 300, y: y + 420 },
    { x, y: y + 420 },
  ] as Quad,
  outOfView: [false, false, false, false],
  confidence,
});
const FRAME_MS = 33;
const run = (found: readonly (LiveOutline | null)[], from: SteadyState = NOT_STEADY): SteadyState[] => {
  const states: SteadyState[] = [];
  found.reduce(
    (state, each, i) => (
      states.push(steadyOutline(state, each, 640, (Number.isFinite(from.atMs) ? from.atMs : 0) + (i + 1) * FRAME_MS)),
      states.at(-1)!
    ),
    from,
  );
  return states;
};

describe('the steadied outline', () => {
  it('is never shown while it is not believed, nor on one frame alone', () => {
    expect(run(Array.from({ length: 10 }, () => at(50, 50, 0.4))).every(({ shown }) => shown === null)).toBe(true);
    expect(run([at(50, 50), null, null])[0]!.shown).toBeNull();
    expect(run([at(50, 50), at(50, 50)])[1]!.shown).toEqual(at(50, 50).quad);
  });

  it('holds a trembling outline still', () => {
    const trembling = run(
      Array.from({ length: 60 }, (_, i) => at(50 + 2 * Math.sin(i * 2.1), 50 + 2 * Math.cos(i * 1.7))),
    );
    const xs = trembling.slice(20).map(({ shown }) => shown![0].x);
    expect(Math.max(...xs) - Math.min(...xs)).toBeLessThan(2);
    expect(trembling.at(-1)!.speed).toBeLessThan(0.25);
  });

  it('follows a moving page with at most two frames of lag', () => {
    const step = 6;
    const states = run(Array.from({ length: 40 }, (_, i) => at(50 + step * i, 50)));
    const lagFrames = (50 + step * 39 - states.at(-1)!.shown![0].x) / step;
    expect(lagFrames).toBeLessThan(2);
    expect(states.at(-1)!.speed).toBeGreaterThan(0.2);
  });

  it('is not thrown by corners that are named from another side', () => {
    const { quad } = at(50, 50);
    const turned: LiveOutline = { ...at(50, 50), quad: [quad[1], quad[2], quad[3], quad[0]] };
    expect(run([at(50, 50), at(50, 50), turned, turned])[3]!.shown).toEqual(quad);
  });

  it('stays over a short gap, goes after a longer one, and starts anew elsewhere', () => {
    const shown = run([at(50, 50), at(50, 50), at(50, 50)]).at(-1)!;
    const gap = run(
      Array.from({ length: 20 }, () => null),
      shown,
    );
    expect(gap[3]!.shown).not.toBeNull();
    expect(gap.at(-1)!.shown).toBeNull();
    const jumped = run([at(250, 50), at(250, 50)], shown);
    expect(jumped[0]!.shown).toBeNull();
    expect(jumped[1]!.shown).toEqual(at(250, 50).quad);
  });
});
