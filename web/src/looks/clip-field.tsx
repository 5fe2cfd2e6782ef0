import { Box } from '@mui/material';
import { importClient } from '@skipback/media/import/import-client';
import { sentenceOf } from '@skipback/media/worker-client';
import type { Project } from '@skipback/core/project/schema';
import { useRef, useState } from 'react';
import { ChoiceField } from '../parts/choice-field';
import { bringIn } from '../state/import-files';
import { type LoadedClip, useClips } from '../state/library';
import { actIn } from '../state/act-in';
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
  readonly onChange: (clipId: string) => void;
  readonly put: (project: Project, clipId: string) => Project;
}

/** A clip of the project, one of ours, or a file; the last two are brought in with it, as one step. */
export function ClipField({ label, value, hint, own, of, onChange, put }: Props) {
  const project = useProjectStore((s) => s.project)!;
  const { clips } = project;
  const treated = useClips(project).find((c) => c.clip.id === of)?.loaded;
  const input = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState<string>();
  const [trouble, setTrouble] = useState<string>();
  const bring = async (file: File) => {
    setReading('reading');
    const brought = await bringIn(file, project.id);
    setReading(undefined);
    setTrouble(brought.notice && `${brought.notice.text} ${brought.notice.wayOut ?? ''}`);
    // By then another project may be open: it goes where it was meant to.
    if ('clipId' in brought)
      await actIn(project.id, `bring ${file.name} in`, (p) => put(brought.add(p), brought.clipId));
  };
  const bringOurs = async (fileName: string, name: string) => {
    setReading('fetching');
    const response = await fetch(`/overlays/${fileName}`).catch(() => undefined);
    setReading(undefined);
    if (!response?.ok) return setTrouble(`${name} could not be fetched. Is the program still running?`);
    await bring(new File([await response.blob()], `${name}.webm`, { type: 'video/webm' }));
  };
  /** The place without what moves through it, as a picture of its own. */
  const makePlate = async ({ clip, source }: LoadedClip) => {
    setReading('looking through the clip');
    try {
      const png = await importClient.cleanPlate(source);
      const name = `Clean plate of ${clip.name.replace(/\.[^.]+$/, '')}.png`;
      await bring(new File([png], name, { type: 'image/png' }));
    } catch (error) {
      setTrouble(sentenceOf(error, 'The clean plate could not be made.'));
    } finally {
      setReading(undefined);
    }
  };
  const choose = (chosen: string) => {
    setTrouble(undefined);
    if (chosen === FILE) return input.current?.click();
    if (chosen === MAKE) return treated && void makePlate(treated);
    const ours = OURS.find((o) => OUR + o.file === chosen);
    if (ours) return void bringOurs(ours.file, ours.name);
    onChange(chosen);
  };
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
          shrinks
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
