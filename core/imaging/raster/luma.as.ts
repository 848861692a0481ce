// AssemblyScript: what lightness.ts says in TypeScript, for the kernels that need it.

// @ts-nocheck -- f32 and its kin are AssemblyScript's

/** Shares of red, green and blue in luma (ITU-R BT.601). */
export const LUMA_RED: f32 = 0.299;
export const LUMA_GREEN: f32 = 0.587;
export const LUMA_BLUE: f32 = 0.114;
