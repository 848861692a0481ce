import { useEffect, useRef, useState } from 'react';

/** Files dropped anywhere on the screen, or pasted; tells whether some are being held over it. */
export function useFileDrop(onFiles: (files: readonly File[]) => void): boolean {
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
      current.current(Array.from(event.dataTransfer?.files ?? []));
    };
    const onPaste = (event: ClipboardEvent): void => {
      const files = Array.from(event.clipboardData?.files ?? []);
      if (files.length === 0) return;
      event.preventDefault();
      current.current(files);
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
