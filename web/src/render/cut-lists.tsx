import { Box, Button } from '@mui/material';
import { CUT_LIST_FORMATS } from '@skipback/core/cutlist/formats';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import { download, fileName } from '../state/download';
import { colors } from '../theme';

/** The cut as files for other programs; what a format cannot carry is said before it is saved. */
export function CutLists({
  project,
  compiled,
}: {
  readonly project: Project;
  readonly compiled: CompiledProject;
}) {
  const looks = [project, ...project.pieces].some((list) => list.looks.some((l) => l.on));
  const files = useMemo(
    () =>
      CUT_LIST_FORMATS.map((format) => {
        const file = format.write(compiled, project.name, project.rate);
        return { format, file, limits: [...file.limits, ...(looks ? ['Looks are not in it.'] : [])] };
      }),
    [compiled, project.name, project.rate, looks],
  );
  if (compiled.totalFrames === 0) return null;
  return (
    <Box role="group" aria-label="Cut lists">
      <Box component="h2" sx={{ m: 0, mb: 1, fontSize: 15, fontWeight: 600 }}>
        Cut lists
      </Box>
      {files.map(({ format, file, limits }) => (
        <Box key={format.id} sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5, py: 0.4 }}>
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            sx={{ width: 150, flex: 'none', borderColor: colors.line }}
            aria-label={`Save ${format.label}`}
            onClick={() =>
              download(
                new Blob([file.text], { type: format.mime }),
                `${fileName(project.name)}.${format.extension}`,
              )
            }
          >
            {format.label}
          </Button>
          <Box sx={{ color: limits.length > 0 ? colors.ink : colors.quiet, fontSize: 12.5 }}>
            {limits.length > 0 ? limits.join(' ') : 'Carries everything.'}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
