import { frame } from '@skipback/core/time/units';
import { Box, ButtonBase, IconButton, Tooltip } from '@mui/material';
import { durationOf, frameCount, meanRateHz } from '@skipback/core/clip/frame-table';
import { addPiece, removeClip } from '@skipback/core/project/actions';
import { newPiece } from '@skipback/core/project/new-project';
import { FolderPlus, Plus, Trash2 } from 'lucide-react';
import { visuallyHidden } from '@mui/utils';
import { useEffect, useRef } from 'react';
import { Name } from '../parts/name';
import { freshId } from '../state/ids';
import { type ClipState, type LoadedClip, useThumbnails } from '../state/library';
import { selectPiece } from '../state/selection';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors } from '../theme';

interface Props {
  readonly clips: readonly ClipState[];
  readonly clipId: string | undefined;
  readonly onChoose: (clipId: string) => void;
  readonly onImport: () => void;
}

const CARD_HEIGHT = 30;

/** The project's clips in a row over the source strip; pressing one puts it there. */
export function ClipCards({ clips, clipId, onChoose, onImport }: Props) {
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 0.5,
        ml: -0.5,
        height: CARD_HEIGHT + 6,
        minWidth: 0,
      }}
    >
      <Tooltip title="Import videos and pictures; or drop them anywhere">
        <IconButton size="small" aria-label="Import videos" onClick={onImport}>
          <FolderPlus size={17} />
        </IconButton>
      </Tooltip>
      <Box
        role="group"
        aria-label="Clips"
        sx={{ display: 'flex', gap: 0.5, overflowX: 'auto', scrollbarWidth: 'none', minWidth: 0 }}
      >
        {clips.map((state) => (
          <ClipCard
            key={state.clip.id}
            state={state}
            chosen={state.clip.id === clipId}
            onChoose={() => onChoose(state.clip.id)}
          />
        ))}
      </Box>
    </Box>
  );
}

function factsLine(loaded: LoadedClip): string {
  const { facts } = loaded.record;
  if (frameCount(facts.table) === 1) return 'still';
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
    act(`add a piece of ${clip.name}`, (p) =>
      addPiece(p, newPiece(id, clip.id, loaded!.record.facts.table, p.between)),
    );
    selectPiece(id);
  };
  const facts = loaded ? (thumbnails ? factsLine(loaded) : 'reading') : missing ? 'not here' : ' ';
  return (
    <Box
      sx={{
        flex: 'none',
        // Its middle is free of the tools, which come under the pointer.
        minWidth: 118,
        maxWidth: 156,
        borderRadius: 1.5,
        position: 'relative',
        bgcolor: chosen ? colors.raised : colors.panel,
        boxShadow: chosen ? `inset 0 0 0 1.5px ${colors.quiet}` : 'none',
        '&:hover .tools, &:focus-within .tools': { opacity: 1 },
      }}
    >
      <ButtonBase
        onClick={() => {
          onChoose();
          if (loaded)
            transport.seekSource(clip.id, frame(Math.floor(frameCount(loaded.record.facts.table) / 2)));
        }}
        aria-pressed={chosen}
        title={loaded ? `${clip.name}, ${factsLine(loaded)}` : clip.name}
        sx={{
          display: 'flex',
          gap: 0.75,
          width: '100%',
          height: CARD_HEIGHT,
          p: 0.375,
          pr: 1,
          borderRadius: 2,
          textAlign: 'left',
          justifyContent: 'flex-start',
        }}
      >
        <canvas
          ref={canvas}
          style={{
            height: '100%',
            aspectRatio: '16 / 9',
            objectFit: 'cover',
            borderRadius: 4,
            background: '#000',
            flex: 'none',
          }}
        />
        <Box component="span" sx={visuallyHidden}>
          Show on the source strip:{' '}
        </Box>
        <Box sx={{ flex: 1, minWidth: 0, fontSize: 12.5, ...(missing && { color: colors.attention }) }}>
          <Name of={clip.name.replace(/\.[^.]+$/, '')} />
        </Box>
        <Box component="span" sx={visuallyHidden}>
          {facts}
        </Box>
      </ButtonBase>
      <Box
        className="tools"
        sx={{
          position: 'absolute',
          right: 2,
          top: 2,
          display: 'flex',
          opacity: 0,
          bgcolor: `${colors.ground}d9`,
          borderRadius: 1,
        }}
      >
        <Tooltip title="Add a piece of this clip at the end" describeChild>
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
        <Tooltip title="Remove the clip and its pieces">
          <IconButton
            size="small"
            aria-label={`Remove ${clip.name}`}
            onClick={() => act(`remove ${clip.name}`, (p) => removeClip(p, clip.id))}
          >
            <Trash2 size={15} />
          </IconButton>
        </Tooltip>
      </Box>
    </Box>
  );
}
