import { alpha, createTheme, type Theme } from '@mui/material/styles';

/** The roles of colour; nothing else in the interface names a colour. */
export interface Roles {
  readonly ground: string;
  readonly form: string;
  readonly surface: string;
  readonly ink: string;
  readonly softInk: string;
  readonly line: string;
  readonly zest: string;
  readonly flow: string;
  readonly flowStrong: string;
  readonly flowSoft: string;
  readonly index: string;
  readonly scan: string;
  readonly memory: string;
  readonly join: string;
  /** Functions in code. */
  readonly call: string;
  readonly other: string;
  readonly quiet: string;
  readonly path: string;
  readonly text: string;
  readonly number: string;
}

declare module '@mui/material/styles' {
  interface Theme {
    readonly roles: Roles;
  }
  interface ThemeOptions {
    roles?: Roles;
  }
}

const light: Roles = {
  ground: '#FBF7EF',
  form: '#FFFCF5',
  surface: '#FFFFFF',
  ink: '#23262E',
  softInk: '#6E6A61',
  line: '#E6DFD1',
  zest: '#B84A06',
  flow: '#F4B860',
  flowStrong: '#E08A38',
  flowSoft: '#FBE3BD',
  index: '#3D4FB5',
  scan: '#A8352A',
  memory: '#7A3E84',
  join: '#5A8F8A',
  call: '#2F6F69',
  other: '#C9A050',
  quiet: '#DAD2C3',
  path: '#1F5673',
  text: '#5C6612',
  number: '#7A3E84',
};

const dark: Roles = {
  ground: '#1A1815',
  form: '#201E1A',
  surface: '#25221D',
  ink: '#EFE8DA',
  softInk: '#ABA294',
  line: '#3D382F',
  zest: '#F0955A',
  flow: '#C48A3A',
  flowStrong: '#EBA24B',
  flowSoft: '#5A4420',
  index: '#A3B0FA',
  scan: '#F28B7D',
  memory: '#D3A2DC',
  join: '#6FA8A2',
  call: '#86C4BD',
  other: '#C9A050',
  quiet: '#565045',
  path: '#90C4E4',
  text: '#C2CC74',
  number: '#D3A2DC',
};

export const codeFont = '"JetBrains Mono Variable", ui-monospace, monospace';
export const sansFont = '"Instrument Sans Variable", system-ui, sans-serif';

/** What is said on a button is one line: what stands beside it gives way. */
const inOneLine = { whiteSpace: 'nowrap', flexShrink: 0, maxWidth: '100%', overflow: 'hidden' } as const;

function themeOf(mode: 'light' | 'dark', roles: Roles): Theme {
  return createTheme({
    roles,
    palette: {
      mode,
      background: { default: roles.ground, paper: roles.surface },
      text: { primary: roles.ink, secondary: roles.softInk },
      primary: { main: roles.ink, contrastText: roles.surface },
      secondary: { main: roles.zest },
      info: { main: roles.index },
      error: { main: roles.scan },
      divider: roles.line,
    },
    shape: { borderRadius: 8 },
    typography: {
      fontFamily: sansFont,
      fontSize: 13,
      body1: { fontSize: 13 },
      button: { textTransform: 'none', fontWeight: 600 },
    },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          html: { height: '100%', colorScheme: mode },
          body: { height: '100%', fontVariantNumeric: 'tabular-nums', overflow: 'hidden' },
          '#root': { height: '100%' },
          'code, pre, kbd': { fontFamily: codeFont, fontVariantLigatures: 'none' },
          ':focus-visible': { outline: `2px solid ${roles.index}`, outlineOffset: 1 },
        },
      },
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { disableElevation: true, size: 'small' },
        styleOverrides: { root: { borderRadius: 999, paddingInline: 14, ...inOneLine } },
      },
      MuiToggleButton: {
        styleOverrides: {
          root: {
            textTransform: 'none',
            padding: '3px 12px',
            fontWeight: 500,
            color: roles.ink,
            '&.Mui-selected, &.Mui-selected:hover': { background: roles.ink, color: roles.surface },
          },
        },
      },
      MuiToggleButtonGroup: { defaultProps: { size: 'small', exclusive: true } },
      MuiTooltip: { defaultProps: { arrow: true, enterDelay: 500 } },
      MuiTextField: { defaultProps: { size: 'small' } },
      MuiDialog: { defaultProps: { fullWidth: true, maxWidth: 'sm' } },
      MuiTableCell: {
        styleOverrides: {
          root: { borderColor: roles.line, padding: '6px 12px' },
          head: { color: roles.softInk, fontWeight: 600, fontSize: 12 },
        },
      },
      MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    },
  });
}

export const themes = { light: themeOf('light', light), dark: themeOf('dark', dark) } as const;

export const veil = (colour: string, share: number): string => alpha(colour, share);
