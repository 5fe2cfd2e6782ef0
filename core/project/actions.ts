import { current, produce } from 'immer';
import { withoutPlaces } from '../moves/place-values';
import type { AppliedStep } from '../moves/chain';
import { type Zone, ZoneSchema, moveById, type ChainStep, valuesOf } from '../moves/registry';
import { withoutMark } from '../places/moved';
import { type Rational, toNumber } from '../time/rational';
import { lookAtRate, pieceAtRate } from './at-rate';
import type { Clip, Framing, Piece, Project, Span } from './schema';

/**
 * Every change a person can make to a project. Each returns a new project and leaves the old one as
 * it was; a change that names something that is not there, or changes nothing, returns the same object.
 */
const change = (project: Project, recipe: (draft: Project) => void): Project => produce(project, recipe);

const pieceIn = (project: Project, pieceId: string): Piece | undefined =>
  project.pieces.find((p) => p.id === pieceId);

export function renameProject(project: Project, name: string): Project {
  const trimmed = name.trim().slice(0, 200);
  return trimmed === '' ? project : change(project, (d) => void (d.name = trimmed));
}

/** Another rate or picture size. What lies at an instant of the result stays there. */
export function setFormat(
  project: Project,
  format: { rate: Rational; size: { width: number; height: number } },
): Project {
  const times = toNumber(format.rate) / toNumber(project.rate);
  return change(project, (d) => {
    if (d.song) d.song.startFrame = Math.round(d.song.startFrame * times);
    for (const sound of d.placed) {
      sound.at = Math.round(sound.at * times);
      sound.frames = Math.max(1, Math.round(sound.frames * times));
    }
    if (times !== 1) d.pieces = d.pieces.map((p) => pieceAtRate(current(p), times));
    if (times !== 1) d.looks = d.looks.map((l) => lookAtRate(current(l), times));
    d.rate = format.rate;
    d.size = format.size;
  });
}

export function addClip(project: Project, clip: Clip): Project {
  return change(project, (d) => void d.clips.push(clip));
}

/** Lets a clip read other media: its file found again, or another in its place. */
export function relinkClip(project: Project, clipId: string, mediaId: string): Project {
  return change(project, (d) => {
    const clip = d.clips.find((c) => c.id === clipId);
    if (clip) clip.mediaId = mediaId;
  });
}

/** Takes a clip out, with the pieces that read it. */
export function removeClip(project: Project, clipId: string): Project {
  return change(project, (d) => {
    d.clips = d.clips.filter((c) => c.id !== clipId);
    d.pieces = d.pieces.filter((p) => p.clipId !== clipId);
  });
}

export function addPiece(project: Project, piece: Piece): Project {
  return change(project, (d) => void d.pieces.push(piece));
}

export function removePiece(project: Project, pieceId: string): Project {
  return change(project, (d) => void (d.pieces = d.pieces.filter((p) => p.id !== pieceId)));
}

/** Sets the span, in order and at least a frame long, inside a clip of `clipFrames` frames. */
export function setSpan(project: Project, pieceId: string, span: Span, clipFrames: number): Project {
  const first = Math.min(Math.max(0, Math.min(span.in, span.out - 1)), clipFrames - 1);
  const end = Math.min(Math.max(first + 1, span.out), clipFrames);
  return change(project, (d) => {
    const piece = pieceIn(d, pieceId);
    if (piece) Object.assign(piece.span, { in: first, out: end });
  });
}

export function addMark(
  project: Project,
  clipId: string,
  mark: { id: string; name: string; frame: number },
): Project {
  return change(project, (d) => {
    const clip = d.clips.find((c) => c.id === clipId);
    if (!clip || clip.marks.some((m) => m.frame === mark.frame)) return;
    clip.marks.push(mark);
    clip.marks.sort((a, b) => a.frame - b.frame);
  });
}

export function renameMark(project: Project, clipId: string, markId: string, name: string): Project {
  return change(project, (d) => {
    const mark = d.clips.find((c) => c.id === clipId)?.marks.find((m) => m.id === markId);
    const next = name.trim().slice(0, 200);
    if (!mark || next === '') return;
    const was = mark.name;
    mark.name = next;
    // Looks around it go by its name: they go on doing so.
    const mine = [...d.pieces.filter((p) => p.clipId === clipId).flatMap((p) => p.looks), ...d.looks];
    for (const { scope } of mine)
      for (const c of scope.all) if (c.kind === 'mark' && c.name === was) c.name = next;
  });
}

/** Puts a mark on another frame, unless one is there already. */
export function moveMark(project: Project, clipId: string, markId: string, frame: number): Project {
  return change(project, (d) => {
    const clip = d.clips.find((c) => c.id === clipId);
    const mark = clip?.marks.find((m) => m.id === markId);
    if (!clip || !mark || frame < 0 || clip.marks.some((m) => m.frame === frame)) return;
    mark.frame = frame;
    clip.marks.sort((a, b) => a.frame - b.frame);
  });
}

export function removeMark(project: Project, clipId: string, markId: string): Project {
  return change(project, (d) => {
    const clip = d.clips.find((c) => c.id === clipId);
    const mark = clip?.marks.find((m) => m.id === markId);
    if (!clip || !mark) return;
    clip.marks = clip.marks.filter((m) => m !== mark);
    const gone = { id: mark.id, frame: mark.frame };
    // What went by it stays where it was.
    d.pieces = d.pieces.map((p) => (p.clipId === clipId ? withoutMark(current(p), gone) : p));
  });
}

/** Appends a move to a piece's chain, with its default values or with `values` over them. */
export function addStep(
  project: Project,
  pieceId: string,
  step: { id: string; move: string; values?: Record<string, unknown> },
): Project {
  const move = moveById(step.move);
  if (!move) return project;
  const values = { ...move.defaults, ...step.values };
  const sound = move.schema.safeParse(withoutPlaces(move, values)).success ? values : { ...move.defaults };
  return change(project, (d) => {
    pieceIn(d, pieceId)?.chain.push({ id: step.id, move: step.move, on: true, values: sound });
  });
}

/** Puts a copy of a move right after it, or at the end of another piece's chain. */
export function copyStep(
  project: Project,
  pieceId: string,
  stepId: string,
  copyId: string,
  toPieceId = pieceId,
): Project {
  return change(project, (d) => {
    const chain = pieceIn(d, pieceId)?.chain ?? [];
    const from = chain.findIndex((s) => s.id === stepId);
    const target = pieceIn(d, toPieceId)?.chain;
    if (from < 0 || !target) return;
    const copy = { ...current(chain[from]!), id: copyId };
    target.splice(toPieceId === pieceId ? from + 1 : target.length, 0, copy);
  });
}

/** Limits a move to a stretch of what comes in; null lifts the limit. */
export function setZone(project: Project, pieceId: string, stepId: string, zone: Zone | null): Project {
  if (zone && !ZoneSchema.safeParse(zone).success) return project;
  return changeStep(project, pieceId, stepId, (s) => {
    if (zone) s.zone = zone;
    else delete s.zone;
  });
}

const changeStep = (project: Project, pieceId: string, stepId: string, recipe: (step: ChainStep) => void) =>
  change(project, (d) => {
    const step = pieceIn(d, pieceId)?.chain.find((s) => s.id === stepId);
    if (step) recipe(step);
  });

/** Sets one value of a move; a value its schema refuses leaves the project as it was. */
export function setStepValue(
  project: Project,
  pieceId: string,
  stepId: string,
  key: string,
  value: unknown,
): Project {
  return setStepValues(project, pieceId, stepId, { [key]: value });
}

/** Sets several values of a move at once; values its schema refuses leave the project as it was. */
export function setStepValues(
  project: Project,
  pieceId: string,
  stepId: string,
  values: Record<string, unknown>,
): Project {
  const step = pieceIn(project, pieceId)?.chain.find((s) => s.id === stepId);
  const move = step && moveById(step.move);
  const next = step && { ...valuesOf(step), ...values };
  if (!next || !move?.schema.safeParse(withoutPlaces(move, next)).success) return project;
  return changeStep(project, pieceId, stepId, (s) => void Object.assign(s.values, values));
}

export function switchStep(project: Project, pieceId: string, stepId: string, on: boolean): Project {
  return changeStep(project, pieceId, stepId, (s) => void (s.on = on));
}

/**
 * Takes a move away. What held on to its parts rests where they were: `applied` says where that is, as the chain was
 * worked out.
 */
export function removeStep(
  project: Project,
  pieceId: string,
  stepId: string,
  applied: readonly AppliedStep[] = [],
): Project {
  return change(project, (d) => {
    const piece = pieceIn(d, pieceId);
    if (!piece) return;
    piece.chain = piece.chain.filter((s) => s.id !== stepId);
    for (const { zone, id } of piece.chain) {
      const was = applied.find((a) => a.stepId === id)?.zone;
      if (zone && 'segment' in zone && was && zone.segment.makers.some((m) => m.step === stepId))
        zone.was = { from: was.from, to: was.to };
    }
  });
}

/** Reads a clip at another rate (null: its own), which makes it slower or faster as a whole. */
export function setReadAt(project: Project, clipId: string, rate: Rational | null): Project {
  return change(project, (d) => {
    const clip = d.clips.find((c) => c.id === clipId);
    if (clip) clip.readAt = rate;
  });
}

/** Says that no cut lies before a frame of a clip, though it looks like it; or that one may lie before each again. */
export function setNotCuts(project: Project, clipId: string, notCuts: readonly number[]): Project {
  return change(project, (d) => {
    const clip = d.clips.find((c) => c.id === clipId);
    if (!clip) return;
    if (notCuts.length > 0) clip.notCuts = [...new Set(notCuts)].toSorted((a, b) => a - b);
    else delete clip.notCuts;
  });
}

export function setFraming(project: Project, clipId: string, framing: Framing): Project {
  return change(project, (d) => {
    const clip = d.clips.find((c) => c.id === clipId);
    if (clip) clip.framing = framing;
  });
}

/** Moves a link of the chain by `by` places, as far as the chain goes. */
export function shiftStep(project: Project, pieceId: string, stepId: string, by: number): Project {
  return change(project, (d) => {
    const chain = pieceIn(d, pieceId)?.chain;
    const from = chain?.findIndex((s) => s.id === stepId) ?? -1;
    if (!chain || from < 0) return;
    const to = Math.min(chain.length - 1, Math.max(0, from + by));
    const [step] = chain.splice(from, 1);
    chain.splice(to, 0, step!);
  });
}
