import { createTheme } from '@mui/material/styles';
import { NIGHT_WATCH, PAPER, type SeaColours } from './sea';
import { TYPE } from './type';

declare module '@mui/material/styles' {
  interface Palette {
    sea: SeaColours;
  }
  interface PaletteOptions {
    sea?: SeaColours;
  }
}

const palette = (sea: SeaColours) => ({
  sea,
  primary: { main: sea.ink, contrastText: sea.onInk },
  secondary: { main: sea.note, contrastText: sea.onInk },
  error: { main: sea.short },
  warning: { main: sea.watch },
  success: { main: sea.holds },
  background: { default: sea.paper, paper: sea.sheet },
  text: { primary: sea.ink, secondary: sea.ink2 },
  divider: sea.rule,
});

export const FONT = "'IBM Plex Sans Condensed', sans-serif";
export const NUMERALS = "'Source Serif 4', serif";

/** Paper by day, night watch by night; square corners, thin rules, no shadows. */
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-scheme' },
  colorSchemes: { light: { palette: palette(PAPER) }, dark: { palette: palette(NIGHT_WATCH) } },
  typography: { fontFamily: FONT, fontSize: TYPE.body, button: { textTransform: 'none', fontWeight: 500 } },
  shape: { borderRadius: 2 },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { size: 'small', disableElevation: true },
      styleOverrides: {
        root: {
          minWidth: 24,
          minHeight: 24,
          padding: '1px 8px',
          lineHeight: 1.5,
          fontSize: TYPE.control,
          // What can be used again looks so at once: a fade keeps its text too pale to read for a moment.
          transition: 'none',
        },
      },
    },
    MuiIconButton: { styleOverrides: { root: { minWidth: 24, minHeight: 24 } } },
    MuiToggleButtonGroup: { styleOverrides: { root: { flexWrap: 'wrap', rowGap: 2 } } },
    MuiPaper: {
      defaultProps: { elevation: 0, square: true },
      styleOverrides: { root: { backgroundImage: 'none' } },
    },
    MuiToggleButton: {
      styleOverrides: {
        root: ({ theme: t }) => ({
          padding: '0 7px',
          height: 24,
          minWidth: 24,
          fontSize: TYPE.control,
          lineHeight: 1,
          textTransform: 'none',
          borderColor: t.vars.palette.sea.rule,
          color: t.vars.palette.sea.ink2,
          '&.Mui-selected, &.Mui-selected:hover': {
            backgroundColor: t.vars.palette.sea.tint2,
            color: t.vars.palette.sea.ink,
            fontWeight: 600,
          },
        }),
      },
    },
    MuiTooltip: {
      defaultProps: { enterDelay: 700 },
      styleOverrides: {
        tooltip: ({ theme: t }) => ({
          fontSize: TYPE.mark,
          backgroundColor: t.vars.palette.sea.ink,
          color: t.vars.palette.sea.onInk,
        }),
      },
    },
    MuiCssBaseline: {
      styleOverrides: {
        'html, body, #root': { height: '100%' },
        body: { fontSize: TYPE.body, overscrollBehavior: 'none' },
        ':focus-visible': { outline: '2px solid var(--mui-palette-sea-note)', outlineOffset: 1 },
        svg: { display: 'block' },
      },
    },
  },
});
