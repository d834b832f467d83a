import { createTheme } from '@mui/material/styles';
import { type Token, tokens } from './tokens';

const scheme = (mode: 'light' | 'dark') => {
  const t = tokens[mode];
  return {
    palette: {
      background: { default: t.ground, paper: t.sheet },
      text: { primary: t.ink, secondary: t.ink2 },
      primary: { main: t.ink, contrastText: t.panel },
      info: { main: t.cold, contrastText: t.oncold },
      success: { main: t.go, contrastText: t.ongo },
      error: { main: t.hot, contrastText: t.onhot },
      divider: t.line,
    },
  };
};

const cssTokens = (mode: 'light' | 'dark') =>
  Object.fromEntries(Object.entries(tokens[mode]).map(([name, value]) => [`--${name}`, value])) as Record<
    `--${Token}`,
    string
  >;

/** The visual direction as a MUI theme: no shadows, no ripple, square zones, ink outlines; tokens as CSS variables. */
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-theme' },
  colorSchemes: { light: scheme('light'), dark: scheme('dark') },
  shape: { borderRadius: 7 },
  typography: {
    fontFamily: '"Archivo Variable", sans-serif',
    body1: { fontSize: '16px', lineHeight: 1.22, fontWeight: 480, fontStretch: '86%' },
    button: { fontSize: '16px', lineHeight: 1.15, textTransform: 'none' },
  },
  transitions: { duration: { shortest: 120, shorter: 120, short: 120, standard: 120 } },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        ':root, [data-theme="light"]': cssTokens('light'),
        '[data-theme="dark"]': cssTokens('dark'),
      },
    },
    MuiButtonBase: { defaultProps: { disableRipple: true, disableTouchRipple: true } },
    MuiPaper: { defaultProps: { elevation: 0, square: true } },
    MuiDialog: {
      styleOverrides: { paper: { border: '2px solid var(--ink)', borderRadius: 0, backgroundImage: 'none' } },
    },
    MuiBackdrop: { styleOverrides: { root: { backgroundColor: 'rgb(6 10 12 / 60%)' } } },
    MuiToggleButtonGroup: { styleOverrides: { root: { border: '2px solid var(--ink)', borderRadius: 6 } } },
    MuiToggleButton: {
      styleOverrides: {
        root: {
          minHeight: 48,
          minWidth: 52,
          flexGrow: 1, // where the row is stretched, the keys are, not a gap beside them
          border: 0,
          borderRadius: 4,
          padding: '0 10px',
          fontSize: 16,
          fontWeight: 680,
          lineHeight: 1.1,
          textTransform: 'none',
          color: 'var(--ink)',
          backgroundColor: 'var(--key)',
          '&.Mui-selected, &.Mui-selected:hover': { backgroundColor: 'var(--ink)', color: 'var(--panel)' },
          '&:hover': { backgroundColor: 'var(--gotint)' },
        },
      },
    },
    MuiInputBase: { styleOverrides: { root: { font: 'inherit', color: 'inherit' }, input: { padding: 0 } } },
  },
});
