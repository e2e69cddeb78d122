import { memo } from '../base/memo.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { BoardInstance, PartInstance, Wiring } from '../wiring/model.ts'
import { feedsFor, railsLost } from './feeding.ts'
import { couldCarry } from './finish.ts'
import { openEnds } from './openEnds.ts'
import { isLoose, isWanted } from './spares.ts'

/** A part of the kit that stays in the box, and why. */
export interface Left {
  readonly ref: string
  readonly why: string
  /** There is enough without it; it cannot feed what is there; or it only helps others, and none asks for it. */
  readonly is: 'spare' | 'unfit' | 'unused'
}

/** What lay loose in the kit and was not wired: what gives current, with what keeps it from its board, and helpers. */
export function leftInBox(before: Wiring, after: Wiring): Left[] {
  const wasLoose = new Set(before.parts.filter((part) => isLoose(before, part)).map(({ ref }) => ref))
  const sources = looseSources(after).flatMap((part) => leftOver(after, part))
  return [...sources, ...unusedHelpers(after, sources)].filter(({ ref }) => wasLoose.has(ref))
}

/**
 * What cannot be of use to the wiring as it stands: what gives current where its volts suit no board, or the board is
 * fed already, and helpers that none of the others asks for. What something loose beside it could still change is not
 * among it: a converter for its volts, or a source for a converter.
 */
export const staysInBox = memo((wiring: Wiring): readonly Left[] => {
  const sources = sourcesInBox(wiring)
  return [...sources, ...unusedHelpers(wiring, sources)]
})

/**
 * Resistors, transistors, shifters and the like that have no wire while all that asks for something has its own: as
 * long as one pin of another part waits, it may wait for them.
 */
function unusedHelpers(wiring: Wiring, boxed: readonly Left[]): Left[] {
  const inBox = new Set(boxed.map(({ ref }) => ref))
  const asks = (part: PartInstance): boolean => openEnds(wiring, part).some(({ required }) => required)
  const sources = new Set(looseSources(wiring))
  const helpers = wiring.parts.filter((part) => !sources.has(part) && isHelper(wiring, part) && asks(part))
  if (helpers.length === 0) return []
  const others = wiring.parts.filter((part) => !inBox.has(part.ref) && !helpers.includes(part))
  if (others.length === 0 || others.some(asks)) return []
  return helpers
    .filter((part) => !isWanted(wiring, part))
    .map(({ ref }) => ({ ref, is: 'unused', why: 'everything else has its wires without it' }))
}

/**
 * A loose part that wants no pin for its own sake: a leg, a rail or a way through is all that it has, or it is there for
 * loads of the plan.
 */
function isHelper(wiring: Wiring, part: PartInstance): boolean {
  if (!isLoose(wiring, part)) return false
  const isDriver = part.part.channels.length > 0 && (part.part.build === 'component' || couldCarry(wiring, part))
  return isDriver || openEnds(wiring, part).every(({ kind, required }) => kind !== 'signal' || !required)
}

function sourcesInBox(wiring: Wiring): Left[] {
  const loose = looseSources(wiring)
  const givesTo = (source: PartInstance, converter: PartInstance): boolean => {
    const volts = voltsOf(wiring, source)
    return (
      volts !== undefined &&
      takenFrom(converter).length > 0 &&
      converter.supplies.some(({ facts }) => volts >= facts.least && volts <= facts.most)
    )
  }
  return loose.flatMap((part): Left[] => {
    const others = loose.filter((one) => one !== part)
    if (others.some((one) => givesTo(part, one) || givesTo(one, part))) return []
    // One that fits waits to feed the board, but for those of several rails, which are there for a breadboard.
    if (part.part.rails.length === 1 && takenFrom(part).length === 0 && !isFed(wiring, part) && suits(wiring, part))
      return []
    return leftOver(wiring, part)
  })
}

const looseSources = (wiring: Wiring): PartInstance[] =>
  wiring.parts.filter((part) => part.part.category === 'power' && part.part.rails.length > 0 && isLoose(wiring, part))

/** Rails that are made from what the part is fed with. */
const takenFrom = ({ part }: PartInstance) => part.rails.filter(({ from }) => from !== undefined)

const boardOf = (wiring: Wiring, { home }: PartInstance): BoardInstance | undefined => home ?? wiring.boards[0]

const voltsOf = (wiring: Wiring, { ref, part }: PartInstance): number | undefined => {
  const [rail] = part.rails
  return rail && wiring.netOf(`${ref}.${rail.pin}`).sources[0]?.volts
}

/** Where a board takes current in at its pins. */
const feedsOf = ({ board }: BoardInstance) => board.feeds.filter(({ pins }) => pins.length > 0)

function suits(wiring: Wiring, part: PartInstance): boolean {
  const [board, volts] = [boardOf(wiring, part), voltsOf(wiring, part)]
  return (
    board !== undefined &&
    volts !== undefined &&
    feedsFor(board, volts).some((feed) => railsLost(wiring, board, feed, volts).length === 0)
  )
}

/** Something of the plan gives current at a pin of the board where it takes it in. */
function isFed(wiring: Wiring, part: PartInstance): boolean {
  const board = boardOf(wiring, part)
  return (
    board !== undefined &&
    feedsOf(board).some(({ pins }) =>
      pins.some((pin) => wiring.netOf(`${board.ref}.${pin}`).sources.some(({ ref }) => ref !== board.ref)),
    )
  )
}

function leftOver(wiring: Wiring, part: PartInstance): Left[] {
  const { ref } = part
  const board = boardOf(wiring, part)
  if (!board) return []
  if (part.part.rails[0]?.from !== undefined)
    return [{ ref, is: 'spare', why: 'nothing feeds it, or nobody takes what it gives' }]
  const volts = voltsOf(wiring, part)
  if (volts === undefined) return []
  const takes = feedsOf(board)
  const has = formatVolts(volts)
  if (takes.length === 0) return [{ ref, is: 'unfit', why: `${board.ref} takes no supply at its pins` }]
  if (suits(wiring, part))
    return [{ ref, is: 'spare', why: `${board.ref} is fed already, and nothing else asks for ${has}` }]
  const lost = feedsFor(board, volts).flatMap((feed) => {
    const rails = railsLost(wiring, board, feed, volts)
    return rails.length > 0
      ? [`with it at ${feed.pins[0]}, ${rails[0]} would not give what those take that hang on it`]
      : []
  })
  if (lost[0]) return [{ ref, is: 'unfit', why: lost[0] }]
  const wanted = takes.map(rangeOf).join(' and ')
  const why = `${has} suits no pin of ${board.ref}, which takes ${wanted}; a converter between would help`
  return [{ ref, is: 'unfit', why }]
}

const rangeOf = ({ pins, least, most }: BoardInstance['board']['feeds'][number]): string =>
  `${formatVolts(least)} to ${formatVolts(most)} at ${pins[0]}`
