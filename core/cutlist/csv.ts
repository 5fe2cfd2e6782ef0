import type { CompiledProject } from '../project/compile';
import { dissolvesOf, laterShare } from '../gather/dissolve';
import { runOn } from '../gather/gathers';
import { sampleInstants } from '../path/path';
import { type Rational, toNumber } from '../time/rational';
import { formatTimecode } from '../time/timecode';
import { frame } from '../time/units';
import type { CutEvent, CutListFile } from './events';

/** A cell by RFC 4180; numbers to a billionth. */
const cell = (value: string | number) =>
  typeof value === 'number'
    ? String(Number(value.toFixed(9)))
    : /[",\n]/.test(value)
      ? `"${value.replaceAll('"', '""')}"`
      : value;
const table = (rows: readonly (readonly (string | number)[])[]) =>
  rows.map((r) => `${r.map(cell).join(',')}\r\n`).join('');

/** The segments as a table: where each plays, what it reads, how fast, in seconds of its file. */
export function writeSegmentsCsv(events: readonly CutEvent[], rate: Rational): CutListFile {
  const head = [
    'segment',
    'clip',
    'kind',
    'record_in',
    'record_out',
    'frames',
    'source_from_s',
    'source_to_s',
    'speed_percent',
    'speed_in_percent',
    'speed_out_percent',
    'dissolve_before_frames',
    'dissolve_after_frames',
  ];
  const rows = events.map((e, i) => [
    i + 1,
    e.clipName,
    e.kind,
    formatTimecode(frame(e.recordIn), rate),
    formatTimecode(frame(e.recordOut), rate),
    e.recordOut - e.recordIn,
    e.fromS,
    e.toS,
    e.speed * 100,
    e.speedIn * 100,
    e.speedOut * 100,
    e.dissolve?.before ?? 0,
    e.dissolve?.after ?? 0,
  ]);
  return { text: table([head, ...rows]), limits: [] };
}

/** The path itself: for every result frame the clip, its frame, and the instant in seconds; at a dissolve the other picture too. */
export function writeFramesCsv(project: CompiledProject, rate: Rational): CutListFile {
  const hz = toNumber(rate);
  const others = new Map<number, readonly [clip: string, frame: number, percent: number]>();
  for (const dissolve of dissolvesOf(project.pieces))
    for (let frame = dissolve.first; frame < dissolve.end; frame++) {
      const isLater = frame >= dissolve.at;
      const other = isLater ? dissolve.before : dissolve.after;
      const later = laterShare(dissolve, frame);
      const side = runOn(other, frame - dissolve.at + (isLater ? 1 : 0), false);
      others.set(frame, [other.clip.name, side.frame, 100 * (isLater ? 1 - later : later)]);
    }
  const rows = project.pieces.flatMap(({ startFrame, compiled }) => {
    const instants = sampleInstants(compiled.path);
    return Array.from(compiled.shown, (shown, i) => {
      const at = startFrame + i;
      return [
        at,
        at / hz,
        compiled.clip.name,
        shown,
        instants[i]! * compiled.filePace,
        ...(others.get(at) ?? ['', '', '']),
      ];
    });
  });
  const head = [
    'frame',
    'time_s',
    'clip',
    'source_frame',
    'source_s',
    'other_clip',
    'other_frame',
    'other_percent',
  ];
  return { text: table([head, ...rows]), limits: [] };
}
