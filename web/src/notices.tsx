import { styled } from '@mui/material/styles';
import { MaterialDesignContent } from 'notistack';
import { colors } from './theme';

const attention = {
  backgroundColor: colors.raised,
  color: colors.ink,
  boxShadow: `inset 3px 0 ${colors.attention}, 0 4px 16px rgba(0,0,0,0.5)`,
  maxWidth: 560,
  '& svg': { color: colors.attention },
};

/** A notice in the product's colours: one that needs attention has an edge. */
export const Notice = styled(MaterialDesignContent)({
  '& #notistack-snackbar': { padding: '4px 0' },
  '&.notistack-MuiContent-default': { backgroundColor: colors.raised, color: colors.ink },
  '&.notistack-MuiContent-warning': attention,
  '&.notistack-MuiContent-error': attention,
});

/** How notices of what went wrong, or may, are shown: long enough for two sentences to be read. */
export const TROUBLE = { variant: 'error', autoHideDuration: 9000 } as const;
export const CAUTION = { variant: 'warning', autoHideDuration: 9000 } as const;
