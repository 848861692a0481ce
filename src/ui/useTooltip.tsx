import { useEffect, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { createPortal } from 'react-dom';
import { Text } from './Text';

/** The mouse must rest this long: on the way to something else nothing pops up. */
const DELAY_MS = 400;
const GAP_PX = 8;

interface Tooltip {
  readonly handlers: {
    readonly onHoverIn: (event: { readonly currentTarget?: unknown }) => void;
    readonly onHoverOut: () => void;
    readonly onFocus: (event: { readonly currentTarget?: unknown }) => void;
    readonly onBlur: () => void;
    readonly onPressIn: () => void;
  };
  readonly tooltip: ReactNode;
}

/**
 * A few words beside a control while the mouse rests on it or the keyboard has it; Escape takes them away (WCAG 1.4.13). It is for
 * the eye only: what it says must be told to screen readers by the control itself.
 */
export function useTooltip(text: string | undefined): Tooltip {
  const [place, setPlace] = useState<DOMRect | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const hide = (): void => {
    clearTimeout(timer.current);
    setPlace(null);
  };
  const show = (target: unknown, afterMs: number): void => {
    clearTimeout(timer.current);
    if (text !== undefined && target instanceof Element)
      timer.current = setTimeout(() => setPlace(target.getBoundingClientRect()), afterMs);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  useEffect(() => {
    if (place === null) return;
    const onKey = (event: KeyboardEvent): void => {
      if (event.key === 'Escape') setPlace(null);
    };
    const away = (): void => setPlace(null);
    window.addEventListener('keydown', onKey);
    window.addEventListener('scroll', away, { capture: true, passive: true });
    return () => {
      window.removeEventListener('keydown', onKey);
      window.removeEventListener('scroll', away, { capture: true });
    };
  }, [place]);
  const above = place !== null && place.bottom + 48 > window.innerHeight;
  return {
    handlers: {
      onHoverIn: ({ currentTarget }) => show(currentTarget, DELAY_MS),
      onHoverOut: hide,
      // a tap gives the focus too, and wants no words over what it opened
      onFocus: ({ currentTarget }) => {
        if (currentTarget instanceof Element && currentTarget.matches(':focus-visible')) show(currentTarget, 0);
      },
      onBlur: hide,
      onPressIn: hide,
    },
    tooltip:
      place === null || text === undefined
        ? null
        : createPortal(
            <View
              aria-hidden
              testID="tooltip"
              className="pointer-events-none fixed z-50 rounded bg-ink px-2 py-1"
              style={{
                left: Math.min(window.innerWidth - 8, Math.max(8, place.left + place.width / 2)),
                top: above ? place.top - GAP_PX : place.bottom + GAP_PX,
                transform: `translate(-50%, ${above ? '-100%' : '0'})`,
              }}
            >
              <Text variant="label" className="whitespace-nowrap text-paper">
                {text}
              </Text>
            </View>,
            document.body,
          ),
  };
}
