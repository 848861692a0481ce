import { t } from '@lingui/core/macro';
import BookOpen from 'lucide-react-native/icons/book-open';
import ListChecks from 'lucide-react-native/icons/list-checks';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { useEngine } from '../engine/useEngine';
import { BulkActionsBar } from '../features/pages/BulkActionsBar';
import { PageBoard } from '../features/pages/PageBoard';
import { RubberBand } from '../features/pages/RubberBand';
import { usePageSelection } from '../features/pages/usePageSelection';
import { HandInFrame } from '../frame/HandInFrame';
import { OrderAdvice } from '../order-advice/OrderAdvice';
import { AddRow } from '../photos/AddRow';
import { IntakeList } from '../photos/IntakeList';
import { Button } from '../ui/Button';
import { Text } from '../ui/Text';
import { useKeys } from '../ui/useKeys';
import { ShortcutsDialog } from './ShortcutsDialog';

const TILE_PX = 190;

interface LightTableProps {
  readonly handIn: HandIn;
  readonly next: { readonly label: string; readonly onPress: () => void };
}

/** The pages on a wide screen: several columns to look over, choose from and lay in order, with what can be done beside them. */
export function LightTable({ handIn, next }: LightTableProps) {
  const router = useRouter();
  const { dispatch } = useEngine();
  const [columns, setColumns] = useState(4);
  const [listing, setListing] = useState(false);
  const { chosen, choose, toggle, press } = usePageSelection(handIn, (id) =>
    router.push(`/hand-in/${handIn.id}/page/${id}`),
  );
  const read = (): void => router.push(`/hand-in/${handIn.id}/read`);
  const meant = { handInId: handIn.id, pageIds: chosen ?? [] };
  const some = meant.pageIds.length > 0;
  useKeys(
    {
      c: toggle,
      r: read,
      '?': () => setListing(true),
      ...(chosen === null ? {} : { Escape: () => choose(null) }),
      ...(some
        ? {
            t: () => void dispatch({ kind: 'turnPages', ...meant, turns: 1 }),
            Delete: () => void dispatch({ kind: 'deletePages', ...meant }).then(() => choose([])),
          }
        : {}),
    },
    !listing,
  );
  const tools = (
    <ScrollView contentContainerClassName="gap-3 py-3">
      <View className="flex-row flex-wrap gap-2 px-3">
        <Button
          icon={BookOpen}
          label={t`Read`}
          accessibilityLabel={t`Read the pages through`}
          shortcut="read"
          onPress={read}
        />
        <Button
          icon={ListChecks}
          label={t`Choose`}
          accessibilityLabel={t`Choose pages`}
          shortcut="choose"
          pressed={chosen !== null}
          onPress={toggle}
        />
      </View>
      {chosen === null ? (
        <>
          <AddRow handInId={handIn.id} stacked />
          <Text variant="soft" className="px-3">
            {t`Open a page to work on it. Hold Shift or Ctrl, or draw around pages, to choose several.`}
          </Text>
        </>
      ) : (
        <BulkActionsBar handIn={handIn} chosen={chosen} onChoose={choose} onDone={() => choose(null)} />
      )}
      <View className="items-start px-1">
        <Button
          variant="text"
          label={t`Keys`}
          shortcut="list"
          accessibilityLabel={t`Keys: list all of them`}
          onPress={() => setListing(true)}
        />
      </View>
    </ScrollView>
  );
  return (
    <HandInFrame handIn={handIn} stage="pages" next={next} aside={{ width: 'tools', content: tools }}>
      <View
        className="flex-1"
        onLayout={({ nativeEvent }) => setColumns(Math.max(2, Math.floor(nativeEvent.layout.width / TILE_PX)))}
      >
        <IntakeList handInId={handIn.id} />
        <OrderAdvice handIn={handIn} />
        <RubberBand chosen={meant.pageIds} onChoose={choose}>
          <PageBoard handIn={handIn} columns={columns} chosen={chosen} onPress={press} />
        </RubberBand>
      </View>
      {listing ? <ShortcutsDialog onClose={() => setListing(false)} /> : null}
    </HandInFrame>
  );
}
