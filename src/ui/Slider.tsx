import { createElement, type CSSProperties } from 'react';

interface SliderProps {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  /** What the value is called, where the number alone says little. */
  readonly valueText?: string;
  readonly onChange: (value: number) => void;
  /** Let go of: the value is meant. */
  readonly onCommit?: (value: number) => void;
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
export function Slider({
  label,
  value,
  min: least,
  max: most,
  step,
  valueText,
  onChange,
  onCommit: onDone,
  style = VISIBLE,
}: SliderProps) {
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
