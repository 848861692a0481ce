import { t } from '@lingui/core/macro';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import GripHorizontal from 'lucide-react-native/icons/grip-horizontal';
import type { ReactNode } from 'react';

interface SortableTileProps {
  readonly id: string;
  readonly place: number;
  readonly count: number;
  /** It is being moved, and shown under the hand instead. */
  readonly dimmed: boolean;
  readonly children: ReactNode;
}

/** A tile that can be lifted: by dragging it, by holding it, and by its handle with the keys. */
export function SortableTile({ id, place, count, dimmed, children }: SortableTileProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({ id });
  const { onKeyDown, ...byHand } = (listeners ?? {}) as Record<string, (event: unknown) => void>;
  return (
    <div
      ref={setNodeRef}
      data-page-id={id}
      {...byHand}
      style={{
        transform: CSS.Translate.toString(transform),
        transition,
        opacity: dimmed ? 0.35 : 1,
        touchAction: 'manipulation',
        userSelect: 'none',
        WebkitTouchCallout: 'none',
        position: 'relative',
      }}
    >
      {children}
      <button
        ref={setActivatorNodeRef}
        {...attributes}
        type="button"
        aria-label={t`Move page ${place} of ${count}`}
        onKeyDown={onKeyDown}
        style={{
          position: 'absolute',
          right: 8,
          bottom: 16,
          width: 44,
          height: 44,
          display: 'flex',
          alignItems: 'center',
          justifyContent: 'center',
          background: 'none',
          border: 'none',
          padding: 0,
          cursor: 'grab',
          touchAction: 'none',
        }}
      >
        <GripHorizontal size={18} strokeWidth={1.75} color="rgb(var(--ink-soft))" aria-hidden />
      </button>
    </div>
  );
}
