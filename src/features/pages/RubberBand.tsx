import { useRef, useState, type PointerEvent, type ReactNode } from 'react';

interface RubberBandProps {
  readonly chosen: readonly string[];
  /** The pages under the band, as it is drawn; with Shift or Ctrl held those chosen before stay chosen. */
  readonly onChoose: (ids: readonly string[]) => void;
  readonly children: ReactNode;
}

interface Band {
  readonly from: { readonly x: number; readonly y: number };
  readonly to: { readonly x: number; readonly y: number };
}

/** So far the mouse must go before it is a band and not a click. */
const LEAST_PX = 6;

const boxOf = ({ from, to }: Band): DOMRect =>
  new DOMRect(Math.min(from.x, to.x), Math.min(from.y, to.y), Math.abs(to.x - from.x), Math.abs(to.y - from.y));

const overlap = (a: DOMRect, b: DOMRect): boolean =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/** Chooses the pages around which the mouse draws a rectangle, begun where no page lies. "Choose" and the keys do the same. */
export function RubberBand({ chosen, onChoose, children }: RubberBandProps) {
  const table = useRef<HTMLDivElement>(null);
  const start = useRef<{ readonly at: Band['from']; readonly chosen: readonly string[] } | null>(null);
  const [band, setBand] = useState<Band | null>(null);
  const down = (event: PointerEvent): void => {
    const onPage = event.target instanceof Element && event.target.closest('[data-page-id], button') !== null;
    if (event.pointerType === 'mouse' && event.button === 0 && !onPage)
      start.current = { at: { x: event.clientX, y: event.clientY }, chosen };
  };
  const move = (event: PointerEvent): void => {
    if (start.current === null) return;
    const { at: from, chosen: before } = start.current;
    const to = { x: event.clientX, y: event.clientY };
    if (band === null && Math.hypot(to.x - from.x, to.y - from.y) < LEAST_PX) return;
    if (band === null) table.current?.setPointerCapture(event.pointerId);
    setBand({ from, to });
    const under = Array.from(table.current!.querySelectorAll<HTMLElement>('[data-page-id]'))
      .filter((tile) => overlap(tile.getBoundingClientRect(), boxOf({ from, to })))
      .map((tile) => tile.dataset.pageId!);
    const kept = event.shiftKey || event.ctrlKey || event.metaKey ? before : [];
    onChoose([...kept, ...under.filter((id) => !kept.includes(id))]);
  };
  const up = (): void => {
    start.current = null;
    setBand(null);
  };
  const box = band === null ? null : boxOf(band);
  return (
    <div
      ref={table}
      data-testid="light-table"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      style={{ flex: 1, display: 'flex', flexDirection: 'column', minHeight: 0 }}
    >
      {children}
      {box === null ? null : (
        <div
          aria-hidden
          style={{
            position: 'fixed',
            left: box.left,
            top: box.top,
            width: box.width,
            height: box.height,
            border: '1px solid rgb(var(--beet))',
            background: 'rgb(var(--beet) / 0.12)',
            pointerEvents: 'none',
          }}
        />
      )}
    </div>
  );
}
