import { useEffect, useRef, useState } from 'react';
import { droppedFiles, type Dropped } from './droppedFiles';

/** Files and folders dropped anywhere on the screen, or files pasted; tells whether some are being held over it. */
export function useFileDrop(onFiles: (dropped: Dropped) => void): boolean {
  const [over, setOver] = useState(false);
  const current = useRef(onFiles);
  useEffect(() => {
    current.current = onFiles;
  });
  useEffect(() => {
    const hasFiles = (event: DragEvent): boolean => event.dataTransfer?.types.includes('Files') === true;
    const onDragOver = (event: DragEvent): void => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const onDragLeave = (event: DragEvent): void => {
      if (event.relatedTarget === null) setOver(false);
    };
    const onDrop = (event: DragEvent): void => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setOver(false);
      if (event.dataTransfer !== null)
        void droppedFiles(event.dataTransfer).then((dropped) => current.current(dropped));
    };
    const onPaste = (event: ClipboardEvent): void => {
      const files = Array.from(event.clipboardData?.files ?? []);
      if (files.length === 0) return;
      event.preventDefault();
      current.current({ files, leftOut: [] });
    };
    window.addEventListener('dragover', onDragOver);
    window.addEventListener('dragleave', onDragLeave);
    window.addEventListener('drop', onDrop);
    window.addEventListener('paste', onPaste);
    return () => {
      window.removeEventListener('dragover', onDragOver);
      window.removeEventListener('dragleave', onDragLeave);
      window.removeEventListener('drop', onDrop);
      window.removeEventListener('paste', onPaste);
    };
  }, []);
  return over;
}
