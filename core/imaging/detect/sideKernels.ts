import { SIDES_KERNELS } from '../kernels/sidesKernels';
import { colourArena } from './colourPicture';

interface SideKernels {
  steps(
    picture: number,
    width: number,
    height: number,
    x: number,
    y: number,
    nx: number,
    ny: number,
    reach: number,
    profile: number,
    response: number,
    towards: number,
  ): void;
  agreement(
    xs: number,
    offsets: number,
    strengths: number,
    count: number,
    middle: number,
    slope: number,
    bow: number,
    tolerance: number,
  ): number;
}

let started: SideKernels | null = null;

/** What moves sides onto edges, in the colour kernels' memory: kernels/sides.as.ts. */
export const sideKernels = (): SideKernels => (started ??= colourArena().join<SideKernels>(SIDES_KERNELS));
