import { ToggleButton, ToggleButtonGroup } from '@mui/material';
import { flip, useCompare } from '../state/compare';
import { colors } from '../theme';

/** Two versions of the project to flip between; the second begins as a copy of the first. */
export function VersionFlip() {
  const which = useCompare((s) => s.which);
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={which}
      aria-label="Version"
      onChange={(_, next: 'A' | 'B' | null) => next && next !== which && flip()}
      sx={{
        mr: 0.5,
        '& .MuiToggleButton-root': {
          border: 0,
          borderRadius: 1.5,
          px: 1,
          py: 0.1,
          color: colors.quiet,
          fontWeight: 600,
          '&.Mui-selected': { bgcolor: colors.raised, color: colors.ink },
        },
      }}
    >
      <ToggleButton value="A" title="Version A (X flips)" aria-label="Version A">
        A
      </ToggleButton>
      <ToggleButton value="B" title="Version B: begins as a copy of A (X flips)" aria-label="Version B">
        B
      </ToggleButton>
    </ToggleButtonGroup>
  );
}
