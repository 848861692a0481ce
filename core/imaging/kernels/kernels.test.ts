import fc from 'fast-check';
import { createRandom } from '../../../demo/random';
import { lumaOf } from '../raster/lightness';
import { withWorkspace } from './workspace';

/*
 * Kernels that no test of a room holds against a plain loop. Widths are such that each of their branches runs: whole groups
 * of samples, and what is left over.
 */

const random = createRandom(7);
const floats = (count: number, from = 0, to = 1): Float32Array<ArrayBuffer> =>
  Float32Array.from({ length: count }, () => from + (to - from) * random.next());
const bytes = (count: number, pick: () => number = () => 256 * random.next()): Uint8ClampedArray<ArrayBuffer> =>
  Uint8ClampedArray.from({ length: count }, () => Math.floor(pick()));
const near = (found: ArrayLike<number>, expected: readonly number[], digits = 4): void => {
  expect(found).toHaveLength(expected.length);
  expected.forEach((value, i) => expect(found[i]!).toBeCloseTo(value, digits));
};

describe('coverage', () => {
  const linear = Float32Array.from({ length: 256 }, (_, level) => (level / 255) ** 2.2);

  it.each([1, 3, 4])('depthOf tells what pixels of %d channels miss from white', (channels) => {
    const count = 37;
    const pixels = bytes(count * channels, () => (random.next() < 0.3 ? 255 : 256 * random.next()));
    const found = withWorkspace((ws) => {
      const depth = ws.u8(count);
      ws.kernels.depthOf(ws.of(pixels).at, count, channels, ws.of(linear).at, depth.at);
      return depth.copy();
    });
    found.forEach((depth, i) => {
      const [r, g, b] = [0, 1, 2].map((c) => linear[pixels[i * channels + (channels === 1 ? 0 : c)]!]!);
      const light = channels === 1 ? r! : lumaOf(r!, g!, b!);
      expect(Math.abs(depth - 255 * (1 - light))).toBeLessThanOrEqual(0.51);
    });
  });

  it('inkShares gives each channel’s part in an ink, and next to grey none', () => {
    const planes = [floats(18, -5, 200), floats(18, -5, 200), floats(18, -5, 200)] as const;
    const [neutralTo, colouredFrom, deepest] = [0.04, 0.16, 0.98];
    const found = withWorkspace((ws) => {
      const [r, g, b] = planes.map((plane) => ws.of(plane));
      const most = ws.f32(18);
      ws.kernels.inkShares(r!.at, g!.at, b!.at, most.at, 18, neutralTo, colouredFrom, deepest);
      return [r!, g!, b!, most].map((slot) => slot.copy());
    });
    for (let i = 0; i < 18; i++) {
      const seen = planes.map((plane) => Math.max(0, plane[i]!));
      const lightness = lumaOf(seen[0]!, seen[1]!, seen[2]!);
      const off = seen.map((value) => (value - lightness) / Math.max(1, lightness));
      const colour = Math.max(...off.map(Math.abs));
      const gain = Math.min(1, Math.max(0, (colour - neutralTo) / (colouredFrom - neutralTo)));
      const shares = off.map((value) => 1 + gain * value);
      near(
        [0, 1, 2, 3].map((c) => found[c]![i]!),
        [...shares, deepest / Math.max(...shares)],
        3,
      );
    }
  });

  it.each([1, 3])('restoreRow gives pixels of %d channels their coverage back', (channels) => {
    const [width, shift, steps, sharpened] = [21, 2, 1020, 1.5];
    const cells = (width >> shift) + 1;
    const pixels = bytes(width * channels);
    const depth = bytes(width, () => (random.next() < 0.3 ? 0 : 256 * random.next()));
    const smooth = bytes(width);
    const firmed = Float32Array.from({ length: 1025 }, (_, i) => 0.98 * (1 - (1 - i / 1024) ** 2));
    const coded = Uint8ClampedArray.from({ length: steps + 1 }, (_, i) => 255 * (i / steps) ** (1 / 2.2));
    const inks = [floats(cells, 0.7, 1.2), floats(cells, 0.7, 1.2), floats(cells, 0.7, 1.2), floats(cells, 0.5, 1)];
    const found = withWorkspace((ws) => {
      const out = ws.of(pixels);
      const [r, g, b, most] = inks.map((plane) => ws.of(plane).at);
      const [d, s, f, c] = [ws.of(depth).at, ws.of(smooth).at, ws.of(firmed).at, ws.of(coded).at];
      ws.kernels.restoreRow(out.at, d, s, width, channels, sharpened, f, c, steps, r!, g!, b!, most!, shift);
      return out.copy();
    });
    found.forEach((level, k) => {
      const x = Math.floor(k / channels);
      if (depth[x] === 0) return expect(level).toBe(pixels[k]);
      const sharp = Math.min(255, Math.max(0, depth[x]! + sharpened * (depth[x]! - smooth[x]!)));
      const cover = firmed[Math.floor(Math.fround(sharp) * Math.fround(4.0157))]!;
      const cell = x >> shift;
      const light = channels === 1 ? 1 - cover : 1 - Math.min(cover, inks[3]![cell]!) * inks[k % 3]![cell]!;
      expect(Math.abs(level - coded[Math.floor(Math.min(1, Math.max(0, light)) * steps)]!)).toBeLessThanOrEqual(2);
    });
  });
});

describe('motion blur', () => {
  it('convolveTaps adds weighted neighbours, and mirrored backwards', () => {
    const [count, rim] = [40, 12];
    const plane = floats(count + 2 * rim);
    const taps = [
      { offset: 0, weight: 0.5 },
      { offset: 3, weight: 0.3 },
      { offset: -7, weight: 0.2 },
    ];
    for (const backwards of [false, true]) {
      const found = withWorkspace((ws) => {
        const numbers = new DataView(new ArrayBuffer(8 * taps.length));
        taps.forEach(({ offset, weight }, t) => {
          numbers.setInt32(8 * t, offset, true);
          numbers.setFloat32(8 * t + 4, weight, true);
        });
        const tapsAt = ws.of(new Float32Array(numbers.buffer)).at;
        const out = ws.f32(count);
        ws.kernels.convolveTaps(ws.of(plane).addressOf(rim), out.at, 0, count, tapsAt, taps.length, backwards);
        return out.copy();
      });
      near(
        found,
        Array.from({ length: count }, (_, i) =>
          taps.reduce((sum, { offset, weight }) => sum + weight * plane[rim + i + (backwards ? -offset : offset)]!, 0),
        ),
      );
    }
  });

  it('ratioTo and multiplyBy are one step of Richardson and Lucy', () => {
    const [seen, expected, sharp, correction] = [floats(24), floats(24), floats(24), floats(24, 0, 3)];
    const [ratios, corrected] = withWorkspace((ws) => {
      const ratio = ws.of(expected);
      ws.kernels.ratioTo(ws.of(seen).at, ratio.at, 24);
      const out = ws.of(sharp);
      ws.kernels.multiplyBy(out.at, ws.of(correction).at, 24, 1.01);
      return [ratio.copy(), out.copy()];
    });
    near(
      ratios,
      Array.from(seen, (value, i) => value / Math.max(1e-4, expected[i]!)),
      2,
    );
    near(
      corrected,
      Array.from(sharp, (value, i) => Math.min(1.01, value * correction[i]!)),
    );
  });
});

describe('finished pages', () => {
  it('binomialRow weighs 3 × 3 pixels by 1, 2, 1 either way', () => {
    const width = 27;
    const rows = [bytes(width + 2), bytes(width + 2), bytes(width + 2)];
    const found = withWorkspace((ws) => {
      const [above, here, below] = rows.map((row) => ws.of(row).addressOf(1));
      const out = ws.u8(width);
      ws.kernels.binomialRow(above!, here!, below!, width, out.at);
      return out.copy();
    });
    near(
      found,
      Array.from({ length: width }, (_, x) =>
        Math.floor(
          ([1, 2, 1].reduce(
            (all, down, j) => all + down * [1, 2, 1].reduce((sum, along, i) => sum + along * rows[j]![x + i]!, 0),
            0,
          ) +
            8) /
            16,
        ),
      ),
      0,
    );
  });

  it.each([1, 3, 4])('sumBlocks adds up what is not covered, in blocks of four columns, %d channels', (channels) => {
    const [width, rows] = [18, 4];
    // whole white blocks are added up at once
    const pixels = bytes(width * rows * channels, () => (random.next() < 0.7 ? 255 : 256 * random.next()));
    pixels.fill(255, 0, 8 * channels);
    const covered = bytes(width * rows, () => (random.next() < 0.2 ? 1 : 0));
    covered.fill(0, 0, 8);
    const blocks = Math.ceil(width / 4);
    const found = withWorkspace((ws) => {
      const out = ws.i32(4 * blocks);
      ws.kernels.sumBlocks(ws.of(pixels).at, ws.of(covered).at, width, rows, channels, out.at);
      return out.copy();
    });
    for (let block = 0; block < blocks; block++) {
      const sums = [0, 0, 0, 0];
      for (let y = 0; y < rows; y++)
        for (let x = 4 * block; x < Math.min(width, 4 * block + 4); x++) {
          if (covered[y * width + x] !== 0) continue;
          sums[3]!++;
          for (let c = 0; c < Math.min(3, channels); c++) sums[c]! += pixels[(y * width + x) * channels + c]!;
        }
      expect(Array.from(found.subarray(4 * block, 4 * block + 4))).toEqual(sums);
    }
  });
});

describe('lines and sides', () => {
  const [width, height] = [40, 30];
  const plane = floats(width * height, -30, 30);
  const other = floats(width * height, -30, 30);
  const strength = Float32Array.from(plane, (gx, i) => Math.hypot(gx, other[i]!));

  /** x, y, unit normal and weight of each point, by the definition of non-maximum suppression in eight directions. */
  const maximaByTheBook = (least: number): number[][] => {
    const points: number[][] = [];
    for (let y = 2; y < height - 2; y++)
      for (let x = 2; x < width - 2; x++) {
        const i = y * width + x;
        const m = strength[i]!;
        if (m < least) continue;
        const [gx, gy] = [plane[i]!, other[i]!];
        const slope = Math.tan((3 * Math.PI) / 8);
        const [dx, dy] =
          Math.abs(gx) > Math.abs(gy) * slope
            ? [1, 0]
            : Math.abs(gy) > Math.abs(gx) * slope
              ? [0, 1]
              : gx * gy > 0
                ? [1, 1]
                : [-1, 1];
        const step = dy * width + dx;
        if (m >= strength[i - step]! && m > strength[i + step]!)
          points.push([x + 0.5, y + 0.5, gx / m, gy / m, m / (m + 5)]);
      }
    return points;
  };

  it('gradientMaxima keeps what is steepest along its own direction', () => {
    const expected = maximaByTheBook(12);
    const found = withWorkspace((ws) => {
      const room = width * height;
      const out = ws.f32(5 * room);
      const count = ws.kernels.gradientMaxima(
        ws.of(plane).at,
        ws.of(other).at,
        ws.of(strength).at,
        width,
        height,
        12,
        room,
        out.at,
      );
      const all = out.copy();
      return Array.from({ length: count }, (_, k) => [0, 1, 2, 3, 4].map((part) => all[part * room + k]!));
    });
    expect(expected.length).toBeGreaterThan(20);
    expect(found).toHaveLength(expected.length);
    found.forEach((point, k) => near(point, expected[k]!));
  });

  it('lineSums adds up the points within three px of a line', () => {
    const count = 60;
    const [xs, ys, weights] = [floats(count, 0, 40), floats(count, 0, 30), floats(count)];
    const order = Int32Array.from({ length: count }, (_, k) => (k * 7) % count);
    const [nx, ny, rho] = [Math.cos(0.4), Math.sin(0.4), 24];
    const points = new Float32Array(5 * count);
    points.set(xs);
    points.set(ys, count);
    points.set(weights, 4 * count);
    const found = withWorkspace((ws) => {
      const sums = ws.of(Float64Array.of(1, 0, 0, 0, 0, 0));
      ws.kernels.lineSums(ws.of(points).at, count, ws.of(order).at, 10, 50, nx, ny, rho, sums.at);
      return sums.copy();
    });
    const expected = [1, 0, 0, 0, 0, 0];
    for (const k of order.subarray(10, 50)) {
      const [x, y, w] = [xs[k]!, ys[k]!, weights[k]!];
      if (Math.abs(x * nx + y * ny - rho) > 3) continue;
      [1, x, y, x * x, x * y, y * y].forEach((term, t) => (expected[t]! += w * term));
    }
    near(found, expected, 3);
  });

  it('voteForLines lets each point vote for five directions about its own, between two distances', () => {
    const [room, count, bins, reach, rhoBins] = [30, 23, 180, 120, 122];
    const points = Array.from({ length: count }, () => {
      const angle = 2 * Math.PI * random.next();
      return [100 * random.next(), 60 * random.next(), Math.cos(angle), Math.sin(angle), random.next()].map(
        Math.fround,
      );
    });
    const planes = new Float32Array(5 * room);
    points.forEach((point, i) => point.forEach((value, plane) => (planes[plane * room + i] = value)));
    const angles = Float64Array.from({ length: 2 * bins }, (_, i) => {
      const angle = (Math.floor(i / 2) * Math.PI) / bins;
      return i % 2 === 0 ? Math.cos(angle) : Math.sin(angle);
    });
    const found = withWorkspace((ws) => {
      const votes = ws.of(new Float32Array(bins * rhoBins));
      const starts = ws.of(new Int32Array(bins + 1));
      const order = ws.i32(count);
      ws.kernels.voteForLines(
        ws.of(planes).at,
        room,
        count,
        ws.of(angles).at,
        rhoBins,
        reach,
        votes.at,
        starts.at,
        order.at,
        ws.u8(count).at,
      );
      return { votes: votes.copy(), starts: starts.copy(), order: order.copy() };
    });
    const votes = new Array<number>(bins * rhoBins).fill(0);
    const owns = points.map(([x, y, nx, ny, weight]) => {
      const turned = (Math.atan2(ny!, nx!) * bins) / Math.PI;
      const middle = Math.floor((turned < 0 ? turned + bins : turned) + 0.5);
      [0.5, 0.8, 1, 0.8, 0.5].forEach((part, d) => {
        const k = (middle + d - 2 + bins) % bins;
        const bin = (x! * angles[2 * k]! + y! * angles[2 * k + 1]! + reach) / 2;
        const low = k * rhoBins + Math.floor(bin);
        votes[low]! += part * weight! * (1 - (bin % 1));
        votes[low + 1]! += part * weight! * (bin % 1);
      });
      return middle % bins;
    });
    near(found.votes, votes, 4);
    // points lie in the order of their directions, in each as they came
    const ordered = owns.map((own, i) => [own, i] as const).sort(([p, i], [q, j]) => p - q || i - j);
    expect([...found.order]).toEqual(ordered.map(([, i]) => i));
    expect([...found.starts]).toEqual(Array.from({ length: bins + 1 }, (_, k) => owns.filter((own) => own < k).length));
  });

  it.each([false, true])('readLine sums what lies along a line (a border: %s)', (border) => {
    const [w, h] = [40, 30];
    // paper on the right, desk on the left, a weave in the desk's lower half
    const picture = Float32Array.from({ length: 4 * w * h }, (_, i) => {
      const [x, y] = [(i >> 2) % w, Math.floor((i >> 2) / w)];
      if (i % 4 === 3) return 0;
      if (i % 4 > 0) return x > 18 ? 3 : 8 + (i % 4);
      return x > 18 ? 200 + (y % 3) : y > 15 ? 60 + 50 * (y % 2) : 80;
    });
    const [gx, gy] = [floats(w * h, -30, 30), floats(w * h, -30, 30)];
    const [angle, rho, start, length] = [0.2, 20, -4, 33];
    const [nx, ny] = [Math.cos(angle), Math.sin(angle)];
    const sums = length + 1;
    const found = withWorkspace((ws) => {
      const out = ws.f32(7 * sums);
      ws.kernels.readLine(
        ws.of(picture).at,
        w,
        h,
        ws.of(gx).at,
        ws.of(gy).at,
        nx,
        ny,
        rho,
        border,
        start,
        length,
        out.at,
        ws.f64(2 * sums).at,
      );
      return out.copy();
    });
    const pixel = (x: number, y: number): number =>
      Math.min(h - 1, Math.max(0, Math.floor(y))) * w + Math.min(w - 1, Math.max(0, Math.floor(x)));
    const places = Array.from({ length }, (_, k) => {
      const [x, y] = [rho * nx - (start + k) * ny, rho * ny + (start + k) * nx];
      const at = (o: number): number => pixel(x + nx * o, y + ny * o);
      const slopes = [-3, -2, -1, 0, 1, 2, 3].map(
        (o) => Math.abs(gx[at(o)]! * nx + gy[at(o)]! * ny) * (1 - 0.06 * Math.abs(o)),
      );
      const slope = border ? 0 : Math.max(...slopes);
      const offset = border ? 0 : slopes.indexOf(slope) - 3;
      const strip = (side: 1 | -1): number[] =>
        [0, 1, 2].map(
          (c) => (picture[4 * at(offset + side * 2.5) + c]! + picture[4 * at(offset + side * 4.5) + c]!) / 2,
        );
      const [plus, minus] = [strip(1), strip(-1)];
      const contrast = Math.hypot(...plus.map((value, c) => value - minus[c]!));
      return { plus, minus, seen: border ? 0 : (contrast / (contrast + 8)) * (slope / (slope + 1.5)) };
    });
    const running = (values: readonly number[]): number[] =>
      values.reduce<number[]>((all, value) => [...all, all.at(-1)! + value], [0]);
    const unevenness = (levels: readonly number[]): number => {
      const mean = levels.reduce((p, q) => p + q) / levels.length;
      return levels.reduce((sum, level) => sum + (level - mean) ** 2, 0) / levels.length / (1 + mean / 60);
    };
    const steps = places.map(({ seen }, k) => {
      const about = places.slice(Math.max(0, k - 9), k + 10);
      const least = Math.min(unevenness(about.map((p) => p.plus[0]!)), unevenness(about.map((p) => p.minus[0]!)));
      return seen / (1 + least / 110);
    });
    const parts = [
      steps,
      ...[0, 1, 2].map((c) => places.map((p) => p.plus[c]!)),
      ...[0, 1, 2].map((c) => places.map((p) => p.minus[c]!)),
    ];
    parts.forEach((part, k) => near(found.subarray(k * sums, (k + 1) * sums), running(part), 2));
  });

  it('curveAgreement counts what lies near a parabola, the nearest most', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -5, max: 5, noNaN: true }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        (middle, bow) => {
          const [xs, offsets, weights] = [floats(20, -1, 1), floats(20, -8, 8), floats(20)];
          const found = withWorkspace((ws) =>
            ws.kernels.curveAgreement(ws.of(xs).at, ws.of(offsets).at, ws.of(weights).at, 20, middle, 1.5, bow, 2),
          );
          const expected = xs.reduce((sum, x, i) => {
            const away = Math.abs(offsets[i]! - (middle + 1.5 * x - bow * x * x));
            // on the edge of the tolerance the last digit of a 32-bit float decides
            return sum + (away < 2 ? weights[i]! * (1 - away / 4) : 0);
          }, 0);
          const undecided = xs.some(
            (x, i) => Math.abs(Math.abs(offsets[i]! - (middle + 1.5 * x - bow * x * x)) - 2) < 1e-4,
          );
          if (!undecided) expect(found).toBeCloseTo(expected, 3);
        },
      ),
      { numRuns: 50 },
    );
  });

  it('courseStrengths sums up the edges along courses', () => {
    const [samples, breadth] = [17, 31];
    const strip = floats(samples * breadth);
    // courses within the strip, none of them on the border between two of its samples
    const chord = floats(samples, 8, 22).map((at) => Math.floor(at) + 0.3);
    const arch = floats(samples, 0, 1).map((share) => Math.round(share * 8) / 8);
    const bows = Float32Array.from({ length: 8 }, (_, k) => k - 4);
    const found = withWorkspace((ws) => {
      const sums = ws.f32(bows.length);
      ws.kernels.courseStrengths(
        ws.of(strip).at,
        breadth,
        samples,
        ws.of(chord).at,
        ws.of(arch).at,
        ws.of(bows).at,
        bows.length,
        sums.at,
      );
      return sums.copy();
    });
    bows.forEach((bow, k) => {
      const expected = chord.reduce((sum, at, i) => sum + strip[i * breadth + Math.floor(at + bow * arch[i]!)]!, 0);
      expect(found[k]).toBeCloseTo(expected, 4);
    });
  });

  const picture = Float32Array.from({ length: 4 * width * height }, (_, i) => (i % 4 === 3 ? 0 : 200 * random.next()));
  const sampled = (x: number, y: number, c: number): number => {
    const [px, py] = [Math.min(width - 1.001, Math.max(0, x - 0.5)), Math.min(height - 1.001, Math.max(0, y - 0.5))];
    const [i, j] = [Math.floor(px), Math.floor(py)];
    const at = (v: number, u: number): number => picture[4 * (v * width + u) + c]!;
    const upper = at(j, i) + (px - i) * (at(j, i + 1) - at(j, i));
    const lower = at(j + 1, i) + (px - i) * (at(j + 1, i + 1) - at(j + 1, i));
    return upper + (py - j) * (lower - upper);
  };

  it('edgeProfile correlates the profile across a side with a step', () => {
    const [x, y, nx, ny, reach] = [18.3, 14.8, Math.cos(1), Math.sin(1), 5];
    const [response, towards] = withWorkspace((ws) => {
      const profile = ws.f32(4 * (2 * (reach + 3) + 1));
      const [strengths, signs] = [ws.f32(2 * reach + 1), ws.f32(2 * reach + 1)];
      ws.kernels.edgeProfile(ws.of(picture).at, width, height, x, y, nx, ny, reach, profile.at, strengths.at, signs.at);
      return [strengths.copy(), signs.copy()] as const;
    });
    const profile = (k: number, c: number): number =>
      (sampled(x + nx * k + 0.9 * ny, y + ny * k - 0.9 * nx, c) +
        sampled(x + nx * k - 0.9 * ny, y + ny * k + 0.9 * nx, c)) /
      2;
    for (let k = -reach; k <= reach; k++) {
      const step = [0, 1, 2].map(
        (c) =>
          profile(k + 1, c) +
          profile(k + 2, c) -
          profile(k - 1, c) -
          profile(k - 2, c) +
          0.7 * (profile(k + 3, c) - profile(k - 3, c)),
      );
      const length = Math.hypot(...step);
      expect(response[k + reach]!).toBeCloseTo(length / 2.7, 2);
      expect(towards[k + reach]!).toBeCloseTo(step[0]! / length, 3);
    }
  });
});

describe('flattening', () => {
  it('meshRow looks places up between the nodes of a mesh, and goes on straight behind the last', () => {
    const cells = 5;
    const nodes = Float64Array.from({ length: 2 * (cells + 1) ** 2 }, () => 100 * random.next());
    const [at, first, step, count] = [2.3, 0.1, 0.37, 14];
    const [xs, ys] = withWorkspace((ws) => {
      const [x, y] = [ws.f32(count), ws.f32(count)];
      ws.kernels.meshRow(ws.of(nodes).at, cells, at, first, step, count, x.at, y.at);
      return [x.copy(), y.copy()];
    });
    const node = (i: number, j: number, axis: number): number => nodes[2 * (j * (cells + 1) + i) + axis]!;
    const expected = (k: number, axis: number): number => {
      const along = first + k * step;
      const i = Math.min(cells - 1, Math.floor(along));
      const between = (j: number): number => node(i, j, axis) + (node(i + 1, j, axis) - node(i, j, axis)) * (along - i);
      return between(2) + (between(3) - between(2)) * (at - 2);
    };
    near(
      xs,
      Array.from({ length: count }, (_, k) => expected(k, 0)),
      3,
    );
    near(
      ys,
      Array.from({ length: count }, (_, k) => expected(k, 1)),
      3,
    );
  });
});
