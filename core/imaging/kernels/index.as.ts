// AssemblyScript: everything that runs as WebAssembly, in one module (scripts/buildKernels.mjs). Each source lies beside the
// room that it serves. Pointers are bytes in the one memory, which workspace.ts gives out.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

export * from '../raster/blur.as';
export * from '../raster/enlarge.as';
export * from '../raster/morphology.as';
export * from '../raster/shrink.as';
export * from '../network/convolution.as';
export * from '../detect/colour.as';
export * from '../detect/lines.as';
export * from '../detect/sides.as';
export * from '../flatten/warp.as';
export * from '../light/shares.as';
export * from '../motion-blur/motionBlur.as';
export * from '../finish/coverage.as';
export * from '../finish/press.as';
export * from '../jbig2/jbig2.as';
export * from '../layers/rules.as';
export * from '../layers/ink.as';
export * from '../layers/likeness.as';
