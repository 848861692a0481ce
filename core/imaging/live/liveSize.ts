/** Long side of the frames that a camera gives to the search, px. */
export const LIVE_LONG_SIDE_PX = 640;
