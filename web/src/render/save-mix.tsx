import { Box, Button } from '@mui/material';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { wavOf } from '@skipback/core/sound/wav';
import { useState } from 'react';
import { download, fileName } from '../state/download';
import type { ClipState } from '../state/library';
import { mixOf } from '../state/mixing';
import { colors } from '../theme';

/** The mix by itself, as a WAV exactly as long as the picture. */
export function SaveMix({
  project,
  compiled,
  clips,
}: {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly clips: readonly ClipState[];
}) {
  const [busy, setBusy] = useState(false);
  const save = async () => {
    setBusy(true);
    try {
      const mix = await mixOf(project, compiled, clips);
      if (mix) download(new Blob([wavOf(mix)], { type: 'audio/wav' }), `${fileName(project.name)}.wav`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box sx={{ mb: 3 }}>
      <Box component="h2" sx={{ m: 0, mb: 1, fontSize: 15, fontWeight: 600 }}>
        Sound only
      </Box>
      <Button
        size="small"
        variant="outlined"
        color="inherit"
        disabled={busy || compiled.totalFrames === 0}
        sx={{ width: 150, borderColor: colors.line }}
        onClick={() => void save()}
      >
        WAV, 48 kHz
      </Button>
    </Box>
  );
}
