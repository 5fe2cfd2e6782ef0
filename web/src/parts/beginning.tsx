import { Box } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { BAR_HEIGHT, colors } from '../theme';
import { Sign } from './sign';

/** What is seen while the view that was gone to is on its way: the bar with the product's sign, where it stays. */
export function Beginning() {
  return (
    <Box
      component="main"
      aria-busy
      sx={{
        display: 'flex',
        alignItems: 'center',
        px: 2,
        minHeight: BAR_HEIGHT,
        borderBottom: `1px solid ${colors.line}`,
      }}
    >
      <Box sx={{ p: 0.5, display: 'flex' }}>
        <Sign />
      </Box>
      <Box component="h1" sx={visuallyHidden}>
        Skip Back is opening
      </Box>
    </Box>
  );
}
