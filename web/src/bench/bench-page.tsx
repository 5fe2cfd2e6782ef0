import { Box, Button, IconButton, Tooltip } from '@mui/material';
import type { Project } from '@skipback/core/project/schema';
import { CircleQuestionMark, Disc3, History, Redo2, Undo2 } from 'lucide-react';
import { asGrey } from '@skipback/core/looks/as-grey';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link } from 'react-router';
import { HandPlay } from '../hand/hand-play';
import { HelpSheet } from '../help/help-sheet';
import { NoticeLine } from '../parts/notice-line';
import { TopBar } from '../parts/top-bar';
import { compileWith, useCompiled } from '../state/compiled';
import { importFiles } from '../state/import-files';
import { useClips } from '../state/library';
import { usePlayRange } from '../state/play-range';
import { leaveBench } from '../state/bench';
import { setOpen, useOpen } from '../state/open';
import { select, useSelection } from '../state/selection';
import { useTold } from '../state/told';
import { redo, undo, useCanRedo, useCanUndo } from '../state/project-store';
import { useCopies } from '../state/small-copies';
import { transport } from '../state/transport';
import { Offer } from '../looks/offer';
import { useMix } from '../state/use-mix';
import { useSaveFile } from '../state/use-save-file';
import { colors } from '../theme';
import { Weave } from '../weave/weave';
import { Chain } from './chain';
import { ClipCards } from './clip-cards';
import { FileNotices } from './file-notices';
import { OnPicture } from '../picture/on-picture';
import { Picture } from '../picture/picture';
import { SafeAreas } from '../picture/safe-areas';
import { Readouts } from './readouts';
import { HistorySheet } from './history-sheet';
import { useBenchKeys } from './use-keys';
import { OpenVariations, openVariations } from '../variations/open-variations';
import { VersionFlip } from './version-flip';

/** The main view: moves and clips, the picture, the chain, and the weave under them. */
export function BenchPage({ project }: { readonly project: Project }) {
  const clips = useClips(project);
  const compiled = useCompiled(project, clips);
  // What the picture shows: the project, or where one of its looks applies.
  const greyLook = useOpen((s) => s.greyLook);
  const seen = useMemo(() => (greyLook === null ? project : asGrey(project, greyLook)), [project, greyLook]);
  const compiledSeen = useMemo(
    () => (seen === project ? compiled : compileWith(seen, clips)),
    [seen, project, compiled, clips],
  );
  useEffect(() => {
    // It was taken away, or applies everywhere now.
    if (greyLook !== null && seen === project) setOpen({ greyLook: null });
  }, [greyLook, seen, project]);
  const chosenPiece = useSelection((s) => s.pieceId);
  const trouble = useTold((s) => s.trouble);
  const chosenClip = useSelection((s) => s.clipId);
  const [help, setHelp] = useState(false);
  const [hand, setHand] = useState(false);
  const [history, setHistory] = useState<HTMLElement | null>(null);
  const saveFile = useSaveFile(project);
  const pieceId = project.pieces.find((p) => p.id === chosenPiece)?.id ?? project.pieces[0]?.id ?? null;
  const piece = compiled.pieces.find((p) => p.compiled.piece.id === pieceId)?.compiled;
  const ownClip = project.pieces.find((p) => p.id === pieceId)?.clipId;
  const clip =
    clips.find((c) => c.clip.id === (chosenClip ?? ownClip)) ??
    clips.find((c) => c.clip.id === ownClip) ??
    clips[0];
  const canUndo = useCanUndo();
  const canRedo = useCanRedo();

  useEffect(() => leaveBench, []);
  const loaded = useMemo(() => clips.flatMap((c) => (c.loaded ? [c.loaded] : [])), [clips]);
  const copies = useCopies(loaded);
  useEffect(() => {
    if (clips.some((c) => !c.loaded && !c.missing)) return;
    transport.setClips(loaded, copies);
    transport.setResult(compiledSeen, seen);
  }, [clips, loaded, copies, compiledSeen, seen]);

  useMix(project, compiled, clips);
  const range = usePlayRange(project, compiled, pieceId);
  const historyButton = useRef<HTMLButtonElement>(null);
  useBenchKeys({
    compiled,
    piece,
    clip: clip?.loaded,
    openHelp: () => setHelp(true),
    openVariations: () => piece && openVariations(piece, project),
    openHistory: () => setHistory(historyButton.current),
    toggleHand: () => setHand((on) => !on && piece !== undefined),
  });
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => void importFiles(files),
  });

  return (
    <Box
      {...getRootProps()}
      sx={{ display: 'flex', flexDirection: 'column', height: '100%', position: 'relative', outline: 'none' }}
    >
      <input {...getInputProps({ 'aria-label': 'Choose videos' })} />
      <TopBar project={project} onSaveFile={saveFile}>
        <VersionFlip />
        <Tooltip title="Undo (Ctrl Z)">
          <span>
            <IconButton aria-label="Undo" disabled={!canUndo} onClick={undo}>
              <Undo2 size={18} />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title="Redo (Ctrl Shift Z)">
          <span>
            <IconButton aria-label="Redo" disabled={!canRedo} onClick={redo}>
              <Redo2 size={18} />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title="Play by hand (G)">
          <span>
            <IconButton
              aria-label="Play by hand"
              aria-pressed={hand}
              disabled={!piece}
              onClick={() => setHand(!hand)}
            >
              <Disc3 size={18} />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title="History in pictures (Shift H)">
          <IconButton
            ref={historyButton}
            aria-label="History"
            onClick={(event) => setHistory(event.currentTarget)}
          >
            <History size={18} />
          </IconButton>
        </Tooltip>
        <Tooltip title="Keys and hands (?)">
          <IconButton aria-label="Keys and hands" onClick={() => setHelp(true)}>
            <CircleQuestionMark size={18} />
          </IconButton>
        </Tooltip>
        <Button
          variant="contained"
          component={Link}
          to={`/project/${project.id}/render`}
          disabled={compiled.totalFrames === 0}
        >
          Render
        </Button>
      </TopBar>

      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
        <Box sx={{ flex: '1 1 48%', minHeight: 0, display: 'flex', gap: 2, p: 1.5, px: 2 }}>
          <Box
            sx={{
              width: { xs: 246, xl: 330 },
              flex: 'none',
              display: 'flex',
              flexDirection: 'column',
              gap: 1.5,
              minHeight: 0,
            }}
          >
            <Offer {...{ project, compiled, piece, clips }} clip={clip?.loaded} />
            <FileNotices projectId={project.id} clips={clips} />
          </Box>
          <Box
            sx={{
              flex: 1,
              minWidth: 0,
              display: 'flex',
              flexDirection: 'column',
              gap: 0.5,
              position: 'relative',
            }}
          >
            {project.clips.length === 0 ? (
              <Empty onChoose={open} />
            ) : (
              <Picture size={project.size} describe="The picture">
                {(width) => (
                  <>
                    <SafeAreas />
                    <OnPicture project={project} compiled={compiled} clips={clips} width={width} />
                  </>
                )}
              </Picture>
            )}
            {hand && piece && (
              <HandPlay
                piece={piece}
                pieceStart={compiled.pieces.find((p) => p.compiled === piece)?.startFrame ?? 0}
                clip={clips.find((c) => c.clip.id === ownClip)?.loaded}
                gainDb={project.clipSound.gainDb}
                onClose={() => setHand(false)}
              />
            )}
            {trouble && <NoticeLine notice={{ code: 'picture', level: 'error', text: trouble }} />}
          </Box>
          <Box
            sx={{
              width: { xs: 290, xl: 380 },
              flex: 'none',
              display: 'flex',
              flexDirection: 'column',
              minHeight: 0,
            }}
          >
            <Chain
              project={compiled}
              compiled={piece}
              rate={project.rate}
              loaded={clips.find((c) => c.clip.id === ownClip)?.loaded}
            />
          </Box>
        </Box>
        <Readouts project={project} compiled={compiled} clips={clips} clip={clip?.loaded} />
        <ClipCards
          clips={clips}
          clipId={clip?.clip.id}
          onChoose={(clipId) => select({ clipId })}
          onImport={open}
        />
        <Box sx={{ flex: '1 1 40%', minHeight: 270, display: 'flex', flexDirection: 'column' }}>
          <Weave project={project} compiled={compiled} clip={clip} pieceId={pieceId} range={range} />
        </Box>
      </Box>
      {isDragActive && (
        <Box
          sx={{
            position: 'absolute',
            inset: 0,
            bgcolor: 'rgba(18,18,18,0.85)',
            display: 'grid',
            placeItems: 'center',
            fontSize: 22,
            fontWeight: 600,
            border: `3px solid ${colors.forward}`,
            zIndex: 10,
          }}
        >
          Drop to import
        </Box>
      )}
      {piece && (
        <OpenVariations
          project={project}
          compiled={compiled}
          piece={piece}
          clip={clips.find((c) => c.clip.id === ownClip)?.loaded}
        />
      )}
      <HistorySheet anchor={history} clips={clips} onClose={() => setHistory(null)} />
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </Box>
  );
}

function Empty({ onChoose }: { onChoose: () => void }) {
  return (
    <Box sx={{ flex: 1, display: 'grid', placeItems: 'center', borderRadius: 1, bgcolor: colors.panel }}>
      <Box sx={{ textAlign: 'center', color: colors.quiet }}>
        <Box sx={{ fontSize: 17, color: colors.ink, fontWeight: 600, mb: 0.5 }}>Drop a video here</Box>
        <Box sx={{ mb: 2 }}>MP4, MOV, WebM or Matroska. It stays on this machine.</Box>
        <Button variant="contained" onClick={onChoose}>
          Choose videos
        </Button>
      </Box>
    </Box>
  );
}
