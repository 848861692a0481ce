import type { Chance } from './chance';
import { smoothNoise } from './smoothNoise';

/** A point in space, mm; the third upwards from the desk. */
export type Space = readonly [number, number, number];

/** Where a place of the paper (mm from its top left corner) lies in space. */
export type Surface = (xMm: number, yMm: number) => Space;

/** How sheets lie; none of these stretches the paper. */
export const BENDS = ['flat', 'curl', 'arch', 'wave', 'crease', 'letter', 'corner', 'cone'] as const;
export type Bend = (typeof BENDS)[number];

/** Pieces a strip of paper is integrated in. */
const PIECES = 1200;

/**
 * A strip of paper seen from its edge: its angle to the desk at each length along it gives where it goes.
 * @param angleAt - rad, by the length along the strip in mm
 */
function strip(length: number, angleAt: (s: number) => number): (s: number) => readonly [number, number] {
  const step = length / PIECES;
  const across = new Float64Array(PIECES + 1);
  const up = new Float64Array(PIECES + 1);
  for (let k = 0; k < PIECES; k++) {
    const angle = angleAt((k + 0.5) * step);
    across[k + 1] = across[k]! + step * Math.cos(angle);
    up[k + 1] = up[k]! + step * Math.sin(angle);
  }
  const lowest = Math.min(...up);
  return (s) => {
    const at = Math.min(PIECES - 1, Math.max(0, Math.floor(s / step)));
    const part = s / step - at;
    const between = (values: Float64Array): number => values[at]! + (values[at + 1]! - values[at]!) * part;
    return [between(across) - across[PIECES]! / 2, between(up) - lowest];
  };
}

/** A sheet bent across a direction: straight along it, a strip across it. */
function cylinder(width: number, height: number, turn: number, angleAt: (share: number) => number): Surface {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const extent = width * Math.abs(c) + height * Math.abs(s);
  const at = strip(extent, (length) => angleAt(length / extent));
  return (x, y) => {
    const [px, py] = [x - width / 2, y - height / 2];
    const [across, along] = [px * c + py * s, -px * s + py * c];
    const [a, z] = at(across + extent / 2);
    return [a * c - along * s, a * s + along * c, z];
  };
}

/**
 * A sheet bent about rulings that meet in a point outside it: a cone. Each ruling is a direction on the unit sphere; these
 * follow each other at the angle they have on the flat paper, so lengths stay.
 */
function cone(width: number, height: number, chance: Chance): Surface {
  const apex = [width * chance.from(0.2, 0.8), -height * chance.from(0.4, 1.2)] as const;
  const spread = Math.atan2(width, -apex[1]) * 1.2;
  const lift = chance.from(0.05, 0.13) * chance.sign();
  const waves = chance.from(0.8, 1.5);
  const steps = 2000;
  const directions = new Float64Array(3 * (steps + 1));
  let longitude = -spread;
  for (let k = 0; k <= steps; k++) {
    const angle = -spread + (2 * spread * k) / steps;
    const phase = (angle / spread) * Math.PI * waves;
    const latitude = lift * Math.cos(phase);
    const rise = -lift * Math.sin(phase) * ((Math.PI * waves) / spread);
    directions.set(
      [Math.cos(latitude) * Math.sin(longitude), Math.cos(latitude) * Math.cos(longitude), Math.sin(latitude)],
      3 * k,
    );
    longitude += ((2 * spread) / steps) * (Math.sqrt(Math.max(0.2, 1 - rise * rise)) / Math.cos(latitude));
  }
  return (x, y) => {
    const [px, py] = [x - apex[0], y - apex[1]];
    const far = Math.hypot(px, py);
    const k = Math.min(steps, Math.max(0, ((Math.atan2(px, py) + spread) / (2 * spread)) * steps));
    const low = Math.min(steps - 1, Math.floor(k));
    const of = (i: number): number =>
      directions[3 * low + i]! + (directions[3 * low + 3 + i]! - directions[3 * low + i]!) * (k - low);
    return [far * of(0) + apex[0] - width / 2, far * of(1) + apex[1] - height / 2, far * of(2)];
  };
}

/** An open book of two pages of this size: either rises from the fold as steeply as its half is thick, and falls to its outer edge. */
export function openBook(pageWidth: number, height: number, chance: Chance): Surface {
  const page = (): ((d: number) => number) => {
    const [rise, decay, fall] = [chance.from(0.15, 0.9), chance.from(0.06, 0.2), chance.from(0, 0.12)];
    return (d) => rise * Math.exp(-d / decay) - fall * d;
  };
  const [left, right] = [page(), page()];
  return cylinder(2 * pageWidth, height, 0, (t) => (t < 0.5 ? -left(1 - 2 * t) : right(2 * t - 1)));
}

/** A sheet that was crumpled and smoothed out: a height field, so that it stretches by a few thousandths. */
export function crumpled(width: number, height: number, chance: Chance): Surface {
  const [broad, fine] = [smoothNoise(chance, 3), smoothNoise(chance, 6)];
  const most = chance.from(2, 6);
  return (x, y) => {
    const [u, v] = [x / width, y / height];
    return [x - width / 2, y - height / 2, most * (1.4 + broad(u, v) + 0.4 * fine(u, v))];
  };
}

/** A turn of `angle` about a fold a few mm wide. */
const fold = (at: number, angle: number, widthShare: number) => (share: number) =>
  angle * (0.5 + 0.5 * Math.tanh((share - at) / widthShare));

/** A sheet that lies in one of these ways, by chance. */
export function bentSurface(bend: Bend, width: number, height: number, chance: Chance): Surface {
  const over = Math.PI / 2;
  switch (bend) {
    case 'flat':
      return (x, y) => [x - width / 2, y - height / 2, 0];
    case 'curl': {
      const [most, decay] = [chance.from(0.35, 0.8), chance.from(0.12, 0.25)];
      return cylinder(width, height, chance.one([0, Math.PI]), (t) => -most * Math.exp(-t / decay));
    }
    case 'arch': {
      const [most, at] = [chance.from(0.2, 0.45), chance.from(0.35, 0.65)];
      return cylinder(
        width,
        height,
        chance.one([0, over]),
        (t) => most * Math.cos(Math.PI * Math.min(1, t / (2 * at))),
      );
    }
    case 'wave': {
      const [most, periods, phase] = [chance.from(0.12, 0.3), chance.from(1, 2.4), chance.from(0, 2 * Math.PI)];
      return cylinder(width, height, chance.one([0, over]), (t) => most * Math.sin(2 * Math.PI * periods * t + phase));
    }
    case 'crease': {
      const [at, angle] = [chance.from(0.35, 0.65), chance.from(0.12, 0.4) * chance.sign()];
      const bent = fold(at, angle, 0.004);
      return cylinder(width, height, chance.one([0, over]) + chance.from(-0.04, 0.04), (t) => bent(t) - angle / 2);
    }
    case 'letter': {
      const [first, second] = [chance.from(0.15, 0.42), chance.from(0.15, 0.42)];
      const one = fold(chance.from(0.31, 0.35), first, 0.004);
      const two = fold(chance.from(0.65, 0.69), -second, 0.004);
      return cylinder(width, height, over, (t) => one(t) + two(t) - first / 2);
    }
    case 'corner': {
      const turn = Math.atan2(height, width) + chance.from(-0.2, 0.2) + chance.one([0, 1, 2, 3]) * over;
      const [from, most] = [chance.from(0.62, 0.75), chance.from(0.35, 0.8)];
      return cylinder(width, height, turn, (t) => (t < from ? 0 : (most * (t - from)) / (1 - from)));
    }
    case 'cone':
      return cone(width, height, chance);
  }
}
