import type { CompiledProject } from '../project/compile';
import { durationOf, frameAt, startOf } from '../clip/frame-table';
import { dissolvesOf } from '../gather/dissolve';
import { shownBy } from '../path/path';
import { type SegmentKind, kindOf, sourceAt } from '../path/segment';
import { toNumber } from '../time/rational';
import { frame, seconds } from '../time/units';

/** One segment of the result as other programs know it: a stretch of a file, where it plays, how fast. */
export interface CutEvent {
  readonly clipName: string;
  readonly kind: SegmentKind;
  /** Seconds of its file at the beginning and the end as played: backward runs from the greater to the smaller; a hold is where the frame it shows begins. */
  readonly fromS: number;
  readonly toS: number;
  /** Result frames [recordIn, recordOut). */
  readonly recordIn: number;
  readonly recordOut: number;
  /** Mean speed, 1 is real time, negative backward, 0 a hold. */
  readonly speed: number;
  readonly speedIn: number;
  readonly speedOut: number;
  /** The clip's frame that each of its result frames shows. */
  readonly shown: readonly number[];
  /** The clip's frame at a second of its file. */
  frameAt(s: number): number;
  /** The second of its file at which a frame of it begins. */
  startOf(frame: number): number;
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
    const { table, filePace: pace } = compiled;
    const endS = durationOf(table);
    let start = 0;
    return shownBy(compiled.path).flatMap(({ first, end }, i): CutEvent[] => {
      const segment = segments[i]!;
      const begins = start;
      start += segment.length;
      if (end <= first) return [];
      // Ends between frames are brought to the frames that are shown, along the segment's own speed.
      const at = (position: number) =>
        Math.min(endS, Math.max(0, sourceAt(segment, position - begins, rate)));
      const kind = kindOf(segment);
      const shown = Array.from(compiled.shown.subarray(first, end));
      const held = kind === 'hold' ? startOf(table, frame(shown[0]!)) : undefined;
      const [fromS, toS] = [(held ?? at(first)) * pace, (held ?? at(end)) * pace];
      return [
        {
          ...{ clipName: compiled.clip.name, kind, fromS, toS, shown },
          frameAt: (s) => frameAt(table, seconds(s / pace)),
          startOf: (n) => startOf(table, frame(n)) * pace,
          recordIn: startFrame + first,
          recordOut: startFrame + end,
          speed: ((toS - fromS) * hz) / (end - first) || 0,
          speedIn: segment.speedIn * pace,
          speedOut: segment.speedOut * pace,
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

/**
 * The result frames of an event that show another frame where it is read evenly from one second of its file to another:
 * a list that cannot say it more exactly shows a neighbour there.
 */
export function framesOff(e: CutEvent, fromS: number, toS: number): number[] {
  return e.shown.flatMap((frame, i) => {
    const at = fromS + ((i + 0.5) * (toS - fromS)) / e.shown.length;
    return e.frameAt(at) === frame ? [] : [e.recordIn + i];
  });
}

/** Stretches named in a sentence, at most. */
const MOST_NAMED = 4;

/** The sentence on result frames that a list does not bring back; none where it brings all. */
export function offLimit(frames: readonly number[]): string[] {
  if (frames.length === 0) return [];
  const runs: [number, number][] = [];
  for (const f of frames) {
    const last = runs[runs.length - 1];
    if (last?.[1] === f - 1) last[1] = f;
    else runs.push([f, f]);
  }
  const named = runs.slice(0, MOST_NAMED).map(([a, b]) => (a === b ? `${a}` : `${a} to ${b}`));
  const more = runs.length > MOST_NAMED ? ` and ${runs.length - MOST_NAMED} more stretches` : '';
  return [
    `${plural(frames.length, 'result frame shows', 'result frames show')} the frame beside ${frames.length === 1 ? 'its' : 'their'} own: ${named.join(', ')}${more}.`,
  ];
}

/** The sentence on ramps, for formats that only know constant speeds; empty when there are none. */
export function rampLimit(events: readonly CutEvent[]): string[] {
  const ramps = events.filter((e) => e.kind === 'ramp').length;
  return ramps === 0
    ? []
    : [`${plural(ramps, 'ramp is', 'ramps are')} written at ${ramps === 1 ? 'its' : 'their'} mean speed.`];
}
