import type { CompiledProject } from '../project/compile';
import { durationOf } from '../clip/frame-table';
import { dissolvesOf } from '../gather/dissolve';
import { shownBy } from '../path/path';
import { type SegmentKind, kindOf, sourceAt } from '../path/segment';
import { toNumber } from '../time/rational';

/** One segment of the result as other programs know it: a stretch of a file, where it plays, how fast. */
export interface CutEvent {
  readonly clipName: string;
  readonly kind: SegmentKind;
  /** Source seconds at the beginning and the end as played: backward runs from the greater to the smaller. */
  readonly fromS: number;
  readonly toS: number;
  /** Result frames [recordIn, recordOut). */
  readonly recordIn: number;
  readonly recordOut: number;
  /** Mean speed, 1 is real time, negative backward, 0 a hold. */
  readonly speed: number;
  readonly speedIn: number;
  readonly speedOut: number;
  /** Where the event before dissolves into this one: how many result frames of that lie before their join, and after it. */
  readonly dissolve?: { readonly before: number; readonly after: number };
}

/** What a format makes of a result, and what of it the format cannot carry, in sentences. */
export interface CutListFile {
  readonly text: string;
  readonly limits: readonly string[];
}

/** All segments of the result in order. */
export function cutEvents(project: CompiledProject): CutEvent[] {
  const dissolves = new Map(dissolvesOf(project.pieces).map((d) => [d.at, d]));
  return project.pieces.flatMap(({ startFrame, compiled }) => {
    const dissolve = dissolves.get(startFrame);
    const { rate, segments } = compiled.path;
    const hz = toNumber(rate);
    const endS = durationOf(compiled.table);
    let start = 0;
    return shownBy(compiled.path).flatMap(({ first, end }, i): CutEvent[] => {
      const segment = segments[i]!;
      const begins = start;
      start += segment.length;
      if (end <= first) return [];
      // Ends between frames are brought to the frames that are shown, along the segment's own speed.
      const at = (position: number) =>
        Math.min(endS, Math.max(0, sourceAt(segment, position - begins, rate)));
      const [fromS, toS] = [at(first), at(end)];
      return [
        {
          clipName: compiled.clip.name,
          kind: kindOf(segment),
          fromS,
          toS,
          recordIn: startFrame + first,
          recordOut: startFrame + end,
          speed: ((toS - fromS) * hz) / (end - first) || 0,
          speedIn: segment.speedIn,
          speedOut: segment.speedOut,
          ...(dissolve &&
            first === 0 && {
              dissolve: { before: dissolve.at - dissolve.first, after: dissolve.end - dissolve.at },
            }),
        },
      ];
    });
  });
}

/** An event read back from a cut list. */
export interface ReadEvent {
  readonly clipName: string;
  /** What else its clip may be known by: a reel of eight letters, the name of its file. */
  readonly reel?: string;
  readonly fileName?: string;
  /** The stretch of source, lower end first, seconds; the whole clip where a list does not say. */
  readonly inS: number;
  readonly outS: number;
  /** Frames of the project it lasts; undefined for as long as its source. */
  readonly frames: number | undefined;
  readonly speed: number;
  /** Frames over which the event before dissolves into it, half of them before it begins. */
  readonly dissolve?: number;
}

/** A cut list read: its events in order, and what of it was left out or guessed, in sentences; or what is wrong with it. */
export type ReadCutList =
  | { readonly ok: true; readonly events: readonly ReadEvent[]; readonly said: readonly string[] }
  | { readonly ok: false; readonly sentence: string };

export const plural = (n: number, one: string, many: string) => (n === 1 ? `1 ${one}` : `${n} ${many}`);

/** The sentence on ramps, for formats that only know constant speeds; empty when there are none. */
export function rampLimit(events: readonly CutEvent[]): string[] {
  const ramps = events.filter((e) => e.kind === 'ramp').length;
  return ramps === 0
    ? []
    : [`${plural(ramps, 'ramp is', 'ramps are')} written at ${ramps === 1 ? 'its' : 'their'} mean speed.`];
}
