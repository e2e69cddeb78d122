/**
 * Colours of the field book, for screens in light and dark and for paper. The style of the application is made from them
 * when it is built (`vite.config.ts`), the sheets write those of paper.
 */
export const palette = {
  light: {
    paper: '#f6f1e4',
    sheet: '#fdfaf2',
    shade: '#ece4d0',
    ink: '#20211c',
    soft: '#5c5546',
    rule: '#cdc3ac',
    flag: '#b5341a',
    line: '#1d5c66',
    'on-flag': '#fffaf0',
    fault: '#a92d14',
    caution: '#7d5200',
    tip: '#1d5c66',
    grid: 'rgba(140, 122, 80, 0.12)',
  },
  dark: {
    paper: '#1b1c18',
    sheet: '#24251f',
    shade: '#2e2f27',
    ink: '#ece5d3',
    soft: '#b9af98',
    rule: '#4b4a3e',
    flag: '#e2694b',
    line: '#79bcc5',
    'on-flag': '#1b1c18',
    fault: '#f08a6d',
    caution: '#e0b055',
    tip: '#8fcbd3',
    grid: 'rgba(220, 205, 160, 0.06)',
  },
  /** Black-and-white safe. */
  print: {
    paper: '#fff',
    ink: '#16130d',
    soft: '#5d564b',
    small: '#3d3831',
    rule: '#9a948a',
    past: '#a8a297',
    strip: '#dcd8ce',
    plus: '#c99',
    minus: '#b5b5b5',
  },
} as const

/** The palettes of screens as maps of Sass: `$day: ("paper": #f6f1e4, …);` and `$night`. */
export const paletteScss = (
  [
    ['day', palette.light],
    ['night', palette.dark],
  ] as const
)
  .map(([name, colours]) => {
    const entries = Object.entries(colours).map(([one, colour]) => `"${one}": ${colour}`)
    return `$${name}: (${entries.join(', ')});\n`
  })
  .join('')
