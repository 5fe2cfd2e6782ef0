import { IconButton, Menu, MenuItem } from '@mui/material';
import type { ChainStep } from '@skipback/core/moves/registry';
import { copyStep, setZone, shiftStep } from '@skipback/core/project/actions';
import { EllipsisVertical } from 'lucide-react';
import { useState } from 'react';
import { freshId } from '../state/ids';
import { act } from '../state/project-store';

interface Props {
  readonly pieceId: string;
  readonly step: ChainStep;
  readonly name: string;
  readonly incoming: number;
  readonly otherPieces: readonly { readonly id: string; readonly words: string }[];
}

/** What else can be done with a move: its place, copies of it, and the stretch it works on. */
export function StepMenu({ pieceId, step, name, incoming, otherPieces }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const item = (words: string, action: () => void) => (
    <MenuItem
      key={words}
      dense
      onClick={() => {
        setAnchor(null);
        action();
      }}
    >
      {words}
    </MenuItem>
  );
  const third = {
    from: Math.floor(incoming / 3),
    to: Math.max(Math.floor(incoming / 3) + 1, Math.floor((2 * incoming) / 3)),
  };
  return (
    <>
      <IconButton
        size="small"
        aria-label={`More for ${name}`}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        <EllipsisVertical size={15} />
      </IconButton>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {step.zone
          ? item('Work on everything', () =>
              act(`${name} on everything`, (p) => setZone(p, pieceId, step.id, null)),
            )
          : item('Limit to a part', () => act(`limit ${name}`, (p) => setZone(p, pieceId, step.id, third)))}
        {item('Duplicate', () => act(`duplicate ${name}`, (p) => copyStep(p, pieceId, step.id, freshId())))}
        {item('Earlier in the chain', () =>
          act(`move ${name} earlier`, (p) => shiftStep(p, pieceId, step.id, -1)),
        )}
        {item('Later in the chain', () =>
          act(`move ${name} later`, (p) => shiftStep(p, pieceId, step.id, 1)),
        )}
        {otherPieces.map((other) =>
          item(`Copy to ${other.words}`, () =>
            act(`copy ${name}`, (p) => copyStep(p, pieceId, step.id, freshId(), other.id)),
          ),
        )}
      </Menu>
    </>
  );
}
