import { LINES_KERNELS } from '../kernels/linesKernels';
import { colourArena } from './colourPicture';

interface LineKernels {
  crests(
    gx: number,
    gy: number,
    magnitude: number,
    width: number,
    height: number,
    least: number,
    room: number,
    out: number,
  ): number;
  vote(
    points: number,
    room: number,
    count: number,
    angles: number,
    rhoBins: number,
    reach: number,
    votes: number,
    starts: number,
    order: number,
    facing: number,
  ): void;
  lineSums(
    points: number,
    room: number,
    order: number,
    from: number,
    to: number,
    nx: number,
    ny: number,
    rho: number,
    sums: number,
  ): void;
  readLine(
    picture: number,
    width: number,
    height: number,
    gx: number,
    gy: number,
    nx: number,
    ny: number,
    rho: number,
    border: boolean,
    start: number,
    length: number,
    out: number,
    squares: number,
  ): void;
}

let started: LineKernels | null = null;

/** What looks for lines in the colour kernels' memory: kernels/lines.as.ts. */
export const lineKernels = (): LineKernels => (started ??= colourArena().join<LineKernels>(LINES_KERNELS));
