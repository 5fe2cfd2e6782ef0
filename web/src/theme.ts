import { createTheme } from '@mui/material/styles';

/** Every colour of the product, by what it means. */
export const colors = {
  ground: '#121212',
  panel: '#1a1a1a',
  raised: '#232323',
  line: '#343434',
  ink: '#ece9e4',
  quiet: '#a9a5a0',
  faint: '#928e89',
  forward: '#e6c35c',
  backward: '#b98cf0',
  hold: '#ece9e4',
  ramp: '#e6c35c',
  attention: '#ff8a5c',
  good: '#8fd0a0',
} as const;

export const sans = '"Instrument Sans Variable", system-ui, sans-serif';
export const mono = '"IBM Plex Mono", ui-monospace, monospace';

/** How high the bar over a project's views is, pixels. */
export const BAR_HEIGHT = 46;

/** How long each kind of movement of the interface takes, milliseconds. */
const AT_ONCE = {
  shortest: 0,
  shorter: 0,
  short: 0,
  standard: 0,
  complex: 0,
  enteringScreen: 0,
  leavingScreen: 0,
} as const;

/** A size of text that is as many pixels where the browser's text size is the usual one, and grows with it. */
const rem = (pixels: number): string => `${pixels / 16}rem`;

export const theme = createTheme({
  // Sizes of text are written in pixels everywhere.
  unstable_sxConfig: {
    fontSize: {
      themeKey: 'typography',
      transform: (size: unknown) => (typeof size === 'number' ? rem(size) : (size as string)),
    },
  },
  palette: {
    mode: 'dark',
    background: { default: colors.ground, paper: colors.panel },
    text: { primary: colors.ink, secondary: colors.quiet },
    primary: { main: colors.ink, contrastText: colors.ground },
    error: { main: colors.attention },
    warning: { main: colors.attention },
    divider: colors.line,
  },
  shape: { borderRadius: 8 },
  // Nothing fades, slides or grows: what was pressed is there at once, and what draws is left to the picture.
  transitions: { create: () => 'none', getAutoHeightDuration: () => 0, duration: AT_ONCE },
  typography: { fontFamily: sans, fontSize: 13, button: { textTransform: 'none', fontWeight: 600 } },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        'html, body, #root': { height: '100%' },
        body: { overscrollBehavior: 'none', fontSize: rem(13.5) },
        ':focus-visible': { outline: `2px solid ${colors.ink}`, outlineOffset: 2 },
        // Notices lie at the foot of the column: neither the picture nor what is worked with on it is covered.
        '.notistack-SnackbarContainer *': { minWidth: '0 !important' },
        '::-webkit-scrollbar': { width: 8, height: 8 },
        '::-webkit-scrollbar-thumb': { background: colors.line, borderRadius: 4 },
        '@media (prefers-reduced-motion: reduce)': {
          '*': { transition: 'none !important', animation: 'none !important' },
        },
      },
    },
    MuiButton: { defaultProps: { disableElevation: true } },
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      styleOverrides: {
        root: {
          fontFamily: sans,
          fontSize: rem(13.5),
          '&:focus-visible': { outline: `2px solid ${colors.ink}`, outlineOffset: 1 },
        },
      },
    },
    // What is closed counts as gone at once, though a busy machine draws it a little longer: the next key is for the view.
    MuiDialog: { defaultProps: { closeAfterTransition: false } },
    MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiTooltip: { defaultProps: { enterDelay: 500 } },
  },
});
