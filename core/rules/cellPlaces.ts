import { circuitOf, railsBehindContacts } from '../circuit/circuit.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { splitEnd } from '../plan/ends.ts'
import { CELL_VOLTS, cellPlaceOf } from '../wiring/cellPlaces.ts'
import type { Source, Wiring } from '../wiring/model.ts'
import { cellsOf } from '../wiring/stacks.ts'
import type { Report } from './finding.ts'
import { takeOut } from './mend.ts'

export const cellVoltsMessages = {
  cell: '{pin} gets {volts} from {source}; it is there for a lithium cell of {least} to {most}.',
}

/** Something else than a lithium cell where one belongs. */
export function sayCellVolts(wiring: Wiring, report: (one: Report) => void): void {
  for (const part of wiring.parts) {
    const place = cellPlaceOf(part)
    if (!place) continue
    const source = sourcesAt(wiring, place.plus).find(
      ({ ref, volts }) => ref !== part.ref && (volts < CELL_VOLTS.least || volts > CELL_VOLTS.most),
    )
    if (!source) continue
    const [volts, least, most] = [source.volts, CELL_VOLTS.least, CELL_VOLTS.most].map(formatVolts) as [
      string,
      string,
      string,
    ]
    report({
      severity: 'fault',
      at: [place.plus, source.end],
      message: 'cell',
      data: { pin: place.plus, volts, source: source.end, least, most },
      why: `What stands behind this pin is made for one lithium cell: ${most} when it is full. Anything above destroys it, and what charges a cell drives its current into whatever lies there instead.`,
      numbers: { volts: source.volts, ...CELL_VOLTS },
    })
  }
}

/** Sources that hold an end, also where a switch lies between. */
const sourcesAt = (wiring: Wiring, end: string): Source[] => {
  const net = wiring.netOf(end)
  const behind = railsBehindContacts(circuitOf(wiring), net).flatMap(({ rail }) => rail.source ?? [])
  return [...net.sources, ...behind]
}

export const cellTurnedMessages = {
  cellTurned: 'A cell is the wrong way round at {part}: its plus {end} lies on {minus}.',
}

/** The plus of a cell at the minus of its charger. */
export function sayCellTurned(wiring: Wiring, report: (one: Report) => void): void {
  for (const part of wiring.parts) {
    const { minus } = cellPlaceOf(part) ?? {}
    const [source] = minus === undefined ? [] : sourcesAt(wiring, minus)
    if (minus === undefined || !source) continue
    report({
      severity: 'fault',
      at: [minus, source.end],
      message: 'cellTurned',
      data: { part: part.ref, end: source.end, minus },
      why: 'Nothing in a charger bears a cell that is turned round: protection and charger burn at once, and the cell gets hot.',
      numbers: {},
    })
  }
}

export const cellHalfMessages = {
  cellShorted: '{plus} and {minus} are joined: a cell between them would be shorted.',
  cellHalf: '{open} of {part} has no wire, and the other pole {wired} has: the cell is not charged and feeds nothing.',
}

/** A cell with one pole on its charger. */
export function sayHalfCells(wiring: Wiring, report: (one: Report) => void): void {
  const unused = new Set(wiring.plan.unused)
  for (const part of wiring.parts) {
    const { plus, minus, isCharger } = cellPlaceOf(part) ?? {}
    if (!isCharger || plus === undefined || minus === undefined) continue
    if (wiring.netOf(plus) === wiring.netOf(minus) && wiring.netOf(plus).wired)
      report({
        severity: 'fault',
        at: [plus, minus],
        message: 'cellShorted',
        data: { plus, minus },
        why: 'The two pads are the poles of the cell. Joined they short it, and the protection of the module is not asked.',
        numbers: {},
        propose: () => [plus, minus].flatMap((end) => takeOut(wiring, (a, b) => a === end || b === end)).slice(0, 2),
      })
    const [open, wired] = wiring.netOf(plus).wired ? [minus, plus] : [plus, minus]
    if (wiring.netOf(open).wired || !wiring.netOf(wired).wired || unused.has(open)) continue
    // Of a cell that has one wire alone its own rule speaks.
    const cell = wiring.netOf(wired).ends.find((end) => isWhole(wiring, splitEnd(end).ref))
    if (cell === undefined) continue
    const pole = `${splitEnd(cell).ref}.${open === plus ? '+' : '-'}`
    report({
      severity: 'caution',
      at: [open, wired],
      message: 'cellHalf',
      data: { open: open.slice(part.ref.length + 1), part: part.ref, wired },
      why: 'A current flows in a circle: in at one pole of the cell and out at the other, both of them on the charger.',
      numbers: {},
      propose: () => [{ title: `Join ${pole} to ${open}`, edits: [{ do: 'connect', from: pole, to: open }] }],
    })
  }
}

/** A cell of which both poles have a wire. */
const isWhole = (wiring: Wiring, ref: string): boolean =>
  cellsOf(wiring.supplies, wiring.parts).some(
    (cell) => cell.ref === ref && [cell.plus, ...cell.minus].every((pole) => wiring.netOf(pole).wired),
  )

export const cellGroundMessages = {
  bypassed: '{minus} lies on ground: what protects the cell is by-passed. Ground of what {part} feeds is {ground}.',
}

/** The minus of a cell joined with the ground of what it feeds, past the protection between them. */
export function sayCellGround(wiring: Wiring, report: (one: Report) => void): void {
  for (const part of wiring.parts) {
    const { minus, ground } = cellPlaceOf(part) ?? {}
    if (minus === undefined || ground === undefined) continue
    const net = wiring.netOf(minus)
    if (wiring.boards.every((board) => board.ground !== net)) continue
    report({
      severity: 'caution',
      at: [minus, ground],
      message: 'bypassed',
      data: { minus, part: part.ref, ground },
      why: `The protection opens between ${minus} and ${ground} when the cell is empty or a load takes too much. With both on one ground it opens nothing: the cell is emptied until it is ruined, and a short is not ended.`,
      numbers: {},
    })
  }
}
