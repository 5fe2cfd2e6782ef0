import { Box, Button } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import type { Project } from '@skipback/core/project/schema';
import { asGrey } from '@skipback/core/looks/as-grey';
import { useEffect, useMemo, useRef } from 'react';
import { HandPlay } from '../hand/hand-play';
import { NoticeLine } from '../parts/notice-line';
import { compileWith, useCompiled } from '../state/compiled';
import { importFiles } from '../state/import-files';
import { useClips } from '../state/library';
import { usePlayRange } from '../state/play-range';
import { leaveBench } from '../state/bench';
import { setOpen, useOpen } from '../state/open';
import { select, useSelection } from '../state/selection';
import { useShots } from '../state/shots';
import { useTold } from '../state/told';
import { useCopies } from '../state/small-copies';
import { transport } from '../state/transport';
import { useFinds } from '../finder/finds';
import { useRecipes } from '../recipes/own-recipes';
import { usePutRecipe } from '../recipes/use-put-recipe';
import { useFirst } from '../state/counting';
import { useMix } from '../state/use-mix';
import { colors } from '../theme';
import { Weave } from '../weave/weave';
import { ClipsRow } from '../weave/weave-bar';
import { benchFinds } from './bench-finds';
import { BenchLayout } from './bench-layout';
import { ClipCards } from './clip-cards';
import { Column } from './column';
import { OnPicture } from '../picture/on-picture';
import { Picture } from '../picture/picture';
import { SafeAreas } from '../picture/safe-areas';
import { Readouts } from './readouts';
import { useBenchCommands } from './use-bench-commands';
import { OpenVariations } from '../variations/open-variations';

/** The main view: the picture, the weave under it, and the column about the selected piece. */
export function BenchPage({ project }: { readonly project: Project }) {
  const clips = useClips(project);
  useShots(project, clips);
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
  const hand = useOpen((s) => s.byHand);
  const pieceId = project.pieces.find((p) => p.id === chosenPiece)?.id ?? project.pieces[0]?.id ?? null;
  const piece = compiled.pieces.find((p) => p.compiled.piece.id === pieceId)?.compiled;
  const ownClip = project.pieces.find((p) => p.id === pieceId)?.clipId;
  const clip =
    clips.find((c) => c.clip.id === (chosenClip ?? ownClip)) ??
    clips.find((c) => c.clip.id === ownClip) ??
    clips[0];

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
  const chooser = useRef<HTMLInputElement>(null);
  useBenchCommands({ project, compiled, piece, clips, clip: clip?.loaded, chooseFiles: () => open() });
  const open = () => chooser.current?.click();
  const recipes = useRecipes();
  const first = useFirst();
  const putRecipe = usePutRecipe(piece, clips, clip?.loaded);
  useFinds(() => benchFinds({ compiled, piece, clips, recipes, first, putRecipe }));

  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0, position: 'relative' }}>
      <input
        ref={chooser}
        type="file"
        multiple
        hidden
        aria-label="Choose videos"
        onChange={({ target }) => {
          void importFiles([...(target.files ?? [])]);
          target.value = '';
        }}
      />

      <Box component="h1" sx={visuallyHidden}>
        {project.name}
      </Box>
      <BenchLayout
        size={project.size}
        picture={
          <>
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
                onClose={() => setOpen({ byHand: false })}
              />
            )}
            {trouble && <NoticeLine notice={{ code: 'picture', level: 'error', text: trouble }} />}
          </>
        }
        transport={<Readouts project={project} compiled={compiled} clips={clips} clip={clip?.loaded} />}
        weave={
          <ClipsRow.Provider
            value={
              <ClipCards
                clips={clips}
                clipId={clip?.clip.id}
                onChoose={(clipId) => select({ clipId })}
                onImport={open}
              />
            }
          >
            <Weave project={project} compiled={compiled} clip={clip} pieceId={pieceId} range={range} />
          </ClipsRow.Provider>
        }
        column={<Column {...{ project, compiled, piece, clips }} clip={clip?.loaded} />}
      />
      {piece && (
        <OpenVariations
          project={project}
          compiled={compiled}
          piece={piece}
          clip={clips.find((c) => c.clip.id === ownClip)?.loaded}
        />
      )}
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
