import { msg, t } from '@lingui/core/macro';
import { ScrollView, View } from 'react-native';
import Svg, { G, Line, Path, Polygon, Rect } from 'react-native-svg';
import { Button } from '../../ui/Button';
import { PrimaryBar } from '../../ui/PrimaryBar';
import { Text } from '../../ui/Text';

const INK = 'rgb(var(--ink))';
const FAINT = 'rgb(var(--rule))';
const BEET = 'rgb(var(--beet))';
const SHEET = 'rgb(var(--chalk))';

const Lines = ({ x, y, width }: { readonly x: number; readonly y: number; readonly width: number }) => (
  <G stroke={FAINT} strokeWidth={2}>
    {[0, 10, 20, 30].map((down, i) => (
      <Line key={down} x1={x} y1={y + down} x2={x + (i === 3 ? width * 0.6 : width)} y2={y + down} />
    ))}
  </G>
);

/** A phone over a page that lies askew, its corners found. */
const SHOOT = (
  <>
    <Rect x={54} y={6} width={72} height={118} rx={6} fill="rgb(var(--night))" stroke={INK} strokeWidth={2} />
    <Rect x={60} y={16} width={60} height={92} fill="none" stroke={FAINT} />
    <Polygon points="72,34 108,28 114,90 70,94" fill={SHEET} />
    <Path
      d="M66 40 L68 30 L78 28 M104 24 L114 23 L116 33 M120 84 L121 95 L111 97 M74 100 L64 100 L65 90"
      stroke="rgb(var(--beet-light))"
      strokeWidth={3}
      fill="none"
    />
  </>
);
/** The page askew and grey, then straight and white. */
const FLATTEN = (
  <>
    <Polygon points="14,38 66,26 74,104 10,110" fill={FAINT} opacity={0.5} />
    <Lines x={22} y={52} width={38} />
    <Path d="M84 66 H104 M97 58 L105 66 L97 74" stroke={BEET} strokeWidth={3} fill="none" />
    <Rect x={114} y={26} width={58} height={82} fill={SHEET} stroke={INK} strokeWidth={2} />
    <Lines x={123} y={46} width={40} />
  </>
);
/** Pages bound to one file, with its receipt. */
const HAND_IN = (
  <>
    {[12, 6, 0].map((by) => (
      <Rect
        key={by}
        x={26 + by}
        y={18 + by}
        width={62}
        height={84}
        fill={SHEET}
        stroke={by === 0 ? INK : FAINT}
        strokeWidth={2}
      />
    ))}
    <Lines x={36} y={40} width={42} />
    <Path d="M104 66 H122 M115 58 L123 66 L115 74" stroke={BEET} strokeWidth={3} fill="none" />
    <Path
      d="M130 40 H172 V92 L165 88 L158 92 L151 88 L144 92 L137 88 L130 92 Z"
      fill={SHEET}
      stroke={INK}
      strokeWidth={2}
    />
    <Path d="M141 64 L149 72 L162 54" stroke="rgb(var(--moss))" strokeWidth={4} fill="none" />
  </>
);

const STEPS = [
  { drawing: SHOOT, title: msg`Photograph`, text: msg`Each page of your work, on any desk.` },
  { drawing: FLATTEN, title: msg`Look`, text: msg`Fotoplan makes them straight, white and in order.` },
  { drawing: HAND_IN, title: msg`Hand in`, text: msg`One small PDF, checked, with a receipt.` },
] as const;

interface WelcomeProps {
  readonly next: { readonly label: string; readonly onPress: () => void };
  readonly onSkip: () => void;
}

/** The first visit: what happens, in three pictures. */
export function Welcome({ next, onSkip }: WelcomeProps) {
  return (
    <View className="flex-1 bg-paper">
      <ScrollView role="main" contentContainerClassName="mx-auto w-full max-w-[900px] grow justify-center gap-6 p-6">
        <Text variant="title" className="text-center">
          {t`From paper to one PDF`}
        </Text>
        <View role="list" aria-label={t`What happens`} className="flex-row flex-wrap justify-center gap-4">
          {STEPS.map(({ drawing, title, text }) => (
            <View
              key={title.id}
              role="listitem"
              className="w-full max-w-[420px] flex-row items-center gap-4 bg-sheet p-3 shadow-sheet lg:w-[260px] lg:flex-col"
            >
              <View className="w-[120px] lg:w-[200px]">
                <Svg width="100%" height={100} viewBox="0 0 184 130" aria-hidden>
                  {drawing}
                </Svg>
              </View>
              <View className="flex-1 gap-1 lg:items-center">
                <Text variant="head">{t(title)}</Text>
                <Text className="lg:text-center">{t(text)}</Text>
              </View>
            </View>
          ))}
        </View>
        <View className="items-center">
          <Button variant="text" label={t`Skip`} accessibilityLabel={t`Skip: go to the desk`} onPress={onSkip} />
        </View>
      </ScrollView>
      <PrimaryBar {...next} />
    </View>
  );
}
