import { Image, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { scalePoint, type Point } from '../../../../core/imaging/geometry/point';
import type { PagePicture } from '../../../jobs/pagePictures';

const SIZE_PX = 132;
/** How much larger than on the photo behind it. */
const MAGNIFIED = 4;
const EDGE_PX = 8;

interface LoupeProps {
  readonly photo: PagePicture;
  /** The place looked at, screen px from the photo's top left. */
  readonly at: Point;
  /** Size of the photo on the screen. */
  readonly width: number;
  readonly height: number;
  /** The outline on the screen, as an SVG path. */
  readonly outline: string;
}

/** The pixels under the finger, large, in the corner furthest from it. */
export function Loupe({ photo, at, width, height, outline }: LoupeProps) {
  const middle = SIZE_PX / 2;
  const corner = scalePoint(at, MAGNIFIED);
  return (
    <View
      aria-hidden
      className="pointer-events-none absolute overflow-hidden border-2 border-chalk bg-night"
      style={{
        width: SIZE_PX,
        height: SIZE_PX,
        [at.x < width / 2 ? 'right' : 'left']: EDGE_PX,
        [at.y < height / 2 ? 'bottom' : 'top']: EDGE_PX,
      }}
      testID="loupe"
    >
      <Image
        source={{ uri: photo.url }}
        style={{
          position: 'absolute',
          left: middle - corner.x,
          top: middle - corner.y,
          width: width * MAGNIFIED,
          height: height * MAGNIFIED,
        }}
      />
      <Svg width={SIZE_PX} height={SIZE_PX} style={{ position: 'absolute' }}>
        <Path
          d={outline}
          transform={`translate(${middle - corner.x} ${middle - corner.y}) scale(${MAGNIFIED})`}
          stroke="rgb(245 241 232)"
          strokeWidth={1.5 / MAGNIFIED}
          fill="none"
        />
        <Path
          d={`M${middle - 14} ${middle}H${middle - 4}M${middle + 4} ${middle}H${middle + 14}M${middle} ${middle - 14}V${middle - 4}M${middle} ${middle + 4}V${middle + 14}`}
          stroke="rgb(242 141 184)"
          strokeWidth={2}
        />
      </Svg>
    </View>
  );
}
