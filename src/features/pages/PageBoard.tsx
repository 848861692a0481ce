import { msg, t } from '@lingui/core/macro';
import {
  DndContext,
  DragOverlay,
  KeyboardSensor,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import { rectSortingStrategy, SortableContext, sortableKeyboardCoordinates } from '@dnd-kit/sortable';
import { useCallback, useEffect, useRef, useState } from 'react';
import { FlatList, View } from 'react-native';
import { shownPages, type HandIn } from '../../../core/work/hand-in/handIn';
import { setDown } from '../../../core/work/hand-in/operation';
import { PageTile } from '../../page-picture/PageTile';
import { Text } from '../../ui/Text';
import { useEngine } from '../../engine/useEngine';
import type { HeldKeys } from './pageSelection';
import { pageNumbers } from './pageNumber';
import { SortableTile } from './SortableTile';

interface PageBoardProps {
  readonly handIn: HandIn;
  readonly columns: number;
  /** Pages that are chosen, by id; they are moved together. Null where pages are opened and not chosen. */
  readonly chosen: readonly string[] | null;
  /** The page that lies open beside the board. */
  readonly openId?: string;
  readonly onPress: (pageId: string, held: HeldKeys) => void;
}

/** Enough rows stay drawn around what is seen that a page which is dragged along does not vanish. */
const WINDOW = 5;
const INSTRUCTIONS = msg`To move this page, press the space bar, then the arrow keys. Press the space bar again to lay it down, or Escape to put it back.`;

/** The pages as on a contact sheet, to press, to choose and to lay in another order. */
export function PageBoard({ handIn, columns, chosen, openId, onPress }: PageBoardProps) {
  const { dispatch } = useEngine();
  const pages = shownPages(handIn);
  const shownIds = pages.map(({ id }) => id);
  const [lifted, setLifted] = useState<string | null>(null);
  /** The order as it will be, until the hand-in says so itself: else the page would jump back for a moment. */
  const [laid, setLaid] = useState<readonly string[] | null>(null);
  const ids = laid !== null && laid.length === shownIds.length ? laid : shownIds;
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 220, tolerance: 8 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const groupOf = (id: string): readonly string[] => (chosen?.includes(id) === true ? chosen : [id]);
  const place = (id: string | number): string =>
    t`${{ place: ids.indexOf(String(id)) + 1 }} of ${{ count: ids.length }}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => t`Lifted page ${{ place: place(active.id) }}.`,
    onDragOver: ({ over }) => (over === null ? t`Not over a place.` : t`Over place ${{ place: place(over.id) }}.`),
    onDragEnd: ({ over }) => (over === null ? t`Put back.` : t`Laid down at place ${{ place: place(over.id) }}.`),
    onDragCancel: () => t`Put back where it was.`,
  };
  const end = ({ active, over }: DragEndEvent): void => {
    setLifted(null);
    if (over === null || over.id === active.id) return;
    const id = String(active.id);
    const group = groupOf(id);
    setLaid(setDown(shownIds, group, id, String(over.id)));
    void dispatch({
      kind: 'movePages',
      handInId: handIn.id,
      pageIds: group,
      lifted: id,
      over: String(over.id),
    }).finally(() => setLaid(null));
  };
  // the same function for as long as the board stands, so that a drag does not draw every tile anew
  const latest = useRef(onPress);
  useEffect(() => {
    latest.current = onPress;
  }, [onPress]);
  const press = useCallback((pageId: string, held: HeldKeys): void => latest.current(pageId, held), []);
  const numbers = pageNumbers(handIn);
  const byId = new Map(pages.map((page) => [page.id, page]));
  const liftedPage = lifted === null ? undefined : byId.get(lifted);
  const together = lifted === null ? 1 : groupOf(lifted).length;
  return (
    <DndContext
      sensors={sensors}
      accessibility={{ announcements, screenReaderInstructions: { draggable: t(INSTRUCTIONS) } }}
      onDragStart={({ active }: DragStartEvent) => setLifted(String(active.id))}
      onDragEnd={end}
      onDragCancel={() => setLifted(null)}
    >
      <SortableContext items={[...ids]} strategy={rectSortingStrategy}>
        <FlatList
          key={columns}
          data={ids}
          numColumns={columns}
          keyExtractor={(id) => id}
          windowSize={WINDOW}
          contentContainerClassName="p-2"
          aria-label={t`Pages`}
          testID="page-board"
          renderItem={({ item, index }) => {
            const page = byId.get(item);
            return page === undefined ? null : (
              <View style={{ width: `${100 / columns}%` }}>
                <SortableTile
                  id={item}
                  place={index + 1}
                  count={ids.length}
                  dimmed={lifted !== null && groupOf(lifted).includes(item)}
                >
                  <PageTile
                    page={page}
                    number={numbers.get(item) ?? null}
                    place={index + 1}
                    count={ids.length}
                    selected={chosen === null ? item === openId : chosen.includes(item)}
                    choosing={chosen !== null}
                    onPress={press}
                  />
                </SortableTile>
              </View>
            );
          }}
        />
      </SortableContext>
      <DragOverlay dropAnimation={null}>
        {liftedPage === undefined ? null : (
          <View className="rotate-1 bg-sheet shadow-sheet" aria-hidden>
            <PageTile
              page={liftedPage}
              number={numbers.get(liftedPage.id) ?? null}
              place={0}
              count={ids.length}
              selected
              choosing={false}
              onPress={press}
            />
            {together > 1 ? (
              <Text variant="strong" tone="onBeet" className="absolute right-2 top-2 bg-beet px-2">
                {together}
              </Text>
            ) : null}
          </View>
        )}
      </DragOverlay>
    </DndContext>
  );
}
