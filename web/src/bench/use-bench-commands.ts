import { firstNow } from '../state/counting';
import { frameCount } from '@skipback/core/clip/frame-table';
import { isPartial } from '@skipback/core/looks/as-grey';
import { withEdge } from '@skipback/core/edit/ordered';
import { segmentAt, shownBy } from '@skipback/core/path/path';
import { addMark, addPiece, addStep, setSpan } from '@skipback/core/project/actions';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import { setClipSound } from '@skipback/core/project/song-actions';
import { type Project, pieceOf } from '@skipback/core/project/schema';
import { frame, frameWithin } from '@skipback/core/time/units';
import { sentenceOf } from '@skipback/media/worker-client';
import { useSnackbar } from 'notistack';
import { useCommands } from '../commands/use-commands';
import { TROUBLE } from '../notices';
import { chooseTrack } from '../picture/tracks-menu';
import { toggleBars } from '../state/bar-loop';
import { openCard } from '../state/cards';
import { freshId } from '../state/ids';
import type { ClipState, LoadedClip } from '../state/library';
import { editOnPicture, useOnPicture } from '../state/on-picture';
import { setOpen, useOpen } from '../state/open';
import { NEAR_FRAMES, setPlaying, usePlaying } from '../state/playing';
import { act } from '../state/project-store';
import { select, selectPiece, useSelection } from '../state/selection';
import { transport } from '../state/transport';
import { fitViews, sourceViewOf, toggleAroundSpan, useViews, zoomResult, zoomSource } from '../state/views';
import { openVariations } from '../variations/open-variations';
import { pieceCommands } from './piece-commands';
import { selectedCommands } from './selected-commands';
import { saveStill } from './still';
import { placeLookedAt } from '../state/begins';
import { underEye, underPlayhead } from './under-eye';

interface Situation {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly piece: CompiledPiece | undefined;
  readonly clips: readonly ClipState[];
  /** The clip on the source strip. */
  readonly clip: LoadedClip | undefined;
  readonly chooseFiles: () => void;
}

const NO_CLIP = 'There is no clip yet: bring one in.';

/** The piece and segment at a result frame. */
function segmentAtFrame(compiled: CompiledProject, position: number) {
  const at = compiled.pieces.findLast((p) => p.startFrame <= position);
  const found = at && segmentAt(at.compiled.path, position - at.startFrame);
  return at && found && { pieceId: at.compiled.piece.id, segment: found.index };
}

/** Plays near what is selected; with nothing selected, near the segment under the playhead. */
function toggleNear(compiled: CompiledProject): void {
  const { nearFrames, position } = usePlaying.getState();
  const { segment } = useSelection.getState();
  if (nearFrames !== null) return setPlaying({ nearFrames: null });
  const under = segment === null ? segmentAtFrame(compiled, position) : undefined;
  setPlaying({ nearFrames: NEAR_FRAMES });
  if (under) selectPiece(under.pieceId, under.segment);
}

/** Selects the segment after or before the selected one, and looks at it. */
function selectSegment(compiled: CompiledProject, by: 1 | -1): void {
  const { pieceId, segment } = useSelection.getState();
  const { position } = usePlaying.getState();
  const rows = compiled.pieces.flatMap(({ startFrame, compiled: p }) => {
    const rows = shownBy(p.path).map(({ first, end }, index) => ({
      pieceId: p.piece.id,
      index,
      from: frame(startFrame + first),
      shows: end > first,
    }));
    return rows.filter((r) => r.shows);
  });
  const under = segmentAtFrame(compiled, position);
  const now = rows.findIndex((r) =>
    segment === null
      ? r.pieceId === under?.pieceId && r.index === under.segment
      : r.pieceId === pieceId && r.index === segment,
  );
  const next = rows[segment === null ? now : now + by];
  if (!next) return;
  selectPiece(next.pieceId, next.index);
  transport.seekResult(next.from);
}

/** Says what the bench does for commands. */
export function useBenchCommands({ project, compiled, piece, clips, clip, chooseFiles }: Situation): void {
  const { enqueueSnackbar } = useSnackbar();
  const eye = () => underEye(compiled, clips);

  const setEdge = (edge: 'in' | 'out') => {
    const at = eye();
    if (typeof at === 'string') return at;
    const { count, frame } = at;
    const of = at.piece ?? (piece?.clip.id === at.clip.clip.id ? piece : undefined);
    if (!of) {
      const id = freshId();
      const span = edge === 'in' ? { in: frame, out: count } : { in: 0, out: frame + 1 };
      act('set the span', (p) =>
        addPiece(p, pieceOf({ id, clipId: at.clip.clip.id, span, chain: [], between: p.between })),
      );
      return selectPiece(id);
    }
    const { span } = of.piece;
    const { from, to, gaveWay } =
      edge === 'in'
        ? withEdge({ from: span.in, to: span.out }, 'from', frame, count)
        : withEdge({ from: span.in, to: span.out }, 'to', frame + 1, count);
    selectPiece(of.piece.id);
    act('set the span', (p) => setSpan(p, of.piece.id, { in: from, out: to }, count));
    if (gaveWay) return `The span’s ${edge === 'in' ? 'end' : 'beginning'} gave way: it is one frame now.`;
    return from === span.in && to === span.out
      ? `The span ${edge === 'in' ? 'begins' : 'ends'} here already.`
      : undefined;
  };

  const step = (by: number) => {
    const { showing, position, sourceFrame } = usePlaying.getState();
    if (showing === 'result') return transport.seekResult(frame(position + by));
    const at = underPlayhead(compiled, clips);
    if (typeof at === 'string') return at;
    return transport.seekSource(at.clip.clip.id, frameWithin(sourceFrame + by, at.count));
  };

  const end = (last: boolean) => {
    if (usePlaying.getState().showing === 'result')
      return transport.seekResult(frame(last ? compiled.totalFrames - 1 : 0));
    const at = underPlayhead(compiled, clips);
    if (typeof at === 'string') return at;
    return transport.seekSource(at.clip.clip.id, frame(last ? at.count - 1 : 0));
  };

  const mark = () => {
    const at = eye();
    if (typeof at === 'string') return at;
    const { clip: of } = at.clip;
    const name = `mark ${of.marks.length + 1}`;
    act(`add ${name}`, (p) => addMark(p, of.id, { id: freshId(), name, frame: at.frame }));
    // Where it is not on the strip it is said where it went.
    return of.id === clip?.clip.id ? undefined : `${name} is at frame ${at.frame + firstNow()} of ${of.name}`;
  };

  const still = () => {
    void saveStill(project, compiled, clips)
      .then((told) => enqueueSnackbar(told))
      .catch((problem: unknown) =>
        enqueueSnackbar(sentenceOf(problem, 'The picture could not be made.'), TROUBLE),
      );
  };

  const hold = () => {
    const at = underPlayhead(compiled, clips);
    if (typeof at === 'string') return at;
    if (!at.piece) return 'Look at a frame of the result, then hold it.';
    const { piece: of, startFrame } = at;
    const id = freshId();
    const held = placeLookedAt(of, startFrame) ?? usePlaying.getState().position - startFrame;
    selectPiece(of.piece.id);
    act('hold the frame shown', (p) => addStep(p, of.piece.id, { id, move: 'hold', values: { at: held } }));
    return openCard('move', id);
  };

  const swap = () => {
    const { showing, position } = usePlaying.getState();
    if (showing === 'source') return transport.seekResult(position);
    const at = eye();
    if (typeof at === 'string') return at;
    if (at.piece) selectPiece(at.piece.piece.id);
    return transport.seekSource(at.clip.clip.id, frame(at.frame));
  };

  const seeGrey = () => {
    const { greyLook } = useOpen.getState();
    if (greyLook !== null) return setOpen({ greyLook: null });
    const looks = [...project.looks, ...project.pieces.flatMap((p) => p.looks)];
    const look = looks.find((l) => l.id === useSelection.getState().lookId);
    if (look && isPartial(look)) return setOpen({ greyLook: look.id });
    return 'Select a look with a region or a matte: W shows where it applies.';
  };
  const loops = () => {
    const repeats = !usePlaying.getState().loops;
    setPlaying({ loops: repeats });
    const playing = usePlaying.getState().step;
    if (playing !== 0) transport.play(playing);
    return repeats ? 'Repeats' : 'Plays once';
  };
  const follow = () => {
    const follows = !useOpen.getState().follows;
    setOpen({ follows });
    return follows ? 'Follows the playhead' : 'Stays where it is';
  };
  const zoom = (factor: number) => zoomResult(factor, usePlaying.getState().position, compiled.totalFrames);
  const zoomClip = (factor: number) => {
    if (!clip) return NO_CLIP;
    const count = frameCount(clip.record.facts.table);
    const at = eye();
    const here = typeof at !== 'string' && at.clip.clip.id === clip.clip.id ? at.frame : undefined;
    return zoomSource(clip.clip.id, factor, here ?? middleOf(clip.clip.id, count), count);
  };
  const around = () => {
    if (!clip) return NO_CLIP;
    if (!piece || piece.clip.id !== clip.clip.id) return `The selected piece is not of ${clip.clip.name}.`;
    return toggleAroundSpan(clip.clip.id, piece.piece.span, frameCount(clip.record.facts.table));
  };
  const deselect = () => {
    if (useOpen.getState().greyLook !== null) setOpen({ greyLook: null });
    else if (useOnPicture.getState().editing) editOnPicture(null);
    else select({ segment: null });
  };
  const offer = () => {
    const offers = ['moves', 'looks', 'recipes'] as const;
    const { offered } = useOpen.getState();
    setOpen({ offered: offers[(offers.indexOf(offered) + 1) % offers.length]!, offerOpen: true });
  };
  const track = () => {
    const at = eye();
    if (typeof at !== 'string') {
      if (at.piece) selectPiece(at.piece.piece.id);
      return chooseTrack(at.clip, 'point', at.frame);
    }
    return clip ? chooseTrack(clip, 'point', undefined) : at;
  };
  const empty = compiled.totalFrames === 0 ? { why: 'There is nothing to play yet.' } : undefined;
  const none = piece ? undefined : { why: 'There is no piece yet.' };

  useCommands({
    play: empty ?? (() => transport.toggle()),
    forward: empty ?? (() => transport.shuttle(1)),
    backward: empty ?? (() => transport.shuttle(-1)),
    stop: () => transport.pause(),
    previous: () => step(-1),
    next: () => step(1),
    previousTen: () => step(-10),
    nextTen: () => step(10),
    first: () => end(false),
    last: () => end(true),
    wholeClip: () => {
      if (!piece) return 'There is no piece yet.';
      const count = frameCount(piece.table);
      const { span, id } = piece.piece;
      if (span.in === 0 && span.out === count) return 'It is the whole clip already.';
      return act('set the span', (p) => setSpan(p, id, { in: 0, out: count }, count));
    },
    spanIn: () => setEdge('in'),
    spanOut: () => setEdge('out'),
    mark,
    hold,
    // Held down, it repeats: only its first press opens or closes.
    hand: none ?? ((event) => (event?.repeat ? undefined : setOpen({ byHand: !useOpen.getState().byHand }))),
    grey: seeGrey,
    still,
    swap,
    loops,
    half: () => (transport.togglePace() === 1 ? 'Full speed' : 'Half speed'),
    bar: () => toggleBars(project, 1),
    fourBars: () => toggleBars(project, 4),
    mute: () => (transport.toggleMuted() ? 'Sound off' : 'Sound on'),
    ownSound: () => {
      const on = !project.clipSound.on;
      act(`the clips’ own sound ${on ? 'on' : 'off'}`, (p) => setClipSound(p, { on }));
      return on ? 'The clips’ own sound is heard' : 'The clips’ own sound is off';
    },
    near: empty ?? (() => toggleNear(compiled)),
    follow,
    threads: () => setOpen({ mode: 'threads' }),
    curve: () => setOpen({ mode: 'curve' }),
    speed: () => setOpen({ mode: 'speed' }),
    grid: () => setOpen({ mode: 'grid' }),
    closer: () => zoom(0.6),
    wider: () => zoom(1 / 0.6),
    sourceCloser: () => zoomClip(0.6),
    sourceWider: () => zoomClip(1 / 0.6),
    fit: () => fitViews(),
    around,
    nextSegment: () => selectSegment(compiled, 1),
    previousSegment: () => selectSegment(compiled, -1),
    deselect,
    track,
    variations: none ?? (() => openVariations(piece!, project)),
    offer,
    saveRecipe: none ?? (() => setOpen({ offered: 'recipes', offerOpen: true, savingRecipe: true })),
    column: () => setOpen({ column: !useOpen.getState().column }),
    safeAreas: () => setOpen({ safeAreas: !useOpen.getState().safeAreas }),
    stats: () => setOpen({ showStats: !useOpen.getState().showStats }),
    import: chooseFiles,
    ...pieceCommands(compiled, piece),
    ...selectedCommands(project, piece),
  });
}

/** The middle of what is seen of a clip. */
function middleOf(clipId: string, count: number): number {
  const { from, to } = sourceViewOf(useViews.getState(), clipId, count);
  return (from + to) / 2;
}
