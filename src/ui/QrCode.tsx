import { create } from 'qrcode';
import Svg, { Path, Rect } from 'react-native-svg';

/** Light around the code, in modules, without which cameras do not find it. */
const QUIET = 4;

/** An address as a QR code; always dark on white, whatever the theme, for the camera's sake. */
export function QrCode({
  text,
  sizePx,
  label,
}: {
  readonly text: string;
  readonly sizePx: number;
  readonly label: string;
}) {
  const { size, data } = create(text, { errorCorrectionLevel: 'M' }).modules;
  let path = '';
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) if (data[y * size + x]) path += `M${x + QUIET} ${y + QUIET}h1v1h-1z`;
  const whole = size + 2 * QUIET;
  return (
    <Svg width={sizePx} height={sizePx} viewBox={`0 0 ${whole} ${whole}`} role="img" aria-label={label}>
      <Rect width={whole} height={whole} fill="#ffffff" />
      <Path d={path} fill="#16131f" />
    </Svg>
  );
}
