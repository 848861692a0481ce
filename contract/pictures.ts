/** Small pictures of an original that go up before it, by their long side in px, and what each may weigh. */
export const PICTURE_SIZES = {
  thumbnail: { longSidePx: 360, maxBytes: 100_000 },
  preview: { longSidePx: 1800, maxBytes: 2_000_000 },
} as const;
export type PictureSize = keyof typeof PICTURE_SIZES;
