import { useEffect, useRef } from 'react';
import { takesKeys } from '../commands/focus';

/** Hears of files and pictures that are pasted, but not into a field. */
export function usePastedFiles(take: (files: readonly File[]) => void): void {
  const latest = useRef(take);
  useEffect(() => void (latest.current = take));
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (files.length === 0 || takesKeys(event.target)) return;
      event.preventDefault();
      latest.current(files);
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, []);
}
