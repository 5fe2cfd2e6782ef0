/** Hands a file to the browser's downloads. */
export function download(file: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** A name that every file system takes. */
export function fileName(name: string): string {
  return (
    name
      .replace(/[^\p{L}\p{N} ._-]+/gu, ' ')
      .trim()
      .replace(/\s+/g, '-')
      .slice(0, 80) || 'skip-back'
  );
}
