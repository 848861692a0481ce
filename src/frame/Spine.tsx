import { t } from '@lingui/core/macro';
import { Link } from 'expo-router';
import { Pressable, View } from 'react-native';
import type { Icon } from '../ui/buttonFace';
import { useWide } from '../ui/breakpoints';
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
  return (
    <View
      role="navigation"
      aria-label={t`Stages`}
      className={`${wide ? 'w-[148px]' : 'w-[58px]'} border-e border-rule-faint pt-2`}
    >
      {stitches.map(({ label, fact, icon: Sign, href, current, done }) => (
        <Link key={label} href={href} replace asChild>
          <Pressable
            aria-label={`${label}: ${fact}`}
            aria-current={current ? 'page' : undefined}
            className={`min-h-[64px] items-center justify-center gap-0.5 px-1 py-2 ${current ? 'border-s-4 border-beet bg-sheet' : 'border-s-4 border-transparent'}`}
          >
            <View
              aria-hidden
              className={`h-7 w-7 items-center justify-center rounded-full ${done ? 'bg-beet-tint' : ''}`}
            >
              <Sign
                size={18}
                strokeWidth={1.75}
                color={current || done ? 'rgb(var(--beet))' : 'rgb(var(--ink-soft))'}
              />
            </View>
            <Text variant="small" className="text-center" tone={current ? 'ink' : 'soft'}>
              {label}
            </Text>
            {wide ? <Text variant="soft">{fact}</Text> : null}
          </Pressable>
        </Link>
      ))}
    </View>
  );
}
