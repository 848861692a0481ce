import { createRandom } from '../../../demo/random';
import { withWorkspace } from '../kernels/workspace';

/* The kernels of cheaper masks and of pale rules, held against plain loops. Widths leave something over from whole groups. */

const random = createRandom(11);
const bytes = (count: number, pick: () => number): Uint8Array<ArrayBuffer> =>
  Uint8Array.from({ length: count }, () => Math.floor(pick()));

describe('contexts of a mask', () => {
  const [width, height] = [37, 23];
  const count = width * height;
  const ROOM = 3 * width + 16;
  // strokes with grain, and a stretch of paper that is passed over at once
  const samples = bytes(count, () => 0).map((_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    if (y > 12 && y < 17) return 0;
    return Number((x + y) % 9 < 4 !== random.next() < 0.1);
  });
  const at = (of: Uint8Array, i: number): number => (i < 0 || i >= count ? 0 : of[i]!);
  /** By T.88, figure 3, with its adaptive pixels where they are at first; rows lie right behind each other. */
  const contextOf = (of: Uint8Array, i: number): number => {
    let context = 0;
    for (let dx = -2; dx <= 2; dx++) context = 2 * context + at(of, i - 2 * width + dx);
    for (let dx = -3; dx <= 3; dx++) context = 2 * context + at(of, i - width + dx);
    for (let dx = -4; dx < 0; dx++) context = 2 * context + at(of, i + dx);
    return context;
  };
  const contextsOf = (of: Uint8Array): number[] => Array.from({ length: count }, (_, i) => contextOf(of, i));

  it('findContexts gives each sample its own, and counts the symbols in them', () => {
    const [contexts, counts] = withWorkspace((ws) => {
      const room = ws.u8(count + 2 * ROOM);
      room.fill(0);
      room.set(samples, ROOM);
      const found = ws.i32((count + 1) >> 1);
      const counted = ws.i32(2 << 16);
      found.fill(0);
      counted.fill(0);
      ws.kernels.findContexts(room.addressOf(ROOM), width, count, found.at, counted.at);
      return [new Uint16Array(found.copy().buffer).slice(0, count), counted.copy()];
    });
    expect([...contexts]).toEqual(contextsOf(samples));
    const expected = new Int32Array(2 << 16);
    samples.forEach((symbol, i) => expected[2 * contextOf(samples, i) + symbol]!++);
    expect(counts).toEqual(expected);
  });

  it('findEdges finds what differs from a neighbour, in order', () => {
    const found = withWorkspace((ws) => {
      const room = ws.u8(count + 2 * ROOM);
      room.fill(0);
      room.set(samples, ROOM);
      const edges = ws.i32(count);
      return edges.copy(0, ws.kernels.findEdges(room.addressOf(ROOM), width, count, edges.at));
    });
    const expected = [...samples.keys()].filter((i) =>
      [i - 1, i + 1, i - width, i + width].some((other) => at(samples, other) !== samples[i]),
    );
    expect([...found]).toEqual(expected);
  });

  it('turnSamples turns over what is cheaper so, one after another, and its contexts follow', () => {
    const costs = Float32Array.from({ length: 2 << 16 }, () => 8 * random.next());
    const chosen = [...samples.keys()].filter((i) => i < count - 3 * width && i % width > 4 && i % 3 !== 0);
    const differences = Float32Array.from(chosen, () => 60 * (random.next() - 0.4));
    const worth = 2;
    const [turned, contexts] = withWorkspace((ws) => {
      const room = ws.u8(count + 2 * ROOM);
      room.fill(0);
      room.set(samples, ROOM);
      const found = ws.i32((count + 1) >> 1);
      const counted = ws.i32(2 << 16);
      found.fill(0);
      ws.kernels.findContexts(room.addressOf(ROOM), width, count, found.at, counted.at);
      ws.kernels.turnSamples(
        room.addressOf(ROOM),
        width,
        found.at,
        ws.of(costs).at,
        ws.of(Int32Array.from(chosen)).at,
        ws.of(differences).at,
        chosen.length,
        worth,
      );
      return [room.copy(ROOM, ROOM + count), new Uint16Array(found.copy().buffer).slice(0, count)];
    });
    const bitsOf = (of: Uint8Array): number =>
      of.reduce((sum, symbol, i) => sum + costs[2 * contextOf(of, i) + symbol]!, 0);
    const plain = samples.slice();
    let bits = bitsOf(plain);
    chosen.forEach((i, k) => {
      plain[i]! ^= 1;
      const other = bitsOf(plain);
      if (worth * (other - bits) + differences[k]! < 0) bits = other;
      else plain[i]! ^= 1;
    });
    expect(plain).not.toEqual(samples);
    expect([...turned]).toEqual([...plain]);
    expect([...contexts]).toEqual(contextsOf(plain));
  });
});

describe('rules of a page', () => {
  const [width, height] = [43, 31];
  const count = width * height;
  const depth = bytes(count, () => 70 * random.next());
  const full = bytes(count, () => 20 + 100 * random.next());
  const [reach, below, fewest, least, parts] = [6, 90, 4, 34, 3];

  it('countTinted counts what is tinted and near no stroke', () => {
    const found = withWorkspace((ws) => ws.kernels.countTinted(ws.of(depth).at, ws.of(full).at, count, 30, below));
    expect(found).toBe([...depth.keys()].filter((i) => depth[i]! >= 30 && full[i]! < below).length);
  });

  const meanOf = (stretch: readonly number[]): number => {
    const counted = stretch.filter((i) => full[i]! < below);
    if (counted.length < fewest || 2 * counted.filter((i) => depth[i]! >= least).length < counted.length) return 0;
    return Math.min(255, Math.floor((parts * counted.reduce((sum, i) => sum + depth[i]!, 0)) / counted.length));
  };
  const stretch = (length: number): number[] => Array.from({ length: 2 * reach + 1 }, (_, k) => length - reach + k);

  it('meansAcross and meansDown give the means of stretches', () => {
    const [across, down] = withWorkspace((ws) => {
      const [depths, fulls, one, other] = [ws.of(depth), ws.of(full), ws.u8(count), ws.u8(count)];
      const asked = [width, height, reach, below, fewest, least, parts] as const;
      ws.kernels.meansAcross(depths.at, fulls.at, ...asked, one.at);
      const columns = (width + 9) >> 1;
      const sums = ws.i32(3 * columns);
      sums.fill(0);
      ws.kernels.meansDown(depths.at, fulls.at, ...asked, sums.at, 4 * columns, other.at);
      return [one.copy(), other.copy()];
    });
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const row = stretch(x).filter((u) => u >= 0 && u < width);
        const column = stretch(y).filter((v) => v >= 0 && v < height);
        expect(across[y * width + x]).toBe(meanOf(row.map((u) => y * width + u)));
        expect(down[y * width + x]).toBe(meanOf(column.map((v) => v * width + x)));
      }
  });

  it.each([1, width])('markRidges marks what stands above both of its sides, %d apart', (step) => {
    const aside = 5;
    const [from, length] = [aside * width, count - 2 * aside * width];
    const found = withWorkspace((ws) => {
      const is = ws.u8(count);
      is.fill(0);
      ws.kernels.markRidges(ws.of(depth).addressOf(from), length, step, aside, 18, is.addressOf(from));
      return is.copy();
    });
    for (let i = from; i < from + length; i++) {
      const paper = Math.max(depth[i - aside * step]!, depth[i + aside * step]!);
      const middle = Math.max(...[-2, -1, 0, 1, 2].map((k) => depth[i + k * step]!)) - paper;
      const own = Math.max(0, depth[i]! - paper);
      expect(found[i]).toBe(Number(middle >= 18 && 2 * own >= middle));
    }
  });

  it('largerOf and standOut look at each sample', () => {
    const palest = bytes(count, () => 56 * random.next());
    const [larger, standing] = withWorkspace((ws) => {
      const [one, out] = [ws.of(depth), ws.u8(count)];
      ws.kernels.standOut(one.at, ws.of(palest).at, count, 40, 14, out.at);
      ws.kernels.largerOf(one.at, ws.of(full).at, count);
      return [one.copy(), out.copy()];
    });
    depth.forEach((own, i) => {
      expect(larger[i]).toBe(Math.max(own, full[i]!));
      expect(standing[i]).toBe(own >= 40 || own - palest[i]! >= 14 ? own : 0);
    });
  });
});
