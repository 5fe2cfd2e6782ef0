import { Box } from '@mui/material';
import { type Notice, failure } from '@skipback/core/notice';
import { importClient } from '@skipback/media/import/import-client';
import { sentenceOf } from '@skipback/media/worker-client';
import type { Project } from '@skipback/core/project/schema';
import { useEffect, useRef, useState } from 'react';
import { ChoiceField } from '../parts/choice-field';
import { bringIn } from '../state/import-files';
import { type LoadedClip, useClips } from '../state/library';
import { landed } from '../state/act-in';
import { fetched } from '../state/fetched';
import { type JobHand, Stopped, beginJob } from '../state/jobs';
import { setOpen } from '../state/open';
import { useProjectStore } from '../state/project-store';
import { colors } from '../theme';

/** Overlays that come with the program. */
const OURS = [
  { file: 'burst.webm', name: 'Fast-forward burst' },
  { file: 'dust.webm', name: 'Dust and scratches' },
  { file: 'leak.webm', name: 'Light leak' },
  { file: 'burn.webm', name: 'Film burn' },
];
const OUR = 'ours ';
const FILE = 'a file';
const MAKE = 'a clean plate';

interface Props {
  readonly label: string;
  readonly value: string;
  readonly hint: string;
  /** Whether the clip that is treated may be chosen, as ''. */
  readonly own: boolean;
  /** That clip, where a clean plate can be made of it. */
  readonly of: string | undefined;
  /** A clean plate is made at once, without being asked for. */
  readonly makesPlate?: boolean;
  readonly onChange: (clipId: string) => void;
  readonly put: (project: Project, clipId: string) => Project;
}

/** A clip of the project, one of ours, or a file; the last two are brought in with it, as one step. */
export function ClipField({ label, value, hint, own, of, makesPlate = false, onChange, put }: Props) {
  const project = useProjectStore((s) => s.project)!;
  const { clips } = project;
  const treated = useClips(project).find((c) => c.clip.id === of)?.loaded;
  const input = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState<string>();
  const [trouble, setTrouble] = useState<string>();
  const there = useRef(true);
  useEffect(() => {
    there.current = true;
    return () => void (there.current = false);
  }, []);
  /** Does what takes time as a job of the project; what is to be said of it is said here, or beside the clips once this is gone. */
  const asJob = async (name: string, words: string, work: (job: JobHand) => Promise<Notice | undefined>) => {
    const job = beginJob({ projectId: project.id, kind: 'file', name, words });
    setReading(words.toLowerCase());
    let notice: Notice | undefined;
    try {
      notice = await work(job);
    } catch (problem) {
      if (!(problem instanceof Stopped))
        notice = failure('brought', sentenceOf(problem, `${name} could not be imported. Try it again.`));
    }
    setReading(undefined);
    if (notice && there.current) setTrouble(`${notice.text} ${notice.wayOut ?? ''}`);
    job.end(there.current ? undefined : notice);
  };
  const putIn = async (file: File, job: JobHand): Promise<Notice | undefined> => {
    const brought = await job.part(bringIn(file, project.id));
    // By then another project may be open: it goes where it was meant to.
    const lost =
      'clipId' in brought &&
      (await landed(project.id, file.name, `bring ${file.name} in`, (p) =>
        put(brought.add(p), brought.clipId),
      ));
    return lost || brought.notice;
  };
  const bring = (file: File) => asJob(file.name, `Reading ${file.name}`, (job) => putIn(file, job));
  const bringOurs = (fileName: string, name: string) =>
    asJob(name, `Fetching ${name}`, async (job) => {
      const film = await job.part(fetched(`/overlays/${fileName}`, name, job.signal));
      return putIn(new File([film], `${name}.webm`, { type: 'video/webm' }), job);
    });
  /** The place without what moves through it, as a picture of its own. */
  const makePlate = ({ clip, source }: LoadedClip) => {
    const name = `Clean plate of ${clip.name.replace(/\.[^.]+$/, '')}.png`;
    return asJob(name, `Looking through ${clip.name}`, async (job) => {
      const png = await job.part(importClient.cleanPlate(source));
      return putIn(new File([png], name, { type: 'image/png' }), job);
    });
  };
  const choose = (chosen: string) => {
    setTrouble(undefined);
    if (chosen === FILE) return input.current?.click();
    if (chosen === MAKE) return treated && void makePlate(treated);
    const ours = OURS.find((o) => OUR + o.file === chosen);
    if (ours) return void bringOurs(ours.file, ours.name);
    onChange(chosen);
  };
  const makes = useRef(false);
  useEffect(() => {
    if (!makesPlate || makes.current || value !== '' || !treated) return;
    makes.current = true;
    setOpen({ fresh: null });
    void makePlate(treated);
  });
  const gone = value !== '' && !clips.some((c) => c.id === value);
  const short = (name: string) => (name.length > 24 ? `${name.slice(0, 22)}…` : name);
  return (
    <Box sx={{ textAlign: 'right', minWidth: 0 }}>
      <input
        ref={input}
        type="file"
        accept="video/*,image/*,.mkv"
        hidden
        aria-label={`${label}, choose a file`}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) void bring(file);
        }}
      />
      {reading ? (
        <Box component="span" role="status" sx={{ color: colors.quiet, fontSize: 13 }}>
          {reading}
        </Box>
      ) : (
        <ChoiceField
          label={label}
          value={value}
          hint={hint}
          options={[
            { value: '', label: own ? 'this clip' : 'none yet' },
            ...clips.map((c) => ({ value: c.id, label: short(c.name.replace(/\.[^.]+$/, '')) })),
            ...(gone ? [{ value, label: 'a clip that is gone' }] : []),
            ...(own && treated ? [{ value: MAKE, label: 'make one of this clip' }] : []),
            ...(own ? [] : OURS).map((o) => ({
              value: OUR + o.file,
              label: `ours: ${o.name.toLowerCase()}`,
            })),
            { value: FILE, label: 'a file …' },
          ]}
          onChange={choose}
        />
      )}
      {trouble && (
        <Box role="alert" sx={{ color: colors.attention, fontSize: 12.5, textAlign: 'left' }}>
          {trouble}
        </Box>
      )}
    </Box>
  );
}
