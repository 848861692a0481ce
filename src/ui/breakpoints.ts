import { useWindowDimensions } from 'react-native';

/** True where three columns fit: a laptop, not a phone. */
export const useWide = (): boolean => useWindowDimensions().width >= 1000;

const SHORT_PX = 500;

/** True where height is what lacks: a phone that is held sideways. */
export function useShort(): boolean {
  const { width, height } = useWindowDimensions();
  return width < 1000 && height < SHORT_PX && width > height;
}

/** True where what can be done stands beside the paper, and not under it. */
export function useSideways(): boolean {
  const wide = useWide();
  const short = useShort();
  return wide || short;
}
