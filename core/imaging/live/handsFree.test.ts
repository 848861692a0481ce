import type { Quad } from '../geometry/quad';
import type { Coaching } from './coach';
import { coach } from './coach';
import type { FrameFacts } from './frameFacts';
import { afterShot, HANDS_FREE_START, handsFree, type HandsFreeState } from './handsFree';
import { NOT_STEADY, type SteadyState } from './steadyOutline';

const page = (n: number): Float32Array => Float32Array.from({ length: 256 }, (_, i) => (i % 16 === n ? 0.25 : 0));
const facts = (n: number, more: Partial<FrameFacts> = {}): FrameFacts => ({
  brightness: 220,
  sharpness: 0.4,
  glareAt: null,
  fingerprint: page(n),
  ...more,
});
const QUAD: Quad = [
  { x: 60, y: 60 },
  { x: 420, y: 60 },
  { x: 420, y: 580 },
  { x: 60, y: 580 },
];
const steady: SteadyState = { ...NOT_STEADY, shown: QUAD, confidence: 0.95, shownForMs: 900, atMs: 0 };
const hold = (
  state: HandsFreeState,
  coaching: Coaching,
  seen: FrameFacts,
  frames: number,
  outline = steady,
): { state: HandsFreeState; fired: number } => {
  let fired = 0;
  for (let i = 0; i < frames; i++) {
    state = handsFree(state, coaching, outline, seen, (Number.isFinite(state.atMs) ? state.atMs : 0) + 33);
    if (state.fire) fired++;
  }
  return { state, fired };
};

describe('the hands-free shutter', () => {
  it('fires once for a page that is held, shows itself coming, and waits for another page', () => {
    const coming = hold(HANDS_FREE_START, 'ready', facts(1), 12);
    expect(coming.fired).toBe(0);
    expect(coming.state.coming).toBeGreaterThan(0.3);
    const first = hold(coming.state, 'ready', facts(1), 200);
    expect(first.fired).toBe(1);
    const bare = hold(first.state, 'looking', facts(9), 40, { ...steady, shown: null });
    const back = hold(bare.state, 'ready', facts(1), 200);
    expect(bare.fired + back.fired).toBe(0);
    expect(hold(back.state, 'ready', facts(2), 60).fired).toBe(1);
  });

  it('takes a page much like the last one once that has been taken away, and not while it lies there', () => {
    const alike = facts(1, { fingerprint: page(1).map((v, i) => 0.8 * v + 0.6 * page(2)[i]!) });
    const first = hold(HANDS_FREE_START, 'ready', facts(1), 60).state;
    expect(hold(first, 'ready', alike, 200).fired).toBe(0);
    const gone = hold(first, 'looking', facts(9), 20, { ...steady, shown: null }).state;
    expect(hold(gone, 'ready', alike, 200).fired).toBe(1);
  });

  it.each(['looking', 'tooDark', 'sideOut', 'comeCloser', 'tiltFlat', 'glare', 'holdStill'] as const)(
    'never fires while coaching says “%s”',
    (coaching) => {
      expect(hold(HANDS_FREE_START, coaching, facts(1), 300).fired).toBe(0);
    },
  );

  it('does not fire on a page that is less sharp than it was', () => {
    const sharp = hold(HANDS_FREE_START, 'ready', facts(1), 5).state;
    expect(hold(sharp, 'ready', facts(2, { sharpness: 0.2 }), 30).fired).toBe(0);
  });

  it('does not take again what was just taken by hand', () => {
    expect(hold(afterShot(HANDS_FREE_START, facts(3)), 'ready', facts(3), 200).fired).toBe(0);
  });
});

describe('coaching', () => {
  const none = [false, false, false, false];
  const tell = (state: Partial<SteadyState>, seen = facts(1), out = none): Coaching =>
    coach({ ...steady, ...state }, out, seen, 480, 640);
  const cases: [string, Coaching, Coaching][] = [
    ['nothing found', tell({ shown: null }), 'looking'],
    ['a dark frame, whatever is found', tell({}, facts(1, { brightness: 40 })), 'tooDark'],
    ['a side on the border', tell({}, facts(1), [false, true, false, false]), 'sideOut'],
    ['a corner at the border', tell({ shown: [{ x: 1, y: 60 }, ...QUAD.slice(1)] as unknown as Quad }), 'sideOut'],
    [
      'a small page',
      tell({ shown: QUAD.map((p) => ({ x: 150 + p.x / 4, y: 150 + p.y / 4 })) as unknown as Quad }),
      'comeCloser',
    ],
    [
      'a far side much shorter than the near one',
      tell({ shown: [{ x: 140, y: 60 }, { x: 340, y: 60 }, QUAD[2], QUAD[3]] }),
      'tiltFlat',
    ],
    ['a reflection', tell({}, facts(1, { glareAt: { x: 200, y: 300 } })), 'glare'],
    ['a moving page', tell({ speed: 0.6 }), 'holdStill'],
    ['a page just come', tell({ shownForMs: 60 }), 'holdStill'],
    ['a page that lies well', tell({}), 'ready'],
  ];
  it.each(cases)('on %s says one thing', (_what, said, expected) => {
    expect(said).toBe(expected);
  });
});
