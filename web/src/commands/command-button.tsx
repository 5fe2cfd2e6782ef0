import { IconButton, Tooltip } from '@mui/material';
import type { ReactNode, Ref } from 'react';
import type { CommandId } from './commands';
import { useCommand } from './use-commands';

interface Props {
  readonly id: CommandId;
  /** What it is called, where the command's own words are too long. */
  readonly name?: string;
  readonly size?: 'small' | 'medium';
  /** Of a switch: whether it is on. */
  readonly pressed?: boolean;
  readonly ref?: Ref<HTMLButtonElement>;
  readonly children: ReactNode;
}

/** A command as a button with a sign: its tooltip says its words, its key, and why it cannot be done. */
export function CommandButton({ id, name, size = 'medium', pressed, ref, children }: Props) {
  const { words, tip, can, run } = useCommand(id, name);
  return (
    <Tooltip title={tip} describeChild>
      <span>
        <IconButton
          {...(ref && { ref })}
          size={size}
          aria-label={words}
          {...(pressed !== undefined && { 'aria-pressed': pressed })}
          disabled={!can}
          onClick={run}
        >
          {children}
        </IconButton>
      </span>
    </Tooltip>
  );
}
