import { View } from 'react-native';

const CORNERS = [
  'left-[-5px] top-[-5px] border-l-2 border-t-2',
  'right-[-5px] top-[-5px] border-r-2 border-t-2',
  'right-[-5px] bottom-[-5px] border-b-2 border-r-2',
  'left-[-5px] bottom-[-5px] border-b-2 border-l-2',
] as const;

/** Four corner ticks around whatever is found, selected or focused. */
export function CropMarks({
  colour = 'border-beet',
}: {
  readonly colour?: 'border-beet' | 'border-rule' | 'border-beet-light';
}) {
  return (
    <>
      {CORNERS.map((corner) => (
        <View key={corner} aria-hidden className={`pointer-events-none absolute h-3 w-3 ${corner} ${colour}`} />
      ))}
    </>
  );
}
