import { Box } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { partedName } from './parted-name';

/** A name as people gave it: of a long one the middle is left out where there is no room, not what tells it apart. */
export function Name({
  of,
  before = '',
}: {
  readonly of: string;
  /** Words before it. */ readonly before?: string;
}) {
  const [head, tail] = partedName(of);
  const whole = `${before}${of}`;
  if (tail === '')
    return (
      <Box component="span" dir="auto" title={whole} sx={{ ...CUT, display: 'block', minWidth: 0 }}>
        {whole}
      </Box>
    );
  return (
    <Box component="span" dir="auto" title={whole} sx={{ display: 'flex', minWidth: 0, whiteSpace: 'pre' }}>
      <Box component="span" sx={visuallyHidden}>
        {whole}
      </Box>
      <Box component="span" aria-hidden sx={{ ...CUT, flex: '0 1 auto', minWidth: 0 }}>
        {before}
        {head}
      </Box>
      <Box component="span" aria-hidden sx={{ flex: 'none' }}>
        {tail}
      </Box>
    </Box>
  );
}

const CUT = { overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'pre' } as const;
