import { useFirst } from '../../state/counting';
import { neighbour } from '../../state/selection';
import { frameWithin, frame } from '@skipback/core/time/units';
import { Box, InputBase } from '@mui/material';
import { moveMark, removeMark, renameMark } from '@skipback/core/project/actions';
import type { Mark } from '@skipback/core/project/schema';
import { type MouseEvent, memo, useState } from 'react';
import { act } from '../../state/project-store';
import { transport } from '../../state/transport';
import { colors } from '../../theme';
import type { Scale } from '../scales';
import { useEditDrag } from '../use-edit-drag';

interface Props {
  readonly clipId: string;
  readonly marks: readonly Mark[];
  readonly clipFrames: number;
  readonly sourceX: Scale;
  readonly width: number;
}

/** The marks of a clip over its strip: press to go there, drag to move, press twice to rename, Delete to take away. */
export const MarkFlags = memo(function MarkFlags({ clipId, marks, clipFrames, sourceX, width }: Props) {
  const first = useFirst();
  /** The mark that is dragged: it stays where it can be let go. */
  const [held, setHeld] = useState<string>();
  const [editing, setEditing] = useState<string | null>(null);
  const put = (mark: Mark, at: number) => {
    const inside = frameWithin(at, clipFrames);
    act(`move mark ${mark.name}`, (p) => moveMark(p, clipId, mark.id, inside));
    transport.seekSource(clipId, inside);
  };
  const drag = useEditDrag<Mark, { mark: Mark; perFrame: number }>({
    begin: (mark) => {
      setHeld(mark.id);
      return { mark, perFrame: sourceX(1) - sourceX(0) };
    },
    move: ({ mark, perFrame }, { dx }) => put(mark, mark.frame + Math.round(dx / perFrame)),
    end: ({ mark }, { clicked }) => {
      setHeld(undefined);
      if (clicked) transport.seekSource(clipId, frame(mark.frame));
    },
  });
  return marks.map((mark) => {
    const x = sourceX(mark.frame + 0.5);
    if ((x < 0 || x > width) && mark.id !== held) return null;
    const rename = (name: string) => {
      act(`rename mark ${mark.name}`, (p) => renameMark(p, clipId, mark.id, name));
      setEditing(null);
    };
    return (
      <Box key={mark.id} style={{ left: x }} sx={{ position: 'absolute', top: 0, height: 24 }}>
        <Box
          component="button"
          {...drag(mark)}
          data-mark={mark.id}
          aria-label={`Mark ${mark.name}, frame ${mark.frame + first}`}
          title="Click to go there, drag to move, double-click to rename, Delete to remove"
          onClick={(event: MouseEvent) =>
            event.detail === 0 && transport.seekSource(clipId, frame(mark.frame))
          }
          onDoubleClick={() => setEditing(mark.id)}
          onKeyDown={(event) => {
            if (event.key === 'F2') setEditing(mark.id);
            const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
            if (by !== undefined && event.altKey) {
              event.preventDefault();
              event.stopPropagation();
              put(mark, mark.frame + by);
            }
            if (event.key !== 'Delete' && event.key !== 'Backspace') return;
            event.stopPropagation();
            const ids = marks.toSorted((a, b) => a.frame - b.frame).map((m) => m.id);
            const next = neighbour(ids, mark.id);
            act(`remove mark ${mark.name}`, (p) => removeMark(p, clipId, mark.id));
            focusMark(next);
          }}
          sx={{
            position: 'absolute',
            left: -8,
            top: 2,
            height: 24,
            border: 0,
            p: 0,
            pl: '20px',
            pr: '4px',
            font: 'inherit',
            fontSize: 12,
            fontWeight: 600,
            color: colors.attention,
            bgcolor: `${colors.ground}d9`,
            cursor: 'pointer',
            whiteSpace: 'nowrap',
            '&::before': {
              content: '""',
              position: 'absolute',
              left: 2,
              bottom: 0,
              border: '6px solid transparent',
              borderTop: `9px solid ${colors.attention}`,
              borderBottom: 0,
            },
          }}
        >
          {editing === mark.id ? '' : mark.name}
        </Box>
        {editing === mark.id && (
          <InputBase
            autoFocus
            onPointerDown={(event) => event.stopPropagation()}
            defaultValue={mark.name}
            inputProps={{ 'aria-label': 'Name of the mark', onFocus: (e) => e.currentTarget.select() }}
            onBlur={(event) => rename(event.target.value)}
            onKeyDown={(event) => {
              event.stopPropagation();
              if (event.key === 'Enter') rename((event.target as HTMLInputElement).value);
              if (event.key === 'Escape') setEditing(null);
            }}
            sx={{
              position: 'absolute',
              left: 12,
              top: 0,
              width: 110,
              px: 0.75,
              fontSize: 12,
              bgcolor: colors.raised,
              borderRadius: 1,
            }}
          />
        )}
      </Box>
    );
  });
});

/** Goes to another mark once one was taken away. */
const focusMark = (id: string | null): void =>
  void requestAnimationFrame(() =>
    document
      .querySelector<HTMLElement>(`[data-mark="${CSS.escape(id ?? '')}"]`)
      ?.focus({ preventScroll: true }),
  );
