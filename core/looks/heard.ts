import { loopsOf } from '../project/parts';
import type { Music } from '../beats/music';
import { durationOf } from '../clip/frame-table';
import type { CompiledProject } from '../project/compile';
import type { MadeKind } from '../sound/made/kinds';
import type { Brought } from './brought';
import { type Facts, factsOfPiece, factsOfResult } from './facts';
import type { Look } from './look';
import { momentsOf } from './moments';
import { treatmentById } from './registry';
import { type Stretch, stretchesOf } from './scope';
import type { Heard } from './treatment';

/** A stretch of a clip's sound under the result, for a row of frames from `atFrame` on. */
export interface LaidSound {
  readonly clip: string;
  readonly atFrame: number;
  /** Seconds of the clip at each frame's beginning, and at the last one's end. */
  readonly instants: Float64Array;
  /** What it begins again after, seconds; undefined where it does not. */
  readonly repeatsS: number | undefined;
  /** Factors, one a frame. */
  readonly gains: Float32Array;
}

/** A made sound that goes along with the speed of a row of frames. */
export interface SpeedSound {
  readonly kind: MadeKind;
  readonly atFrame: number;
  /** Of each frame, source seconds a result second. */
  readonly speeds: Float32Array;
  readonly gains: Float32Array;
}

/** What looks let be heard. */
export interface LooksSound {
  readonly laid: readonly LaidSound[];
  readonly along: readonly SpeedSound[];
}

/** What the looks of all pieces and of the whole result let be heard. */
export function heardIn(
  project: CompiledProject,
  looks: readonly Look[],
  music: Music | undefined,
): LooksSound {
  const laid: LaidSound[] = [];
  const along: SpeedSound[] = [];
  const add = (
    list: readonly Look[],
    facts: () => Facts,
    from: number,
    brought: Brought,
    within?: Stretch,
  ) => {
    const heard = list.filter((l) => l.on && treatmentById(l.look)?.heard);
    if (heard.length === 0) return;
    const known = facts();
    for (const look of heard)
      for (const row of rowsOf(look, known, brought, within)) {
        const [{ at, heard: first }] = row as [Row[number]];
        const gains = Float32Array.from(row, (r) => r.heard.gain);
        if ('made' in first)
          along.push({
            ...{ kind: first.made, atFrame: from + at, gains },
            speeds: Float32Array.from(row, (r) => known.speeds[r.at]!),
          });
        else {
          const table = brought(first.clip)?.table;
          const ends = row.map((r) => (r.heard as typeof first).toS);
          laid.push({
            ...{ clip: first.clip, atFrame: from + at, gains },
            instants: Float64Array.from([first.fromS, ...ends]),
            repeatsS: first.repeats && table ? durationOf(table) : undefined,
          });
        }
      }
  };
  const loops = loopsOf(project);
  for (const { startFrame, compiled } of project.pieces) {
    const { whole, from } = compiled.partOf ?? { whole: compiled, from: 0 };
    const within = { first: from, end: from + compiled.shown.length };
    const facts = () => factsOfPiece(whole, loops);
    add(compiled.piece.looks, facts, startFrame - from, compiled.brought, within);
  }
  add(looks, () => factsOfResult(project, music), 0, project.brought);
  return { laid, along };
}

type Row = { readonly at: number; readonly heard: Heard }[];

/** What a look lets be heard, in rows of frames that follow one another. */
function rowsOf(look: Look, facts: Facts, brought: Brought, within?: Stretch): Row[] {
  const treatment = treatmentById(look.look)!;
  const rows: Row[] = [];
  let last: { readonly at: number; readonly stretch: unknown } | undefined;
  for (const { values, ...moment } of momentsOf(look, treatment, stretchesOf(look.scope, facts), facts, {
    brought,
    ...(within && { within }),
  })) {
    const heard = treatment.heard!(values, moment);
    if (!heard) continue;
    const { frame: at, stretch } = moment;
    if (last?.at === at - 1 && last.stretch === stretch) rows[rows.length - 1]!.push({ at, heard });
    else rows.push([{ at, heard }]);
    last = { at, stretch };
  }
  return rows;
}
