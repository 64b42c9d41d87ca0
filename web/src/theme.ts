import type { GlobalThemeOverrides } from 'naive-ui'

/** The colours of the interface. Everything else, Naive UI included, takes them from here. */
export interface Tokens {
  paper: string
  raised: string
  sunken: string
  ink: string
  quiet: string
  line: string
  control: string
  liner: string
  linerEdge: string
  /** Words on the liner, and those that warn. */
  onLiner: string
  badOnLiner: string
  accent: string
  accentHover: string
  accentSoft: string
  onAccent: string
  good: string
  warn: string
  bad: string
}

export const light: Tokens = {
  paper: '#FBF9F4',
  raised: '#FFFFFF',
  sunken: '#F2EDE2',
  ink: '#22262B',
  quiet: '#5F5B53',
  line: '#DDD6C8',
  control: '#8A8273',
  liner: '#F1DFA8',
  linerEdge: '#DCC682',
  onLiner: '#4A432C',
  badOnLiner: '#8A1512',
  accent: '#5A2A6B',
  accentHover: '#74408A',
  accentSoft: '#F1E7F4',
  onAccent: '#FFFFFF',
  good: '#2B6B46',
  warn: '#8F5300',
  bad: '#A3211D',
}

export const dark: Tokens = {
  paper: '#1D1F22',
  raised: '#26292D',
  sunken: '#17191B',
  ink: '#ECE8DF',
  quiet: '#B3ADA1',
  line: '#3B3E43',
  control: '#8A8578',
  liner: '#6E6136',
  linerEdge: '#8C7D4A',
  onLiner: '#F6EFDC',
  badOnLiner: '#FFD3CE',
  accent: '#D3A9E2',
  accentHover: '#E2C3ED',
  accentSoft: '#3A2A41',
  onAccent: '#231229',
  good: '#7CC79B',
  warn: '#E3AE5B',
  bad: '#F0908A',
}

/** What stands on labels and on the liner, which are as they are whatever the theme. */
export const marks = {
  label: '#FFFFFF',
  web: '#FFFDF6',
  hand: '#5A2A6B',
  handSoft: '#5A2A6B14',
  guide: '#0A7F8F',
  snap: '#B3206B',
  onSnap: '#FFFFFF',
  badMark: '#A3211D',
  warnMark: '#C77700',
  note: '#FFFBE6',
  noteEdge: '#6D5A1E',
  onNote: '#5B4A12',
  hatch: '#22262B14',
  shade: '#7A7F8514',
  veil: '#FFFFFF80',
  veilLight: '#FFFFFF30',
}

/** What drawings of stocks and cables are filled with. */
export const drawing = {
  face: '#FFFFFF',
  core: '#000000',
  page: '#FBF9F4',
  liner: '#F1DFA8',
  outline: '#B5A469',
  cut: '#8A8273',
  black: '#22262B',
  antenna: '#8A5A2B',
  copper: '#B87333',
  onCopper: '#FFFFFF',
  round: '#E6DFF0',
}

export const fontSans = "'IBM Plex Sans', system-ui, sans-serif"
export const fontMono = "'IBM Plex Mono', ui-monospace, monospace"

/** The tokens as style properties for our own styles: --paper, --ink … */
export function properties(t: Tokens): Record<string, string> {
  return Object.fromEntries(
    Object.entries({ ...marks, ...t }).map(([name, value]) => [
      '--' + name.replace(/[A-Z]/g, (letter) => '-' + letter.toLowerCase()),
      value,
    ]),
  )
}

/** Naive UI in the same tokens; for fingers its controls are all forty pixels tall. */
export function overrides(t: Tokens, fingers: boolean): GlobalThemeOverrides {
  const tall = '40px'
  return {
    common: {
      ...(fingers ? { heightTiny: tall, heightSmall: tall, heightMedium: tall, heightLarge: tall } : {}),
      fontFamily: fontSans,
      fontFamilyMono: fontMono,
      fontSize: '14px',
      bodyColor: t.paper,
      cardColor: t.raised,
      modalColor: t.raised,
      popoverColor: t.raised,
      inputColor: t.raised,
      tableColor: t.paper,
      textColorBase: t.ink,
      textColor1: t.ink,
      textColor2: t.ink,
      textColor3: t.quiet,
      placeholderColor: t.quiet,
      borderColor: t.control,
      dividerColor: t.line,
      hoverColor: t.sunken,
      primaryColor: t.accent,
      primaryColorHover: t.accentHover,
      primaryColorPressed: t.accent,
      primaryColorSuppl: t.accent,
      successColor: t.good,
      warningColor: t.warn,
      errorColor: t.bad,
      borderRadius: '6px',
    },
    Button: {
      textColorPrimary: t.onAccent,
      textColorHoverPrimary: t.onAccent,
      textColorFocusPrimary: t.onAccent,
      textColorPressedPrimary: t.onAccent,
      fontWeight: '500',
    },
    Input: { border: `1px solid ${t.control}`, colorFocus: t.raised },
    Progress: { fillColor: t.accent, railColor: t.line },
    InternalSelection: { border: `1px solid ${t.control}`, placeholderColor: t.quiet },
  }
}
