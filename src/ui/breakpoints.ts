import { useWindowDimensions } from 'react-native';

const BROWSER_TEXT_PX = 16;
const WIDE_PX = 1000;
const SHORT_PX = 500;

/** How much larger text is than browsers have it unless they are told. */
const textScale = (): number => parseFloat(getComputedStyle(document.documentElement).fontSize) / BROWSER_TEXT_PX;

/** The screen in px of normal text: with text twice as large it has room for half as much. */
function useRoom(): { readonly width: number; readonly height: number } {
  const { width, height } = useWindowDimensions();
  const scale = textScale();
  return { width: width / scale, height: height / scale };
}

/** True where three columns fit: a laptop, not a phone. */
export const useWide = (): boolean => useRoom().width >= WIDE_PX;

const NARROW_PX = 360;
/** True where there is no room for a word beside an icon at the edge. */
export const useNarrow = (): boolean => useRoom().width < NARROW_PX;

const STACKED_PX = 300;
/** True where text is so large that what stands side by side must stand under each other. */
export const useStacked = (): boolean => useRoom().width < STACKED_PX;

/** True where height is what lacks: a phone that is held sideways. */
export function useShort(): boolean {
  const { width, height } = useRoom();
  return width < WIDE_PX && height < SHORT_PX && width > height;
}

/** True where what can be done stands beside the paper, and not under it. */
export function useSideways(): boolean {
  const wide = useWide();
  const short = useShort();
  return wide || short;
}
