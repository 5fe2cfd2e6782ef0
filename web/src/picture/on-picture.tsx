import { Box } from '@mui/material';
import { looksAt } from '@skipback/core/project/look-actions';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { useEffect } from 'react';
import { useCommands } from '../commands/use-commands';
import type { ClipState } from '../state/library';
import { editOnPicture, leavePicture, useOnPicture } from '../state/on-picture';
import { usePlaying } from '../state/playing';
import { EditBar } from './edit-bar';
import { NewHands } from './new-hands';
import { PlacingHands } from './placing-hands';
import { regionGround } from './region-ground';
import { RegionHands } from './region-hands';
import { useSay } from './say';
import { useSeen } from './seen';
import { TrackHands } from './track-hands';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly clips: readonly ClipState[];
  /** Of the picture on the screen. */
  readonly width: number;
}

/** What is edited on the picture, and a bar that says what. Nothing is drawn while it plays. */
export function OnPicture({ project, compiled, clips, width }: Props) {
  const { editing, underWay } = useOnPicture();
  const plays = usePlaying((s) => s.step !== 0 || s.audition !== null);
  const seen = useSeen(project, compiled, clips);
  const position = usePlaying((s) => s.position);
  const say = useSay();
  useEffect(() => leavePicture, [project.id]);
  const { size } = project;
  const scale = width / size.width;
  const track =
    editing?.kind === 'track'
      ? project.clips.find((c) => c.id === editing.clipId)?.tracks.find((t) => t.id === editing.trackId)
      : undefined;
  const look =
    editing?.kind === 'region' || editing?.kind === 'new-polygon' || editing?.kind === 'placing'
      ? looksAt(project, editing.where).find((l) => l.id === editing.lookId)
      : undefined;
  const gone =
    (editing?.kind === 'track' && !track) ||
    (editing?.kind === 'region' && !look?.region) ||
    ((editing?.kind === 'new-polygon' || editing?.kind === 'placing') && !look);
  // Tracks and new corners have another use for it.
  const accepts = editing?.kind === 'region' || editing?.kind === 'placing';
  useCommands(accepts ? { accept: () => editOnPicture(null) } : {});
  useEffect(() => {
    // Taken away, by undo perhaps: there is nothing to edit any more.
    if (gone) editOnPicture(null);
  }, [gone]);
  if (!editing || gone || plays || scale <= 0) return null;

  const ofClip = editing.kind === 'track' || editing.kind === 'new-track' ? editing.clipId : undefined;
  const here = ofClip === undefined || seen?.loaded.clip.id === ofClip;
  const ofPiece = editing.kind === 'region' ? editing.where : null;
  const seenHere =
    ofPiece === null
      ? seen
      : seen && (seen.pieceId ?? ofPiece) === ofPiece && isOfClip(project, ofPiece, seen.loaded.clip.id)
        ? seen
        : undefined;
  const ground =
    editing.kind === 'region' && look?.region
      ? regionGround(seenHere, editing.where, look.region, position)
      : undefined;
  return (
    <>
      <Box
        data-testid="on-picture"
        sx={{ position: 'absolute', inset: 0, pointerEvents: 'none', '& > *': { pointerEvents: 'none' } }}
      >
        {(editing.kind === 'new-track' || editing.kind === 'new-polygon') && here && (
          <NewHands editing={editing} seen={seen} size={size} scale={scale} say={say} />
        )}
        {editing.kind === 'track' && track && here && seen && (
          <TrackHands seen={seen} track={track} size={size} scale={scale} underWay={underWay} say={say} />
        )}
        {editing.kind === 'placing' && look && (
          <PlacingHands where={editing.where} look={look} size={size} scale={scale} />
        )}
        {editing.kind === 'region' && look?.region && ground && (
          <RegionHands
            where={editing.where}
            lookId={editing.lookId}
            region={look.region}
            ground={ground}
            size={size}
            scale={scale}
          />
        )}
      </Box>
      <EditBar
        project={project}
        editing={editing}
        seen={here ? seen : undefined}
        track={track}
        look={look}
        ground={ground}
        say={say}
      />
    </>
  );
}

const isOfClip = (project: Project, pieceId: string, clipId: string): boolean =>
  project.pieces.find((p) => p.id === pieceId)?.clipId === clipId;
