import { Box, ButtonBase } from '@mui/material';
import { useState } from 'react';
import { underWay, useJobs } from '../state/jobs';
import { colors, mono } from '../theme';
import { JobLine } from './job-line';
import { Sheet } from './sheet';

/** What is under way, of whichever project, wherever one works; pressed, each with a button that ends it. */
export function JobsSign() {
  const jobs = underWay(useJobs((s) => s.jobs));
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  if (jobs.length === 0) return null;
  const [first] = jobs;
  const one = jobs.length === 1 ? first!.name : `${jobs.length} things under way`;
  return (
    <>
      <ButtonBase
        aria-label={`Under way: ${jobs.map((j) => j.words).join('; ')}`}
        title={jobs.map((j) => j.words).join('\n')}
        data-testid="jobs-sign"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{
          ...{ maxWidth: 170, px: 0.75, py: 0.25, borderRadius: 1, color: colors.quiet },
          ...{ fontSize: 12.5, fontFamily: mono, '&:hover': { color: colors.ink } },
        }}
      >
        <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {one} …
        </Box>
      </ButtonBase>
      <Sheet anchor={anchor} name="Under way" width={340} onClose={() => setAnchor(null)}>
        <Box role="group" aria-label="Under way" sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
          {jobs.map((job) => (
            <JobLine key={job.id} job={job} />
          ))}
        </Box>
      </Sheet>
    </>
  );
}
