import { t } from '@lingui/core/macro';
import { Link } from 'expo-router';
import { Pressable, ScrollView, View } from 'react-native';
import type { Icon } from '../ui/buttonFace';
import { useStacked, useWide } from '../ui/breakpoints';
import { Text } from '../ui/Text';

export interface Stitch {
  readonly label: string;
  /** What is there: "7 pages", "412 KB". */
  readonly fact: string;
  readonly icon: Icon;
  readonly href: string;
  readonly current: boolean;
  readonly done: boolean;
}

/** The stages of a hand-in along one edge of the screen; one tap goes anywhere. */
export function Spine({ stitches }: { readonly stitches: readonly Stitch[] }) {
  const wide = useWide();
  // with large text a column of words would take the page's room: the stages lie above it then
  const across = useStacked();
  const steps = stitches.map(({ label, fact, icon: Sign, href, current, done }) => (
    <Link key={label} href={href} replace asChild>
      <Pressable
        aria-label={`${label}: ${fact}`}
        aria-current={current ? 'page' : undefined}
        className={`${across ? 'min-h-[44px]' : 'min-h-[64px]'} items-center justify-center gap-0.5 px-1 py-2 ${current ? 'border-s-4 border-beet bg-sheet' : 'border-s-4 border-transparent'}`}
      >
        {across ? null : (
          <View
            aria-hidden
            className={`h-7 w-7 items-center justify-center rounded-full ${done ? 'bg-beet-tint' : ''}`}
          >
            <Sign size={18} strokeWidth={1.75} color={current || done ? 'rgb(var(--beet))' : 'rgb(var(--ink-soft))'} />
          </View>
        )}
        <Text variant="small" className="text-center" tone={current ? 'ink' : 'soft'}>
          {label}
        </Text>
        {wide ? <Text variant="soft">{fact}</Text> : null}
      </Pressable>
    </Link>
  ));
  return across ? (
    <ScrollView
      horizontal
      showsHorizontalScrollIndicator={false}
      role="navigation"
      aria-label={t`Stages`}
      className="grow-0 border-b border-rule-faint"
    >
      {steps}
    </ScrollView>
  ) : (
    <View
      role="navigation"
      aria-label={t`Stages`}
      className={`border-e border-rule-faint pt-2 ${wide ? 'w-[9.25rem]' : 'w-[3.625rem]'}`}
    >
      {steps}
    </View>
  );
}
