import { Sheet } from '../parts/sheet';
import { Box, ButtonBase } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { CompiledProject } from '@skipback/core/project/compile';
import { useEffect, useMemo, useRef } from 'react';
import { compileWith } from '../state/compiled';
import { type ClipState } from '../state/library';
import { queryClient } from '../state/query-client';
import { type HistoryEntry, stepHistory, useHistory } from '../state/project-store';
import { colors, mono } from '../theme';
import type { Thumbnails } from '../weave/scene';

/** How high a state is in the list, pixels. */
const ROW = 52;
const PICTURES = 5;
const WIDTH = 40;
const HEIGHT = 22;
/** As wide as what stands under it, which is not the picture. */
const SHEET = 298;

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
  const box = useRef<HTMLDivElement>(null);
  // The last is the first seen; drawn are those in sight.
  const last = entries.length - 1;
  const rows = useVirtualizer({
    count: entries.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 4,
    initialRect: { width: 360, height: 400 },
    initialOffset: Math.max(0, (last - present - 4) * ROW),
  });
  return (
    <Box
      ref={box}
      role="group"
      aria-label="History"
      style={{ height: `min(70vh, ${rows.getTotalSize() + 8}px)` }}
      sx={{ p: 0.5, overflowY: 'auto', width: SHEET }}
    >
      <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const place = last - index;
          const entry = entries[place]!;
          return (
            <Box
              key={place}
              style={{ transform: `translateY(${start}px)` }}
              sx={{ position: 'absolute', top: 0, left: 0, right: 0 }}
            >
              <Entry
                entry={entry}
                clips={clips}
                now={place === present}
                words={place === 0 ? 'as it was opened' : entry.change}
                onPress={() => stepHistory(place - present)}
              />
            </Box>
          );
        })}
      </div>
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
        ...{ display: 'block', width: '100%', height: ROW, px: 1, py: 0.25 },
        ...{ borderRadius: 1.5, textAlign: 'left' },
        bgcolor: now ? colors.raised : 'transparent',
        '&:hover': { bgcolor: colors.raised },
      }}
    >
      <Box
        sx={{
          ...{ fontSize: 13, fontWeight: now ? 600 : 400 },
          ...{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
        }}
      >
        {words}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <Film compiled={compiled} />
        <Box sx={{ fontFamily: mono, fontSize: 12, color: colors.quiet }}>{compiled.totalFrames} f</Box>
      </Box>
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
