import { Box } from '@mui/material';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { Offer } from '../looks/offer';
import type { ClipState, LoadedClip } from '../state/library';
import { colors } from '../theme';
import { Chain } from './chain';
import { FileNotices } from './file-notices';
import { Listens } from './listens';
import { PieceHead } from './piece-head';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly piece: CompiledPiece | undefined;
  readonly clips: readonly ClipState[];
  /** The clip on the source strip. */
  readonly clip: LoadedClip | undefined;
}

/** All about the selected piece, from top to bottom: what it is, what is offered, what is done to it. */
export function Column({ project, compiled, piece, clips, clip }: Props) {
  const startFrame = compiled.pieces.find((p) => p.compiled === piece)?.startFrame ?? 0;
  const own = clips.find((c) => c.clip.id === piece?.clip.id)?.loaded;
  return (
    <Box
      role="region"
      aria-label="The selected piece"
      sx={{
        flex: 1,
        minWidth: 0,
        minHeight: 0,
        display: 'flex',
        flexDirection: 'column',
        gap: 1,
        px: 1.25,
        py: 0.75,
        overflowY: 'auto',
        scrollbarWidth: 'thin',
      }}
    >
      {piece ? (
        <PieceHead project={compiled} compiled={piece} rate={project.rate} loaded={own} />
      ) : (
        <Box sx={{ color: colors.quiet, py: 1 }}>
          {compiled.beyond.length > 0
            ? 'What there is would last longer than six hours, the most a result may. Undo, or play its clip at another rate.'
            : 'No piece yet. Import a clip, find the moment, and set a span with I and O.'}
        </Box>
      )}
      <FileNotices projectId={project.id} clips={clips} />
      {piece && <Listens piece={piece} startFrame={startFrame} />}
      <Offer {...{ project, compiled, piece, clips, clip }} />
      {piece && <Chain project={compiled} compiled={piece} rate={project.rate} />}
    </Box>
  );
}
