import type { GlobalThemeOverrides } from 'naive-ui'

/** The one place where colours, faces and measures are written. Everything else names them. */
export type ThemeName = 'daylight' | 'lamplight'

interface Palette {
  ground: string
  card: string
  sunk: string
  picked: string
  ink: string
  ink2: string
  line: string
  brass: string
  brassText: string
  onBrass: string
  verdigris: string
  verdigrisSoft: string
  oxblood: string
  ochre: string
  surround: string
  track: string
  well: string
  label1: string
  label2: string
  label3: string
  label4: string
  label5: string
  label6: string
}

/** What the colours that items are labelled with are called. */
export const labels = ['brick', 'straw', 'moss', 'slate', 'plum', 'chalk']

export const palettes: Record<ThemeName, Palette> = {
  daylight: {
    ground: '#F4EEE2',
    card: '#FFFCF6',
    sunk: '#F4EEE2',
    picked: '#EFE6D3',
    ink: '#2B2530',
    ink2: '#6B6170',
    line: '#DDD2C0',
    brass: '#9A6B1C',
    brassText: '#855A12',
    onBrass: '#FFFFFF',
    verdigris: '#1A6E63',
    verdigrisSoft: '#E3EFE9',
    oxblood: '#9B2C3B',
    ochre: '#8A5B0E',
    surround: '#8A8A8A',
    track: '#928673',
    well: '#F1E9DA',
    label1: '#B5533C',
    label2: '#C79A3B',
    label3: '#6E8B4E',
    label4: '#5B7690',
    label5: '#86587D',
    label6: '#B7AC9B',
  },
  lamplight: {
    ground: '#1D1A21',
    card: '#27232C',
    sunk: '#211D26',
    picked: '#363040',
    ink: '#EDE6DA',
    ink2: '#A79EAD',
    line: '#3A3441',
    brass: '#D6A24C',
    brassText: '#D6A24C',
    onBrass: '#1D1A21',
    verdigris: '#5CB8A9',
    verdigrisSoft: '#22383A',
    oxblood: '#EB8794',
    ochre: '#DDA23F',
    surround: '#555555',
    track: '#82798F',
    well: '#332E3A',
    label1: '#C9674F',
    label2: '#D9AE55',
    label3: '#86A563',
    label4: '#7493AF',
    label5: '#A27099',
    label6: '#CFC5B4',
  },
}

export const faces = {
  heading: "'Fraunces Variable', Georgia, serif",
  text: "'IBM Plex Sans', system-ui, sans-serif",
  figures: "'IBM Plex Mono', ui-monospace, monospace",
}

/** Names of the palette as custom properties: --ink, --ink2, --brass … */
export function customProperties(name: ThemeName): Record<string, string> {
  const out: Record<string, string> = {
    '--face-heading': faces.heading,
    '--face-text': faces.text,
    '--face-figures': faces.figures,
    '--radius': '6px',
    '--row': '24px',
  }
  for (const [key, colour] of Object.entries(palettes[name])) out['--' + key] = colour
  return out
}

/** Naive UI in our colours. */
export function overrides(name: ThemeName): GlobalThemeOverrides {
  const p = palettes[name]
  return {
    common: {
      primaryColor: p.brass,
      primaryColorHover: p.brassText,
      primaryColorPressed: p.brassText,
      primaryColorSuppl: p.brass,
      errorColor: p.oxblood,
      errorColorHover: p.oxblood,
      warningColor: p.ochre,
      successColor: p.verdigris,
      infoColor: p.ink2,
      bodyColor: p.ground,
      cardColor: p.card,
      modalColor: p.card,
      popoverColor: p.card,
      inputColor: p.card,
      tableColor: p.card,
      textColorBase: p.ink,
      textColor1: p.ink,
      textColor2: p.ink,
      textColor3: p.ink2,
      placeholderColor: p.ink2,
      borderColor: p.line,
      dividerColor: p.line,
      hoverColor: p.picked,
      fontFamily: faces.text,
      fontFamilyMono: faces.figures,
      fontSize: '13px',
      fontSizeSmall: '12px',
      fontSizeMedium: '13px',
      borderRadius: '6px',
      borderRadiusSmall: '4px',
      heightTiny: '24px',
      heightSmall: '26px',
      heightMedium: '30px',
      boxShadow1: `0 0 0 1px ${p.line}`,
      boxShadow2: `0 0 0 1px ${p.line}`,
      boxShadow3: `0 0 0 1px ${p.line}`,
    },
    Button: {
      textColorPrimary: p.onBrass,
      textColorHoverPrimary: p.onBrass,
      textColorPressedPrimary: p.onBrass,
      textColorFocusPrimary: p.onBrass,
    },
    Input: {
      border: `1px solid ${p.track}`,
      borderHover: `1px solid ${p.brass}`,
      borderFocus: `1px solid ${p.brass}`,
      color: p.card,
      colorFocus: p.card,
    },
    InternalSelection: { border: `1px solid ${p.track}`, borderHover: `1px solid ${p.brass}`, color: p.card, colorActive: p.card },
    Switch: { railColor: p.track, railColorActive: p.brass, buttonColor: p.card },
    Radio: { buttonTextColorActive: p.onBrass, buttonColorActive: p.brass, buttonBorderColor: p.track, buttonBorderColorActive: p.brass },
    Checkbox: { border: `1px solid ${p.track}`, checkMarkColor: p.onBrass },
    Tooltip: { color: p.ink, textColor: p.card, padding: '4px 8px' },
    Dialog: { titleFontSize: '16px', iconColorWarning: p.ochre },
  }
}
