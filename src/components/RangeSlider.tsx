import { createElement, type CSSProperties } from 'react';

interface RangeSliderProps {
  readonly label: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  /** What the value is called, where the number alone says little. */
  readonly valueText?: string;
  readonly onChange: (value: number) => void;
  /** Let go of: the value is meant. */
  readonly onDone?: (value: number) => void;
  readonly style?: CSSProperties;
}

const VISIBLE: CSSProperties = {
  width: '100%',
  height: 44,
  margin: 0,
  accentColor: 'rgb(var(--beet))',
  touchAction: 'none',
};

/** The browser's own slider: it answers to fingers, the mouse, keys and screen readers by itself. */
export function RangeSlider({
  label,
  value,
  least,
  most,
  step,
  valueText,
  onChange,
  onDone,
  style = VISIBLE,
}: RangeSliderProps) {
  const done = (event: { currentTarget: HTMLInputElement }): void => onDone?.(Number(event.currentTarget.value));
  return createElement('input', {
    type: 'range',
    'aria-label': label,
    ...(valueText === undefined ? {} : { 'aria-valuetext': valueText }),
    min: least,
    max: most,
    step,
    value,
    onChange: (event: { currentTarget: HTMLInputElement }) => onChange(Number(event.currentTarget.value)),
    onPointerUp: done,
    onKeyUp: done,
    onBlur: done,
    style,
  });
}
