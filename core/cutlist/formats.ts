import type { CompiledProject } from '../project/compile';
import type { Rational } from '../time/rational';
import { writeFramesCsv, writeSegmentsCsv } from './csv';
import { writeEdl } from './edl';
import { type CutListFile, cutEvents } from './events';
import { writeOtio } from './otio';

/** One way of writing the cut down for other programs. */
export interface CutListFormat {
  readonly id: string;
  readonly label: string;
  readonly extension: string;
  readonly mime: string;
  write(project: CompiledProject, title: string, rate: Rational): CutListFile;
}

/** All cut list formats. Adding one: its file, and an entry here. */
export const CUT_LIST_FORMATS: readonly CutListFormat[] = [
  {
    id: 'edl',
    label: 'EDL, CMX 3600',
    extension: 'edl',
    mime: 'text/plain',
    write: (p, title, rate) => writeEdl(cutEvents(p), title, rate),
  },
  {
    id: 'otio',
    label: 'OpenTimelineIO',
    extension: 'otio',
    mime: 'application/json',
    write: (p, title, rate) => writeOtio(cutEvents(p), title, rate),
  },
  {
    id: 'segments',
    label: 'CSV, segments',
    extension: 'csv',
    mime: 'text/csv',
    write: (p, _, rate) => writeSegmentsCsv(cutEvents(p), rate),
  },
  {
    id: 'frames',
    label: 'CSV, every frame',
    extension: 'frames.csv',
    mime: 'text/csv',
    write: (p, _, rate) => writeFramesCsv(p, rate),
  },
];
