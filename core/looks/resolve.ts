import { aroundPiece } from '../gather/around';
import { wholeFrame } from '../gather/gather';
import { gatherOf } from '../gather/gathers';
import { type Notice, failure, warning } from '../notice';
import type { CompiledPiece } from '../project/compile';
import type { DrawnMatte, Matte } from '../regions/matte';
import { type MaskAt, masksOfPiece, masksOfResult } from '../regions/masks';
import { type Mask, moved } from '../regions/region';
import { type Brought, NOTHING_BROUGHT, broughtId, framesIn } from './brought';
import { isDriver } from './driver';
import { type Facts, factsOfPiece } from './facts';
import type { Look } from './look';
import { momentsOf, shownValues } from './moments';
import { treatmentById } from './registry';
import { type Stretch, stretchesOf } from './scope';
import type { AnyTreatment, Around } from './treatment';

/** One treatment as it is drawn on one frame: plain data, equal data equal pixels. */
export interface Drawn {
  readonly look: string;
  readonly drawing: Record<string, unknown>;
  /** How much of the treated picture is seen, above 0 up to 1. */
  readonly share: number;
  /** Where in the picture it is seen, if not everywhere; and on which points, by what they show. */
  readonly mask?: Mask;
  readonly matte?: DrawnMatte;
}

/** What a look comes to: its strength at every frame (for its lane), and what is wrong with it. */
export interface LookResult {
  readonly look: Look;
  readonly stretches: readonly Stretch[];
  readonly strengths: Float32Array;
  readonly notices: readonly Notice[];
}

/** A list of looks resolved over its frames. */
interface Resolved {
  readonly drawn: readonly (readonly Drawn[])[];
  readonly results: readonly LookResult[];
  readonly tables: ReadonlyMap<string, string>;
}

/**
 * Resolves a list of looks: what is drawn on every frame, in the list's order. `around` says what lies around one, `masks`
 * where a look's region is, `brought` which clips it may bring in.
 */
export function resolveLooks(
  looks: readonly Look[],
  facts: Facts,
  {
    around,
    masks,
    brought = NOTHING_BROUGHT,
  }: {
    readonly around?: (frame: number) => Around | undefined;
    readonly masks?: (look: Look) => MaskAt;
    readonly brought?: Brought;
  } = {},
): Resolved {
  const tables = new Map<string, string>();
  if (looks.length === 0) return { drawn: new Array<[]>(facts.frames).fill([]), results: [], tables };
  const drawn: Drawn[][] = Array.from({ length: facts.frames }, () => []);
  const results = looks.map((look): LookResult => {
    const treatment = treatmentById(look.look);
    const strengths = new Float32Array(facts.frames);
    const stretches = stretchesOf(look.scope, facts);
    const notices = noticesOf(look, treatment, stretches, facts, brought);
    const region = look.region ? masks?.(look) : undefined;
    let nowhere = 0;
    if (treatment)
      for (const { values, ...moment } of momentsOf(look, treatment, stretches, facts, { tables, brought })) {
        const { frame, strength } = moment;
        strengths[frame] = strength;
        const mask = region?.at(frame);
        if (region && !mask) {
          nowhere++;
          continue;
        }
        const here = around?.(frame);
        const matte = look.matte && here && drawnMatte(look.matte, here, frame, brought);
        if (look.matte && !matte) continue;
        const laid = (mask || matte) && here && treatment.gather?.(values, { ...moment, around: here }, here);
        // What is made of other frames cannot give way to them in a part of the picture: there it is laid over.
        const drawing = laid
          ? { madeOf: true, layers: [gatherOf(laid, -1)!] }
          : treatment.drawing(values, { ...moment, around: here });
        if (!drawing) continue;
        const share = treatment.scales && !laid ? 1 : strength;
        const put = mask && maskFor(treatment, mask, drawing);
        const on = matte && matteFor(treatment, matte, drawing);
        drawn[frame]!.push({
          ...{ look: look.look, drawing, share },
          ...(put && { mask: put }),
          ...(on && { matte: on }),
        });
      }
    return { look, stretches, strengths, notices: [...notices, ...(region?.notices(nowhere) ?? [])] };
  });
  return { drawn, results, tables };
}

/** A region as a treatment takes it: its outside, or moved along with what is drawn. */
function maskFor(treatment: AnyTreatment, mask: Mask, drawing: Record<string, unknown>): Mask {
  const [x, y] = treatment.moves?.(drawing) ?? [0, 0];
  return {
    ...mask,
    inverted: treatment.outside ? !mask.inverted : mask.inverted,
    numbers: x === 0 && y === 0 ? mask.numbers : moved(mask.shape, mask.numbers, { a: 1, b: 0, x, y }),
  };
}

/** The same for a matte. */
function matteFor(treatment: AnyTreatment, matte: DrawnMatte, drawing: Record<string, unknown>): DrawnMatte {
  const [x, y] = treatment.moves?.(drawing) ?? [0, 0];
  return {
    ...matte,
    inverted: treatment.outside ? !matte.inverted : matte.inverted,
    ...((x !== 0 || y !== 0) && { moved: [x, y] }),
  };
}

/** A matte at a frame; undefined where its plate is not there. */
function drawnMatte(
  { clip, frame, ...how }: Matte,
  around: Around,
  at: number,
  brought: Brought,
): DrawnMatte | undefined {
  const frames = clip === null ? around.clipFrames : framesIn(brought(clip));
  if (frames === 0) return undefined;
  const held = around.held(at);
  const of = broughtId(clip ?? around.clipId, around.framing);
  return { ...how, plate: { ...wholeFrame(Math.min(frames - 1, frame)), of }, ...(held && { held }) };
}

/** What is said where clips that a look brings in are not there. */
function broughtNotices(look: Look, treatment: AnyTreatment, brought: Brought): Notice[] {
  const values = shownValues(treatment, look.values);
  const named = [...(treatment.brings?.(values) ?? []), ...(look.matte?.clip ? [look.matte.clip] : [])];
  const own = treatment.fields.some((f) => f.kind === 'clip' && f.own);
  if (named.includes('') && !own)
    return [warning('no-picture', `${treatment.name} has no picture yet.`, 'Choose one.')];
  if (named.some((id) => id !== '' && !brought(id)))
    return [
      warning(
        'picture-gone',
        `The clip that ${treatment.name} brings in is not there: nothing is drawn.`,
        'Choose another, or find its file again.',
      ),
    ];
  return [];
}

function noticesOf(
  look: Look,
  treatment: AnyTreatment | undefined,
  stretches: readonly Stretch[],
  facts: Facts,
  brought: Brought,
): Notice[] {
  if (!treatment)
    return [
      failure(
        'unknown-look',
        `This version does not know the look "${look.look}".`,
        'It is kept and left out.',
      ),
    ];
  if (!look.on) return [];
  const missing = broughtNotices(look, treatment, brought);
  if (missing.length > 0) return missing;
  const listens =
    look.scope.all.some((c) => c.kind === 'beats' || c.kind === 'accents') ||
    [...Object.values(look.values), look.strength].some((v) => isDriver(v) && v.kind === 'pulse');
  if (listens && !facts.music)
    return [
      warning(
        'no-beats',
        `${treatment.name} listens to the song, but there is none.`,
        'Add a song on Beats.',
      ),
    ];
  if (treatment.outside && !look.region && !look.matte)
    return [
      warning(
        'no-region',
        `${treatment.name} is what lies outside a region, and it has none: all of the picture is treated.`,
        'Choose one.',
      ),
    ];
  if (look.scope.all.some((c) => c.kind === 'unknown'))
    return [
      warning(
        'unknown-condition',
        `This version does not know where ${treatment.name} applies: it is kept and left out.`,
        'Open it in a newer version, or set another condition.',
      ),
    ];
  if (stretches.length === 0)
    return [warning('nowhere', 'No frame is as this look asks.', 'Change where it applies.')];
  return [];
}

/** The looks of the whole result, resolved. */
export const resolveResultLooks = (
  looks: readonly Look[],
  facts: Facts,
  around: (frame: number) => Around | undefined,
  brought: Brought,
): Resolved => resolveLooks(looks, facts, { around, masks: masksOfResult, brought });

/** A list of looks, its own or others, resolved on a piece. */
export function resolvePieceLooks(compiled: CompiledPiece, looks: readonly Look[], loops: boolean): Resolved {
  const around = aroundPiece(compiled, 0);
  const masks = masksOfPiece(compiled, loops);
  const { brought } = compiled;
  return resolveLooks(looks, factsOfPiece(compiled, loops), { around: () => around, masks, brought });
}

const pieces = new WeakMap<CompiledPiece, Map<boolean, Resolved>>();

/** Of what looks draw on the whole, the frames that are here. */
function partOfLooks(
  { shown }: CompiledPiece,
  { whole, from }: NonNullable<CompiledPiece['partOf']>,
  loops: boolean,
): Resolved {
  const { drawn, results, tables } = looksOfPiece(whole, loops);
  const end = from + shown.length;
  return {
    tables,
    drawn: drawn.slice(from, end),
    results: results.map((result) => ({
      ...result,
      strengths: result.strengths.slice(from, end),
      stretches: result.stretches
        .filter((s) => s.end > from && s.first < end)
        .map((s) => ({ first: Math.max(0, s.first - from), end: Math.min(end, s.end) - from })),
    })),
  };
}

/** The looks of a piece, resolved; kept as long as the piece stays as it is. */
export function looksOfPiece(compiled: CompiledPiece, loops: boolean): Resolved {
  if (compiled.partOf) return partOfLooks(compiled, compiled.partOf, loops);
  const mine = pieces.get(compiled) ?? new Map<boolean, Resolved>();
  pieces.set(compiled, mine);
  let resolved = mine.get(loops);
  if (!resolved) mine.set(loops, (resolved = resolvePieceLooks(compiled, compiled.piece.looks, loops)));
  return resolved;
}
