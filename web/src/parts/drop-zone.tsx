import { Box } from '@mui/material';
import { useSnackbar } from 'notistack';
import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { CAUTION } from '../notices';
import { importFiles } from '../state/import-files';
import { colors } from '../theme';

/** A view on which files can be dropped, which come into the project; what became of them is said. */
export function DropZone({ children }: { readonly children: ReactNode }) {
  const { enqueueSnackbar } = useSnackbar();
  const onDrop = async (files: readonly File[]) => {
    for (const { name, notice } of await importFiles(files)) {
      if (!notice) enqueueSnackbar(`${name} is in the project`);
      else enqueueSnackbar(`${notice.text} ${notice.wayOut ?? ''}`, CAUTION);
    }
  };
  const { getRootProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => void onDrop(files),
  });
  return (
    <Box
      {...getRootProps()}
      sx={{
        height: '100%',
        outline: 'none',
        boxShadow: isDragActive ? `inset 0 0 0 3px ${colors.forward}` : 'none',
      }}
    >
      {children}
    </Box>
  );
}
