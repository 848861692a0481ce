import { useWindowDimensions } from 'react-native';

/** True where three columns fit: a laptop, not a phone. */
export const useWide = (): boolean => useWindowDimensions().width >= 1000;
