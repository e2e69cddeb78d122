/** Text that is markup: made by {@link markup} alone, so that nothing typed by a maker can be. */
export class Markup {
  readonly text: string
  constructor(text: string) {
    this.text = text
  }
  /** Joined to text it would be escaped later, or not at all: it goes into a template. */
  toString(): never {
    throw new Error('markup was used as text')
  }
}

type Piece = Markup | string | number | undefined | readonly Piece[]

/**
 * A template of HTML or SVG. What stands in it is text of a maker and is escaped, for element content and for quoted
 * attributes, unless it is markup itself; lists are written one behind the other, and nothing is written for undefined.
 */
export const markup = (texts: TemplateStringsArray, ...pieces: readonly Piece[]): Markup =>
  new Markup(texts.map((text, at) => text + written(pieces[at])).join(''))

const written = (piece: Piece): string => {
  if (piece === undefined) return ''
  if (piece instanceof Markup) return piece.text
  if (typeof piece === 'object') return piece.map(written).join('')
  return String(piece).replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`)
}
