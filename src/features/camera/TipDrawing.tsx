import Svg, { Circle, G, Line, Path, Polygon, Rect } from 'react-native-svg';

const INK = 'rgb(var(--ink))';
const FAINT = 'rgb(var(--rule))';
const BEET = 'rgb(var(--beet))';
const SHEET = 'rgb(var(--chalk))';
const PAPER = 'rgb(var(--beet-tint))';

/** Lines of writing on a page, from its upper left corner. */
const Writing = ({ x, y }: { readonly x: number; readonly y: number }) => (
  <G stroke={FAINT} strokeWidth={2}>
    {[0, 9, 18, 27].map((down, i) => (
      <Line key={down} x1={x} y1={y + down} x2={x + (i === 3 ? 22 : 38)} y2={y + down} />
    ))}
  </G>
);

const DRAWINGS = {
  /** A lamp beside the page, its light falling across, the shadow away from it. */
  light: (
    <>
      <Polygon points="52,34 190,112 62,112" fill={PAPER} />
      <Path d="M28 24 L46 14 L58 36 L40 46 Z" fill={BEET} />
      <Path d="M34 40 L20 84 M8 112 H40 M20 84 L24 112" stroke={INK} strokeWidth={3} fill="none" />
      <Rect x={88} y={48} width={62} height={64} fill={SHEET} stroke={INK} strokeWidth={2} />
      <Writing x={100} y={62} />
      <Line x1={4} y1={113} x2={236} y2={113} stroke={INK} strokeWidth={2} />
    </>
  ),
  /** A phone level above the page, seen from the side. */
  steady: (
    <>
      <Rect x={70} y={22} width={100} height={9} rx={3} fill={INK} />
      <Circle cx={120} cy={33} r={3} fill={BEET} />
      <Path d="M120 36 L66 108 M120 36 L174 108" stroke={BEET} strokeWidth={2} strokeDasharray="5 5" />
      <Path d="M40 26.5 H60 M180 26.5 H200" stroke={FAINT} strokeWidth={2} />
      <Rect x={66} y={106} width={108} height={5} fill={SHEET} stroke={INK} strokeWidth={2} />
      <Line x1={24} y1={113} x2={216} y2={113} stroke={INK} strokeWidth={2} />
    </>
  ),
  /** A page within the camera's picture, with a little of the desk around it and a tick at each corner. */
  corners: (
    <>
      <Rect x={58} y={6} width={124} height={112} rx={4} fill="rgb(var(--night))" stroke={INK} strokeWidth={2} />
      <Polygon points="84,24 158,20 164,104 78,106" fill={SHEET} />
      <Writing x={98} y={44} />
      <Path
        d="M78 34 L79 18 L95 17 M148 14 L164 14 L165 30 M171 94 L171 111 L155 111 M88 113 L72 113 L73 97"
        stroke={BEET}
        strokeWidth={4}
        fill="none"
      />
    </>
  ),
} as const;

/** A small drawing of what a tip says. */
export function TipDrawing({ of }: { readonly of: keyof typeof DRAWINGS }) {
  return (
    <Svg width="100%" height={120} viewBox="0 0 240 120" aria-hidden>
      {DRAWINGS[of]}
    </Svg>
  );
}
