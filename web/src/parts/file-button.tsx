import { Button, type ButtonProps } from '@mui/material';
import { useRef } from 'react';

/** A button that asks for a file. */
export function FileButton({
  label,
  accept,
  onFile,
  children,
  ...button
}: Pick<ButtonProps, 'size' | 'variant' | 'color' | 'sx' | 'children'> & {
  /** What is asked for, for who hears the field. */
  readonly label: string;
  readonly accept?: string;
  readonly onFile: (file: File) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        accept={accept}
        aria-label={label}
        onChange={({ target }) => {
          const file = target.files?.[0];
          target.value = '';
          if (file) onFile(file);
        }}
      />
    </>
  );
}
