import { useEffect, useState } from 'react';
import type { StoredBoundFile } from '../storage/localDatabase';
import { previewWorker } from '../workers/pageWorkers';

interface FilePageState {
  readonly url: string;
  readonly width: number;
  readonly height: number;
}

const LONG_SIDE_PX = 1600;

/** A page of a bound file, drawn by a PDF reader that is not ours; null until it is there. */
export function useFilePage({ blob, sha256 }: Pick<StoredBoundFile, 'blob' | 'sha256'>, page: number): FilePageState | 'failed' | null {
  const [shown, setShown] = useState<FilePageState | 'failed' | null>(null);
  useEffect(() => {
    let url: string | null = null;
    let current = true;
    previewWorker.run({ kind: 'render', original: { originalId: sha256, fileName: 'bound.pdf', pdfPage: page, blob }, recipe: null, longSidePx: LONG_SIDE_PX }).then(
      ({ picture, width, height }) => {
        if (!current) return;
        url = URL.createObjectURL(picture);
        setShown({ url, width, height });
      },
      () => current && setShown('failed'),
    );
    return () => {
      current = false;
      if (url !== null) URL.revokeObjectURL(url);
    };
  }, [blob, sha256, page]);
  return shown;
}
