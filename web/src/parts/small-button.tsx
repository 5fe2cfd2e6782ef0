import { Button } from '@mui/material';
import type { ReactNode } from 'react';
import { colors } from '../theme';

interface Props {
  readonly onPress: () => void;
  readonly children: ReactNode;
  /** For screen readers, where the words alone do not say it. */
  readonly name?: string;
  readonly title?: string;
  readonly disabled?: boolean;
  /** Pixels at least. */
  readonly width?: number;
}

const named = ({ name, title }: Props) => ({
  ...(name !== undefined && { 'aria-label': name }),
  ...(title !== undefined && { title }),
});

/** A small button with an edge. */
export function Small(props: Props) {
  const { onPress, children, disabled = false, width = 0 } = props;
  return (
    <Button
      size="small"
      color="inherit"
      variant="outlined"
      disabled={disabled}
      sx={{ minWidth: width, py: 0, px: 1, minHeight: 24, borderColor: colors.line, maxWidth: '100%' }}
      onClick={onPress}
      {...named(props)}
    >
      {children}
    </Button>
  );
}

/** What mends something that is told of, beside the words that tell of it; cut short where there is no room. */
export function Mending(props: Props) {
  const { onPress, children, disabled = false } = props;
  return (
    <Button
      size="small"
      color="inherit"
      disabled={disabled}
      sx={{
        ...{ display: 'block', flex: '0 1 auto', minWidth: 0, minHeight: 24, py: 0, px: 0.5 },
        ...{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
        ...{ textDecoration: 'underline', textUnderlineOffset: 3 },
      }}
      onClick={onPress}
      {...named(props)}
    >
      {children}
    </Button>
  );
}
