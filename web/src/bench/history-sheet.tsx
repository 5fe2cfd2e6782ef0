import { Sheet } from '../parts/sheet';
import { Box, ButtonBase } from '@mui/material';
import type { CompiledProject } from '@skipback/core/project/compile';
import { useEffect, useMemo, useRef } from 'react';
import { compileWith } from '../state/compiled';
import { type ClipState } from '../state/library';
import { queryClient } from '../state/query-client';
import { type HistoryEntry, stepHistory, useHistory } from '../state/project-store';
import { colors, mono } from '../theme';
import type { Thumbnails } from '../weave/scene';

/** Most states listed at once, the present among them. */
const LISTED = 40;
const PICTURES = 5;
const WIDTH = 44;
const HEIGHT = 25;

interface Props {
  readonly anchor: HTMLElement | null;
  readonly clips: readonly ClipState[];
  onClose(): void;
}

/** Every state of the project since it was opened, with what it plays; press one to be there. */
export function HistorySheet({ anchor, clips, onClose }: Props) {
  const open = anchor !== null;
  return (
    <Sheet anchor={anchor} name="History" place="underLeft" onClose={onClose}>
      {open && <Entries clips={clips} />}
    </Sheet>
  );
}

function Entries({ clips }: { clips: readonly ClipState[] }) {
  const { entries, present } = useHistory();
  const first = Math.max(0, Math.min(present - LISTED / 2, entries.length - LISTED));
  return (
    <Box role="group" aria-label="History" sx={{ p: 1, maxHeight: '70vh', overflowY: 'auto', width: 500 }}>
      {entries
        .slice(first, first + LISTED)
        .map((entry, i) => (
          <Entry
            key={first + i}
            entry={entry}
            clips={clips}
            now={first + i === present}
            words={first + i === 0 ? 'as it was opened' : entry.change}
            onPress={() => stepHistory(first + i - present)}
          />
        ))
        .reverse()}
    </Box>
  );
}

function Entry({
  entry,
  clips,
  now,
  words,
  onPress,
}: {
  entry: HistoryEntry;
  clips: readonly ClipState[];
  now: boolean;
  words: string;
  onPress: () => void;
}) {
  const compiled = useMemo(() => compileWith(entry.project, clips), [entry, clips]);
  return (
    <ButtonBase
      onClick={onPress}
      aria-current={now ? 'step' : undefined}
      sx={{
        display: 'flex',
        width: '100%',
        gap: 1.5,
        px: 1,
        py: 0.5,
        borderRadius: 1.5,
        textAlign: 'left',
        bgcolor: now ? colors.raised : 'transparent',
        '&:hover': { bgcolor: colors.raised },
      }}
    >
      <Film compiled={compiled} />
      <Box
        sx={{
          flex: 1,
          minWidth: 0,
          fontSize: 13,
          fontWeight: now ? 600 : 400,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          whiteSpace: 'nowrap',
        }}
      >
        {words}
      </Box>
      <Box sx={{ fontFamily: mono, fontSize: 12, color: colors.quiet }}>{compiled.totalFrames} f</Box>
    </ButtonBase>
  );
}

/** A few frames of a result in a row, from the clips' thumbnails. */
function Film({ compiled }: { compiled: CompiledProject }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    context.clearRect(0, 0, PICTURES * WIDTH, HEIGHT);
    for (let i = 0; i < PICTURES; i++) {
      const at = Math.floor(((i + 0.5) / PICTURES) * compiled.totalFrames);
      const piece = compiled.pieces.findLast((p) => p.startFrame <= at);
      if (!piece) continue;
      const sheet = queryClient
        .getQueriesData<Thumbnails>({ queryKey: ['thumbnails'] })
        .find(([key]) => key[1] === piece.compiled.clip.mediaId)?.[1];
      if (!sheet) continue;
      const frame = piece.compiled.shown[at - piece.startFrame]!;
      const place = Math.max(
        0,
        sheet.frames.findLastIndex((f) => f <= frame),
      );
      context.drawImage(
        sheet.bitmap,
        (place % sheet.columns) * sheet.cellWidth,
        Math.floor(place / sheet.columns) * sheet.cellHeight,
        sheet.cellWidth,
        sheet.cellHeight,
        i * WIDTH,
        0,
        WIDTH - 1,
        HEIGHT,
      );
    }
  }, [compiled]);
  return (
    <canvas ref={canvas} width={PICTURES * WIDTH} height={HEIGHT} style={{ flex: 'none', borderRadius: 3 }} />
  );
}
