import { Box } from '@mui/material';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { useState } from 'react';
import { MoveCards } from '../bench/move-cards';
import { ChoiceRow } from '../parts/choice-row';
import { setPlayback, usePlayback } from '../state/playback';
import { LookCards } from './look-cards';

/** What can be added: moves, or looks for the piece or for the whole result. One switch, so that each has its room. */
export function Offer({ piece }: { readonly piece: CompiledPiece | undefined }) {
  const offered = usePlayback((s) => s.offered);
  const [whole, setWhole] = useState<string>('piece');
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1, minHeight: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <ChoiceRow
          label="What is offered"
          value={offered}
          options={[
            { value: 'moves', label: 'Moves' },
            { value: 'looks', label: 'Looks' },
          ]}
          onChange={(next) => setPlayback({ offered: next })}
        />
        {offered === 'looks' && (
          <ChoiceRow
            label="Looks of"
            value={whole as string}
            options={[
              { value: 'piece', label: 'piece', title: 'Add to the selected piece' },
              { value: 'whole', label: 'all', title: 'Add to the whole result' },
            ]}
            onChange={setWhole}
          />
        )}
      </Box>
      {offered === 'moves' ? (
        <MoveCards piece={piece} />
      ) : (
        <LookCards piece={piece} where={whole === 'whole' || !piece ? null : piece.piece.id} />
      )}
    </Box>
  );
}
