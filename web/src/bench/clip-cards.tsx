import { Box, Button, ButtonBase, CircularProgress, IconButton, Tooltip } from '@mui/material';
import { durationOf, frameCount, meanRateHz } from '@skipback/core/clip/frame-table';
import { addPiece, removeClip } from '@skipback/core/project/actions';
import { newPiece } from '@skipback/core/project/new-project';
import { Plus, Trash2, X } from 'lucide-react';
import { visuallyHidden } from '@mui/utils';
import type { Notice } from '@skipback/core/notice';
import { useEffect, useRef, useState } from 'react';
import { NoticeLine } from '../parts/notice-line';
import { freshId } from '../state/ids';
import { dismissIncoming, relink, useIncoming } from '../state/import-files';
import { type ClipState, type LoadedClip, noticesOf, useThumbnails } from '../state/library';
import { setPlayback } from '../state/playback';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';

interface Props {
  readonly clips: readonly ClipState[];
  readonly clipId: string | undefined;
  readonly onChoose: (clipId: string) => void;
}

/** The project's clips, and the files on their way in with what is wrong with them. */
export function ClipCards({ clips, clipId, onChoose }: Props) {
  const incoming = useIncoming((s) => s.files);
  return (
    <Box
      role="group"
      aria-label="Clips"
      sx={{
        display: 'grid',
        gridTemplateColumns: 'repeat(3, minmax(0, 1fr))',
        gap: 0.5,
        alignItems: 'start',
      }}
    >
      {incoming.map((file) => (
        <Box
          key={file.id}
          sx={{
            gridColumn: '1 / -1',
            p: 1,
            borderRadius: 2,
            bgcolor: colors.panel,
            display: 'flex',
            gap: 1,
            alignItems: 'flex-start',
          }}
        >
          {file.notice ? (
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <NoticeLine notice={file.notice} />
            </Box>
          ) : (
            <>
              <CircularProgress size={14} aria-label={`Reading ${file.name}`} sx={{ mt: '2px' }} />
              <Box sx={{ flex: 1, fontSize: 12, overflowWrap: 'anywhere' }}>Reading {file.name}</Box>
            </>
          )}
          {file.notice && (
            <IconButton
              size="small"
              aria-label={`Dismiss ${file.name}`}
              onClick={() => dismissIncoming(file.id)}
            >
              <X size={14} />
            </IconButton>
          )}
        </Box>
      ))}
      {clips.map((state) => (
        <ClipCard
          key={state.clip.id}
          state={state}
          chosen={state.clip.id === clipId}
          onChoose={() => onChoose(state.clip.id)}
        />
      ))}
    </Box>
  );
}

function factsLine(loaded: LoadedClip): string {
  const { facts } = loaded.record;
  const hz = Number(meanRateHz(facts.table).toFixed(2));
  const rate = facts.table.kind === 'variable' ? `~${hz}` : String(hz);
  return `${rate}/s ${Number(durationOf(facts.table).toFixed(1))}s`;
}

function ClipCard({ state, chosen, onChoose }: { state: ClipState; chosen: boolean; onChoose: () => void }) {
  const { clip, loaded, missing } = state;
  const thumbnails = useThumbnails(loaded);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!thumbnails || !canvas.current) return;
    const { cellWidth, cellHeight, columns, frames, bitmap } = thumbnails;
    const place = Math.floor(frames.length / 2);
    canvas.current.width = cellWidth;
    canvas.current.height = cellHeight;
    canvas.current
      .getContext('2d')!
      .drawImage(
        bitmap,
        (place % columns) * cellWidth,
        Math.floor(place / columns) * cellHeight,
        cellWidth,
        cellHeight,
        0,
        0,
        cellWidth,
        cellHeight,
      );
  }, [thumbnails]);
  const append = () => {
    const id = freshId();
    act(`add a piece of ${clip.name}`, (p) => addPiece(p, newPiece(id, clip.id, loaded!.record.facts.table)));
    setPlayback({ pieceId: id, stepId: null });
    onChoose();
  };
  const notices = loaded ? noticesOf(loaded.record, thumbnails) : [];
  const facts = loaded ? (thumbnails ? factsLine(loaded) : 'reading') : ' ';
  const [trouble, setTrouble] = useState<Notice>();
  const told = missing || notices.length > 0 || trouble !== undefined;
  return (
    <Box
      sx={{
        gridColumn: told ? '1 / -1' : 'auto',
        borderRadius: 2,
        position: 'relative',
        bgcolor: chosen ? colors.raised : colors.panel,
        '&:hover .tools, &:focus-within .tools': { opacity: 1 },
      }}
    >
      <ButtonBase
        onClick={() => {
          onChoose();
          if (loaded) transport.seekSource(clip.id, Math.floor(frameCount(loaded.record.facts.table) / 2));
        }}
        aria-pressed={chosen}
        title={loaded ? `${clip.name}, ${factsLine(loaded)}` : clip.name}
        sx={{ display: 'block', width: '100%', p: 0.5, borderRadius: 2, textAlign: 'left' }}
      >
        <canvas
          ref={canvas}
          style={{
            width: told ? 64 : '100%',
            aspectRatio: '16 / 9',
            objectFit: 'cover',
            borderRadius: 4,
            background: '#000',
            display: 'block',
          }}
        />
        <Box component="span" sx={visuallyHidden}>
          Show on the source strip:{' '}
        </Box>
        <Box
          sx={{
            fontSize: 11.5,
            mt: '2px',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            whiteSpace: 'nowrap',
          }}
        >
          {clip.name.replace(/\.[^.]+$/, '')}
        </Box>
        <Box sx={{ fontSize: 10.5, fontFamily: mono, color: colors.quiet, whiteSpace: 'nowrap' }}>
          {facts}
        </Box>
      </ButtonBase>
      <Box
        className="tools"
        sx={{
          position: 'absolute',
          right: 4,
          top: 4,
          display: 'flex',
          opacity: 0,
          bgcolor: `${colors.ground}d9`,
          borderRadius: 1,
        }}
      >
        <Tooltip title="Add a piece of this clip at the end">
          <span>
            <IconButton
              size="small"
              disabled={!loaded}
              aria-label={`Add a piece of ${clip.name}`}
              onClick={append}
            >
              <Plus size={15} />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title="Take the clip and its pieces out">
          <IconButton
            size="small"
            aria-label={`Take out ${clip.name}`}
            onClick={() => act(`take out ${clip.name}`, (p) => removeClip(p, clip.id))}
          >
            <Trash2 size={15} />
          </IconButton>
        </Tooltip>
      </Box>
      {told && (
        <Box sx={{ px: 1, pb: 1 }}>
          {missing && (
            <>
              <NoticeLine
                notice={{
                  code: 'missing',
                  level: 'warning',
                  text: `${clip.name} is not in this browser any more.`,
                  wayOut: 'Its pieces are kept. Choose the file, or drop it here.',
                }}
              />
              <Button size="small" variant="outlined" color="inherit" component="label" sx={{ mt: 0.5 }}>
                Choose the file
                <input
                  type="file"
                  hidden
                  aria-label={`Choose the file of ${clip.name}`}
                  onChange={(event) => {
                    const file = event.target.files?.[0];
                    if (file) void relink(clip, file).then(setTrouble);
                  }}
                />
              </Button>
            </>
          )}
          {trouble && <NoticeLine notice={trouble} />}
          {notices.map((n) => (
            <NoticeLine key={n.code} notice={n} />
          ))}
        </Box>
      )}
    </Box>
  );
}
