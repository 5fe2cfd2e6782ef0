import { Box } from '@mui/material';
import { useSnackbar } from 'notistack';
import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { CAUTION } from '../notices';
import { importFiles } from '../state/import-files';
import { colors } from '../theme';
import { usePastedFiles } from './use-pasted-files';

/**
 * The views of a project as a place where files can be dropped or pasted, which come into it. What became of them is
 * said by `says`; the bench says it beside its clips.
 */
export function DropZone({ says, children }: { readonly says: boolean; readonly children: ReactNode }) {
  const { enqueueSnackbar } = useSnackbar();
  const take = async (files: readonly File[]) => {
    for (const { name, notice } of await importFiles(files)) {
      if (!says) continue;
      if (!notice) enqueueSnackbar(`${name} is in the project`);
      else enqueueSnackbar(`${notice.text} ${notice.wayOut ?? ''}`, { ...CAUTION, persist: true });
    }
  };
  usePastedFiles((files) => void take(files));
  const { getRootProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    // Heard wherever the focus is, by `usePastedFiles`.
    noPaste: true,
    onDrop: (files) => void take(files),
  });
  return (
    <Box {...getRootProps()} sx={{ height: '100%', outline: 'none', position: 'relative' }}>
      {children}
      {isDragActive && (
        <Box
          sx={{
            ...{ position: 'absolute', inset: 0, zIndex: 10, display: 'grid', placeItems: 'center' },
            ...{ bgcolor: 'rgba(18,18,18,0.85)', border: `3px solid ${colors.forward}` },
            ...{ fontSize: 22, fontWeight: 600 },
          }}
        >
          Drop to import
        </Box>
      )}
    </Box>
  );
}
