import type { Footprint } from '../catalog/partSchema.ts'

/** A leg of a part in its drawing, in breadboard pitches from the top left corner of the body. */
export interface FigureLeg {
  /** Undefined for a position without a pin. */
  readonly pin: string | undefined
  readonly x: number
  readonly y: number
  /** Side of the body on which its name stands. */
  readonly side: 'left' | 'right' | 'bottom'
}

/** A part drawn from its footprint: a body and its legs. */
export interface PartFigure {
  readonly width: number
  readonly height: number
  /** Legs counted around the corner start at the top left, beside the notch. */
  readonly notch: boolean
  readonly kind: Footprint['kind']
  readonly legs: readonly FigureLeg[]
}

/** Lays the legs of a part out as they lie: in one row, in two, around a chip, or as leads; posts of other edges apart. */
export function partFigure(foot: Footprint): PartFigure {
  const row = (pins: readonly (string | null)[], x: number, side: FigureLeg['side']): FigureLeg[] =>
    pins.map((pin, index) => ({ pin: pin ?? undefined, x, y: index + 0.5, side }))
  const apart = 'apart' in foot ? foot.apart.flatMap(({ pins }) => pins) : []
  switch (foot.kind) {
    case 'in-line':
      return {
        kind: foot.kind,
        width: 4,
        height: Math.max(1, foot.pins.length, apart.length),
        notch: false,
        legs: [...row(foot.pins, 0.5, 'left'), ...row(apart, 3.5, 'right')],
      }
    case 'two-row': {
      const rows = Math.max(foot.left.length, foot.right.length)
      const width = Math.min(foot.rowsApart + 1, 9)
      return {
        kind: foot.kind,
        width,
        height: rows + (apart.length > 0 ? apart.length + 1 : 0),
        notch: false,
        legs: [
          ...row(foot.left, 0.5, 'left'),
          ...row(foot.right, width - 0.5, 'right'),
          ...row(apart, width / 2, 'right').map((leg) => ({ ...leg, y: leg.y + rows + 1 })),
        ],
      }
    }
    case 'dual-in-line': {
      const half = Math.ceil(foot.pins.length / 2)
      const width = Math.min(Math.max(foot.rowsApart, 3) + 1, 8)
      return {
        kind: foot.kind,
        width,
        height: half,
        notch: true,
        legs: [
          ...row(foot.pins.slice(0, half), 0.5, 'left'),
          ...row(foot.pins.slice(half).reverse(), width - 0.5, 'right'),
        ],
      }
    }
    default:
      return {
        kind: foot.kind,
        width: 4,
        height: Math.max(1, foot.pins.length),
        notch: false,
        legs: row(foot.pins, 0.5, 'left'),
      }
  }
}
