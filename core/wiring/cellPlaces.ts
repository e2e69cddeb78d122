import type { PartInstance, Source, Wiring } from './model.ts'

/** Volts between which a lithium cell is used: cut off by its protection, and full. Source: DW01A and TP4056 datasheets. */
export const CELL_VOLTS = { least: 2.4, most: 4.25 }

/** Where a part takes a lithium cell. */
export interface CellPlace {
  /** Ends of its poles; what only reads the state of a cell has no minus. */
  readonly plus: string
  readonly minus: string | undefined
  /** Ground of what a charger feeds, behind its protection. */
  readonly ground: string
  readonly isCharger: boolean
}

/** The place for a cell of a charger or a gauge; undefined for another part. */
export function cellPlaceOf({ ref, part }: PartInstance): CellPlace | undefined {
  const [plus, minus] = part.pins.filter(({ outside }) => outside === 'a lithium cell').map(({ id }) => `${ref}.${id}`)
  const ground = part.pins.findLast(({ role }) => role === 'ground')
  return plus === undefined
    ? undefined
    : { plus, minus, ground: `${ref}.${ground?.id}`, isCharger: part.rails.length > 0 }
}

/** The pole of a cell that hangs on its charger: what takes from it goes to the output of that, and so does its ground. */
export const isOnCharger = (wiring: Pick<Wiring, 'netOf' | 'terminal'>, end: string): boolean =>
  wiring.netOf(end).ends.some((one) => {
    const owner = wiring.terminal(one)?.owner
    const place = owner?.kind === 'part' ? cellPlaceOf(owner) : undefined
    return place?.isCharger === true && (place.plus === one || place.minus === one)
  })

/** A lithium cell by itself, while another one of the plan lies on its charger. */
export const isBesideCharger = (wiring: Wiring, { ref, volts }: Source): boolean =>
  volts >= CELL_VOLTS.least &&
  volts <= CELL_VOLTS.most &&
  wiring.parts.some(({ ref: one, part }) => one === ref && part.rails.every(({ from }) => from === undefined)) &&
  wiring.parts.some((part) => {
    const place = cellPlaceOf(part)
    return part.ref !== ref && place?.isCharger === true && wiring.netOf(place.plus).wired
  })
