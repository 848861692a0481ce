// AssemblyScript: what lightness.ts says in TypeScript, for the kernels that need it.

// @ts-nocheck -- f32 and its kin are AssemblyScript's

/** Share of red in luma (ITU-R BT.601). */
export const LUMA_RED: f32 = 0.299;
/** Share of green. */
export const LUMA_GREEN: f32 = 0.587;
/** Share of blue. */
export const LUMA_BLUE: f32 = 0.114;
