import type { CompiledProject } from '../project/compile';
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

/** The segments as a table: where each plays, what it reads, how fast. Nothing is lost. */
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
  ]);
  return { text: table([head, ...rows]), limits: [] };
}

/** The path itself: for every result frame the clip, its frame, and the instant in seconds. */
export function writeFramesCsv(project: CompiledProject, rate: Rational): CutListFile {
  const hz = toNumber(rate);
  const rows = project.pieces.flatMap(({ startFrame, compiled }) => {
    const instants = sampleInstants(compiled.path);
    return Array.from(
      compiled.shown,
      (shown, i) => [startFrame + i, (startFrame + i) / hz, compiled.clip.name, shown, instants[i]!] as const,
    );
  });
  return { text: table([['frame', 'time_s', 'clip', 'source_frame', 'source_s'], ...rows]), limits: [] };
}
