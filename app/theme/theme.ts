import { createTheme } from '@mui/material/styles';
import type { Family } from '../../core/lane/costLines.ts';
import { drawn } from './drawn.ts';

/** One colour a cost family, defined once: bars, lines, legends and charts read them from here. */
export type FamilyColours = Record<Family, string>;
declare module '@mui/material/styles' {
  interface Palette {
    family: FamilyColours;
    onFamily: FamilyColours;
    keep: { main: string; on: string; soft: string };
    loss: { main: string; on: string };
    paperTint: string;
    /** Behind what can be read two ways. */
    doubt: string;
    hairline: string;
    ink: string;
    fieldLine: string;
  }
  interface PaletteOptions {
    family?: FamilyColours;
    onFamily?: FamilyColours;
    keep?: { main: string; on: string; soft: string };
    loss?: { main: string; on: string };
    paperTint?: string;
    doubt?: string;
    hairline?: string;
    ink?: string;
    fieldLine?: string;
  }
}

const INK = '#1b1d26';
const PAPER = '#faf7ef';

const text = '"Hanken Grotesk Variable", system-ui, sans-serif';
const heading = '"Bricolage Grotesque Variable", "Hanken Grotesk Variable", system-ui, sans-serif';

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data' },
  colorSchemes: {
    light: {
      palette: {
        primary: { main: '#2a2bd4', contrastText: '#ffffff' },
        secondary: { main: INK, contrastText: PAPER },
        error: { main: '#b92c17' },
        warning: { main: '#8a5a00' },
        info: { main: '#5d5a52' },
        success: { main: '#2a2bd4' },
        background: { default: PAPER, paper: '#fffdf8' },
        text: { primary: INK, secondary: '#5d5a52' },
        divider: '#e0d9c8',
        family: {
          tax: '#cbbea6',
          goods: '#8a593a',
          wayIn: '#ba875c',
          marketplace: '#d3a44c',
          fulfilment: '#9b9b66',
          returns: '#b6a89c',
          other: '#a59d90',
          adverts: '#8b6886',
        },
        onFamily: {
          tax: INK,
          goods: '#ffffff',
          wayIn: INK,
          marketplace: INK,
          fulfilment: INK,
          returns: INK,
          other: INK,
          adverts: '#ffffff',
        },
        keep: { main: '#2a2bd4', on: '#ffffff', soft: '#b5b4ea' },
        loss: { main: '#b92c17', on: '#ffffff' },
        paperTint: '#f1ecdf',
        doubt: '#f7e6bd',
        hairline: '#e0d9c8',
        ink: INK,
        fieldLine: '#7d776a',
      },
    },
    dark: {
      palette: {
        primary: { main: '#a4a6ff', contrastText: '#12131a' },
        secondary: { main: '#f2ecdd', contrastText: '#16171d' },
        error: { main: '#ff8f78' },
        warning: { main: '#eab35a' },
        info: { main: '#b3ad9f' },
        success: { main: '#a4a6ff' },
        background: { default: '#17171a', paper: '#202024' },
        text: { primary: '#f2ecdd', secondary: '#b3ad9f' },
        divider: '#3a3833',
        family: {
          tax: '#8f846f',
          goods: '#a06a47',
          wayIn: '#c08e62',
          marketplace: '#d3a44c',
          fulfilment: '#9b9b66',
          returns: '#9c8f84',
          other: '#8b8478',
          adverts: '#a17d9b',
        },
        onFamily: {
          tax: '#12131a',
          goods: '#ffffff',
          wayIn: '#12131a',
          marketplace: '#12131a',
          fulfilment: '#12131a',
          returns: '#12131a',
          other: '#12131a',
          adverts: '#12131a',
        },
        keep: { main: '#5f62f5', on: '#ffffff', soft: '#44457f' },
        loss: { main: '#ff8f78', on: '#12131a' },
        paperTint: '#26262a',
        doubt: '#4a3d1c',
        hairline: '#3a3833',
        ink: '#f2ecdd',
        fieldLine: '#9a9486',
      },
    },
  },
  shape: { borderRadius: 6 },
  spacing: 8,
  typography: {
    fontFamily: text,
    fontSize: 14,
    h1: { fontFamily: heading, fontWeight: 700, fontSize: '1.8rem', letterSpacing: '-0.01em' },
    h2: { fontFamily: heading, fontWeight: 650, fontSize: '1.25rem' },
    h3: { fontFamily: heading, fontWeight: 650, fontSize: '1rem' },
    h4: {
      fontFamily: heading,
      fontWeight: 500,
      fontSize: '1.42rem',
      lineHeight: 1.3,
      letterSpacing: '-0.005em',
    },
    body1: { fontSize: '0.9rem' },
    body2: { fontSize: '0.82rem' },
    caption: { fontSize: '0.76rem' },
    button: { textTransform: 'none', fontWeight: 600 },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        ...drawn,
        ':root': { accentColor: 'var(--mui-palette-primary-main)' },
        body: { fontVariantNumeric: 'tabular-nums lining-nums' },
        ':focus-visible': { outline: '2px solid var(--mui-palette-primary-main)', outlineOffset: 2 },
        '@media (prefers-reduced-motion: reduce)': {
          '*, *::before, *::after': {
            transitionDuration: '0.01ms !important',
            animationDuration: '0.01ms !important',
          },
        },
      },
    },
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: { defaultProps: { disableElevation: true, color: 'secondary' } },
    MuiTextField: { defaultProps: { size: 'small', fullWidth: true } },
    MuiSelect: { defaultProps: { size: 'small' } },
    MuiTooltip: { defaultProps: { arrow: true } },
    MuiLink: { styleOverrides: { root: { textDecorationThickness: '1px', textUnderlineOffset: 3 } } },
    MuiTableCell: {
      styleOverrides: {
        root: { borderColor: 'var(--mui-palette-hairline)', padding: '7px 8px' },
        head: { color: 'var(--mui-palette-text-secondary)', fontSize: '0.78rem' },
      },
    },
  },
});
