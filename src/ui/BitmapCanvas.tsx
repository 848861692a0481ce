import { useLayoutEffect, useRef, type CSSProperties } from 'react';

interface BitmapCanvasProps {
  readonly bitmap: ImageBitmap;
  readonly label: string;
  readonly style?: CSSProperties;
  readonly testID?: string;
}

/** A picture that changes as fast as a hand moves: drawn at once, where an encoded one would have to be decoded first. */
export function BitmapCanvas({ bitmap: drawn, label, style, testID }: BitmapCanvasProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    // one that was replaced meanwhile is closed, and has no width
    if (canvas.current === null || drawn.width === 0) return;
    canvas.current.width = drawn.width;
    canvas.current.height = drawn.height;
    canvas.current.getContext('2d')!.drawImage(drawn, 0, 0);
  }, [drawn]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      data-testid={testID}
      style={{ display: 'block', width: '100%', height: '100%', ...style }}
    />
  );
}
