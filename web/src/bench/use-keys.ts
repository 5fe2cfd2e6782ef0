import { frame, frameWithin } from '@skipback/core/time/units';
import { frameCount } from '@skipback/core/clip/frame-table';
import { isPartial } from '@skipback/core/looks/as-grey';
import { addMark, addPiece, addStep, setSpan } from '@skipback/core/project/actions';
import { segmentAt, shownBy } from '@skipback/core/path/path';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import { useSnackbar } from 'notistack';
import { TROUBLE, useSaying } from '../notices';
import { useNavigate } from 'react-router';
import { useHistoryWords } from '../keys/use-history-words';
import { useKeys } from '../keys/use-keys';
import { importClient } from '@skipback/media/import/import-client';
import { download, fileName } from '../state/download';
import { pieceOf } from '@skipback/core/project/schema';
import { chooseTrack } from '../picture/tracks-menu';
import { freshId } from '../state/ids';
import type { LoadedClip } from '../state/library';
import { toggleBars } from '../state/bar-loop';
import { setOpen, useOpen } from '../state/open';
import { NEAR_FRAMES, setPlaying, usePlaying } from '../state/playing';
import { select, selectPiece, useSelection } from '../state/selection';
import { editOnPicture, useOnPicture } from '../state/on-picture';
import { act, flip, useProjectStore } from '../state/project-store';
import { transport } from '../state/transport';
import { fitViews, toggleAroundSpan, zoomResult, zoomSource } from '../state/views';

interface Situation {
  readonly compiled: CompiledProject;
  readonly piece: CompiledPiece | undefined;
  /** The clip on the source strip. */
  readonly clip: LoadedClip | undefined;
  readonly openHelp: () => void;
  readonly openVariations: () => void;
  readonly openHistory: () => void;
  readonly toggleHand: () => void;
}

/** The clip frame under the eye: the one scrubbed, or the one the result shows. */
function frameUnderEye({ compiled, clip }: Situation): number | undefined {
  const { showing, position, sourceFrame, peek } = usePlaying.getState();
  if (peek?.kind === 'source' && peek.clipId === clip?.clip.id) return peek.frame;
  if (showing === 'source') return sourceFrame;
  const at = compiled.pieces.findLast((p) => p.startFrame <= position);
  return at && at.compiled.clip.id === clip?.clip.id
    ? at.compiled.shown[position - at.startFrame]
    : undefined;
}

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

/** Binds the keys of the bench. */
export function useBenchKeys(now: Situation): void {
  const { enqueueSnackbar } = useSnackbar();
  const say = useSaying();
  const navigate = useNavigate();
  const { compiled, piece, clip } = now;

  const setEdge = (edge: 'in' | 'out') => {
    const at = frameUnderEye(now);
    if (at === undefined || !clip) return;
    const count = frameCount(clip.record.facts.table);
    if (!piece || piece.clip.id !== clip.clip.id) {
      const id = freshId();
      const span = edge === 'in' ? { in: at, out: count } : { in: 0, out: at + 1 };
      act('set the span', (p) =>
        addPiece(p, pieceOf({ id, clipId: clip.clip.id, span, chain: [], between: p.between })),
      );
      return select({ pieceId: id });
    }
    const { span } = piece.piece;
    const next =
      edge === 'in'
        ? { in: at, out: Math.max(span.out, at + 1) }
        : { in: Math.min(span.in, at), out: at + 1 };
    act('set the span', (p) => setSpan(p, piece.piece.id, next, count));
  };

  const step = (by: number) => {
    const { showing, position, sourceFrame } = usePlaying.getState();
    if (showing === 'result') return transport.seekResult(frame(position + by));
    if (!clip) return;
    transport.seekSource(clip.clip.id, frameWithin(sourceFrame + by, frameCount(clip.record.facts.table)));
  };

  const end = (last: boolean) => {
    if (usePlaying.getState().showing === 'result')
      return transport.seekResult(frame(last ? compiled.totalFrames - 1 : 0));
    if (clip) transport.seekSource(clip.clip.id, frame(last ? frameCount(clip.record.facts.table) - 1 : 0));
  };

  const mark = () => {
    const at = frameUnderEye(now);
    if (at === undefined || !clip) return;
    const name = `mark ${clip.clip.marks.length + 1}`;
    act(`add ${name}`, (p) => addMark(p, clip.clip.id, { id: freshId(), name, frame: at }));
  };

  const still = async () => {
    const at = frameUnderEye(now);
    if (at === undefined || !clip) return;
    try {
      download(
        await importClient.still(clip.source, at),
        `${fileName(clip.clip.name.replace(/\.[^.]+$/, ''))}-${at}.png`,
      );
      enqueueSnackbar(`Frame ${at} is saved as a PNG`);
    } catch {
      enqueueSnackbar(`Frame ${at} cannot be decoded.`, TROUBLE);
    }
  };

  const hold = () => {
    const { showing, position } = usePlaying.getState();
    const start = compiled.pieces.find((p) => p.compiled === piece)?.startFrame ?? 0;
    if (!piece || showing !== 'result' || position < start || position >= start + piece.shown.length)
      return void enqueueSnackbar('Look at a frame of the selected piece in the result, then hold it.');
    const id = freshId();
    act('hold the frame shown', (p) =>
      addStep(p, piece.piece.id, { id, move: 'hold', values: { at: position - start } }),
    );
    select({ stepId: id });
  };

  const swap = () => {
    const { showing, position } = usePlaying.getState();
    if (showing === 'source') return transport.seekResult(position);
    const at = frameUnderEye(now);
    if (clip && at !== undefined) transport.seekSource(clip.clip.id, frame(at));
  };

  const seeGrey = () => {
    const { project } = useProjectStore.getState();
    const { greyLook } = useOpen.getState();
    const { lookId } = useSelection.getState();
    if (greyLook !== null) return setOpen({ greyLook: null });
    const looks = project ? [...project.looks, ...project.pieces.flatMap((p) => p.looks)] : [];
    const look = looks.find((l) => l.id === lookId);
    if (look && isPartial(look)) return setOpen({ greyLook: look.id });
    say('Select a look with a region or a matte: W shows where it applies.');
  };
  const loops = () => {
    const repeats = !usePlaying.getState().loops;
    setPlaying({ loops: repeats });
    say(repeats ? 'Repeats' : 'Plays once');
    const playing = usePlaying.getState().step;
    if (playing !== 0) transport.play(playing);
  };
  const bars = (count: number) => {
    const { project } = useProjectStore.getState();
    if (project) say(toggleBars(project, count));
  };
  const follow = () => {
    const follows = !useOpen.getState().follows;
    setOpen({ follows });
    say(follows ? 'Follows the playhead' : 'Stays where it is');
  };
  const zoom = (factor: number) => zoomResult(factor, usePlaying.getState().position, compiled.totalFrames);
  const zoomClip = (factor: number) => {
    const at = frameUnderEye(now);
    if (clip && at !== undefined) zoomSource(clip.clip.id, factor, at, frameCount(clip.record.facts.table));
  };
  const around = () => {
    if (!piece || !clip || piece.clip.id !== clip.clip.id) return;
    toggleAroundSpan(clip.clip.id, piece.piece.span, frameCount(clip.record.facts.table));
  };
  const deselect = () => {
    if (useOpen.getState().greyLook !== null) setOpen({ greyLook: null });
    else if (useOnPicture.getState().editing) editOnPicture(null);
    else select({ segment: null });
  };
  const offer = () => {
    const offers = ['moves', 'looks', 'recipes'] as const;
    const { offered } = useOpen.getState();
    setOpen({ offered: offers[(offers.indexOf(offered) + 1) % offers.length]! });
  };
  const render = () => {
    const { project } = useProjectStore.getState();
    if (project) void navigate(`/project/${project.id}/render`);
  };

  useKeys({
    play: () => transport.toggle(),
    forward: () => transport.shuttle(1),
    backward: () => transport.shuttle(-1),
    stop: () => transport.pause(),
    previous: () => step(-1),
    next: () => step(1),
    previousTen: () => step(-10),
    nextTen: () => step(10),
    first: () => end(false),
    last: () => end(true),
    spanIn: () => setEdge('in'),
    spanOut: () => setEdge('out'),
    mark,
    hold,
    // Held down, it repeats: only its first press opens or closes.
    hand: (event) => !event.repeat && now.toggleHand(),
    grey: seeGrey,
    still: () => void still(),
    swap,
    loops,
    half: () => say(transport.togglePace() === 1 ? 'Full speed' : 'Half speed'),
    bar: () => bars(1),
    fourBars: () => bars(4),
    mute: () => void transport.toggleMuted(),
    near: () => toggleNear(compiled),
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
    track: () => clip && chooseTrack(clip, 'point', frameUnderEye(now)),
    variations: now.openVariations,
    offer,
    saveRecipe: () => setOpen({ offered: 'recipes', savingRecipe: true }),
    safeAreas: () => setOpen({ safeAreas: !useOpen.getState().safeAreas }),
    history: now.openHistory,
    flip: () => say(`Version ${flip()}`),
    stats: () => setOpen({ showStats: !useOpen.getState().showStats }),
    ...useHistoryWords(),
    render,
    help: now.openHelp,
  });
}
