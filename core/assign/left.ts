import { formatVolts } from '../electrical/quantity.ts'
import type { BoardInstance, PartInstance, Wiring } from '../wiring/model.ts'
import { isLoose } from './spares.ts'

/** A part of the kit that stays in the box, and why. */
export interface Left {
  readonly ref: string
  readonly why: string
}

/** What gives current, lay loose in the kit and was not wired, with what keeps it from its board. */
export function leftInBox(before: Wiring, after: Wiring): Left[] {
  return before.parts.flatMap((part): Left[] => {
    const now = after.parts.find(({ ref }) => ref === part.ref)
    if (part.part.category !== 'power' || part.part.rails.length === 0) return []
    if (!now || !isLoose(before, part) || !isLoose(after, now)) return []
    const why = whyLeft(after, now)
    return why === undefined ? [] : [{ ref: part.ref, why }]
  })
}

function whyLeft(wiring: Wiring, { ref, part, home }: PartInstance): string | undefined {
  const [rail] = part.rails
  const board = home ?? wiring.boards[0]
  if (!rail || !board) return undefined
  if (rail.from !== undefined) return 'nothing feeds it, or nobody takes what it gives'
  const volts = wiring.netOf(`${ref}.${rail.pin}`).sources[0]?.volts
  if (volts === undefined) return undefined
  const takes = board.board.feeds.filter(({ pins }) => pins.length > 0)
  const has = formatVolts(volts)
  if (takes.length === 0) return `${board.ref} takes no supply at its pins`
  if (takes.some(({ least, most }) => volts >= least && volts <= most))
    return `${board.ref} is fed already, and nothing else asks for ${has}`
  return `${has} suits no pin of ${board.ref}, which takes ${takes.map(rangeOf).join(' and ')}; a converter between would help`
}

const rangeOf = ({ pins, least, most }: BoardInstance['board']['feeds'][number]): string =>
  `${formatVolts(least)} to ${formatVolts(most)} at ${pins[0]}`
