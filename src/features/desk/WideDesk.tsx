import { useState } from 'react';
import { View } from 'react-native';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { PrimaryBar } from '../../ui/PrimaryBar';
import { DeskPreview } from './DeskPreview';
import { rowId, type DeskRow } from './deskRows';
import { DeskTable } from './DeskTable';

interface WideDeskProps {
  /** At least one. */
  readonly rows: readonly DeskRow[];
  readonly nowMs: number;
  readonly onDelete: (handIn: HandIn) => void;
  readonly next: { readonly label: string; readonly onPress: () => void };
}

/** The desk as a table beside a look at one of its rows, with the next thing at the foot. */
export function WideDesk({ rows, nowMs, onDelete, next }: WideDeskProps) {
  const [lookedAt, setLookedAt] = useState<string | null>(null);
  const shown = rows.find((row) => rowId(row) === lookedAt) ?? rows[0]!;
  return (
    <View className="flex-1 flex-row">
      <View className="flex-1">
        <DeskTable
          rows={rows}
          nowMs={nowMs}
          shownId={rowId(shown)}
          onShow={(row) => setLookedAt(rowId(row))}
          onDelete={onDelete}
        />
      </View>
      <View className="w-[320px] border-s border-rule-faint">
        <View className="flex-1">
          <DeskPreview row={shown} nowMs={nowMs} />
        </View>
        <PrimaryBar {...next} />
      </View>
    </View>
  );
}
