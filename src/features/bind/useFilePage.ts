import { useEffect, useState } from 'react';
import type { BoundFile } from '../../data/boundFiles';
import { useEngine } from '../../engine/useEngine';

interface FilePageState {
  readonly url: string;
  readonly width: number;
  readonly height: number;
}

const LONG_SIDE_PX = 1600;

/** A page of a bound file, drawn by a PDF reader that is not ours; null until it is there. */
export function useFilePage(
  { blob, sha256 }: Pick<BoundFile, 'blob' | 'sha256'>,
  page: number,
): FilePageState | 'failed' | null {
  const { scheduler } = useEngine();
  const [shown, setShown] = useState<FilePageState | 'failed' | null>(null);
  useEffect(() => {
    let url: string | null = null;
    let current = true;
    const stopper = new AbortController();
    const original = { key: `${sha256} ${page}`, fileName: 'bound.pdf', pdfPage: page, blob, width: LONG_SIDE_PX };
    scheduler
      .run(
        { kind: 'render', original, recipe: null, longSidePx: LONG_SIDE_PX },
        { priority: 'visible', signal: stopper.signal },
      )
      .then(
        ({ picture, width, height }) => {
          if (!current) return;
          url = URL.createObjectURL(picture);
          setShown({ url, width, height });
        },
        () => current && setShown('failed'),
      );
    return () => {
      current = false;
      stopper.abort();
      if (url !== null) URL.revokeObjectURL(url);
    };
  }, [blob, sha256, page, scheduler]);
  return shown;
}
