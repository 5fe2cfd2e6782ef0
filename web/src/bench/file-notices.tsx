import { FileButton } from '../parts/file-button';
import { Box, IconButton } from '@mui/material';
import { X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import type { Notice } from '@skipback/core/notice';
import { NoticeLine } from '../parts/notice-line';
import { JobLine } from '../parts/job-line';
import { relink } from '../state/import-files';
import { dismissJob, useJobs } from '../state/jobs';
import { type ClipState, noticesOf, useThumbnails } from '../state/library';
import { colors } from '../theme';

/**
 * What there is to say of files: those on their way in, those that could not come in, and clips with something
 * wrong. It keeps to its own room, however many there are.
 */
export function FileNotices({
  projectId,
  clips,
}: {
  readonly projectId: string;
  readonly clips: readonly ClipState[];
}) {
  const all = useJobs((s) => s.jobs);
  const jobs = all.filter((j) => j.projectId === projectId && j.kind !== 'follow');
  return (
    <Box
      role="group"
      aria-label="About files"
      sx={{
        ...{ flex: 'none', maxHeight: 168, overflowY: 'auto' },
        ...{ display: 'flex', flexDirection: 'column', gap: 0.5, '&:empty': { mt: -1 } },
      }}
    >
      {jobs.map((job) =>
        job.notice ? (
          <Slip key={job.id} onDismiss={() => dismissJob(job.id)} words={`Dismiss ${job.name}`}>
            <NoticeLine notice={job.notice} />
          </Slip>
        ) : (
          <Slip key={job.id}>
            <JobLine job={job} />
          </Slip>
        ),
      )}
      {clips.map((state) => (
        <AboutClip key={state.clip.id} state={state} />
      ))}
    </Box>
  );
}

function Slip({
  children,
  onDismiss,
  words,
}: {
  readonly children: ReactNode;
  readonly onDismiss?: () => void;
  readonly words?: string;
}) {
  return (
    <Box sx={{ p: 1, borderRadius: 2, bgcolor: colors.panel, display: 'flex', gap: 1, flex: 'none' }}>
      <Box sx={{ flex: 1, minWidth: 0 }}>{children}</Box>
      {onDismiss && (
        <IconButton size="small" aria-label={words} onClick={onDismiss} sx={{ alignSelf: 'flex-start' }}>
          <X size={14} />
        </IconButton>
      )}
    </Box>
  );
}

function AboutClip({ state }: { readonly state: ClipState }) {
  const { clip, loaded, missing } = state;
  const thumbnails = useThumbnails(loaded);
  const [trouble, setTrouble] = useState<Notice>();
  const notices = loaded ? noticesOf(loaded.record, thumbnails) : [];
  if (!missing && notices.length === 0 && !trouble) return null;
  return (
    <Slip>
      {!missing && <Box sx={{ fontSize: 12, fontWeight: 600, overflowWrap: 'anywhere' }}>{clip.name}</Box>}
      {missing && (
        <>
          <NoticeLine
            notice={{
              code: 'missing',
              level: 'warning',
              text: `${clip.name} is not in this browser any more.`,
              wayOut: 'Its pieces are kept. Choose the file, or drop it here.',
            }}
          />
          <FileButton
            size="small"
            variant="outlined"
            color="inherit"
            sx={{ mt: 0.5 }}
            label={`Choose the file of ${clip.name}`}
            onFile={(file) => void relink(clip, file).then(setTrouble)}
          >
            Choose the file
          </FileButton>
        </>
      )}
      {trouble && <NoticeLine notice={trouble} />}
      {notices.map((n) => (
        <NoticeLine key={n.code} notice={n} />
      ))}
    </Slip>
  );
}
