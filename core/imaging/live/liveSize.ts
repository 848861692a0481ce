export const LIVE_LONG_SIDE_PX = 640;
