import { type Block, blockWords } from '../assign/block.ts'
import { type Candidate, candidates } from '../assign/candidates.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'

/** Why a signal lies on a pin, could, or does not. */
export interface PinAnswer {
  /** End of the pin. */
  readonly pin: string
  readonly state: 'here' | 'free' | 'blocked'
  /** Points more than the pin that the signal has, or than the best one while it has none; null where blocked. */
  readonly points: number | null
  readonly for: readonly string[]
  readonly against: readonly string[]
  readonly blocked: Block | null
  /** The same as a sentence. */
  readonly text: string
}

/** The answer for every pin that could carry a signal by its place, best first. */
export function pinAnswers(wiring: Wiring, use: SignalUse): PinAnswer[] {
  const all = candidates(wiring, use)
  const at = use.hosts[0]?.host
  const own = all.find(({ host }) => host === at)
  const from = own && own.blocked === undefined ? own : all[0]
  return all.map((one) => answer(use, one, one.host === at, from))
}

function answer(use: SignalUse, one: Candidate, isHere: boolean, from: Candidate | undefined): PinAnswer {
  const points = one.blocked || !from || from.blocked ? null : Math.round((one.cost - from.cost) * 10) / 10
  const data = { pin: one.host.end, points, for: one.for, against: one.against, blocked: one.blocked ?? null }
  const isPlain = one.against.length === 0 && one.for.every((word) => word === 'free')
  const speaks = [
    ...(isPlain ? ['nothing speaks against it'] : one.for.length > 0 ? [`for it speaks: ${one.for.join(', ')}`] : []),
    ...(one.against.length > 0 ? [`against it: ${one.against.join(', ')}`] : []),
  ].join('; ')
  const why = one.blocked ? blockText(one.blocked) : speaks
  const needs = `${use.end} needs ${needWords(use.facts.needs)}`
  if (isHere)
    return {
      ...data,
      state: 'here',
      text: `${needs} and lies on ${one.host.end}; ${one.blocked ? `against that: ${why}` : why}.`,
    }
  if (one.blocked) return { ...data, state: 'blocked', text: `${needs} and does not go on ${one.host.end}: ${why}.` }
  return { ...data, state: 'free', text: `${needs} and could go on ${one.host.end}, ${price(points)}; ${why}.` }
}

const blockText = (block: Block): string =>
  block.kind === 'taken'
    ? `${block.by} has it`
    : block.kind === 'feature' && block.whole
      ? `${block.title} has it`
      : blockWords(block)

/** What would let a signal go on a pin that is blocked for it; undefined where nothing would. */
export function allowing(use: SignalUse, block: Block): string | undefined {
  const software = use.part.home?.board.software.find(({ kind }) => use.facts.needs.startsWith(`${kind}.`))
  switch (block.kind) {
    case 'feature':
      return `Without ${block.title}, which is switched on the board's line in the Kit, it would.`
    case 'level':
      return 'Two resistors in the line, or a level shifter, would bring the level down.'
    case 'low':
      return 'A transistor between the two, or a level shifter, would lift it.'
    case 'taken':
      return `Swap the two, or move ${block.by} first.`
    case 'lacks':
      return software ? `By software it would go on plain pins: ${software.note}.` : undefined
    default:
      return undefined
  }
}

const price = (points: number | null): string =>
  points === null || Math.abs(points) < 0.05
    ? 'at the same price'
    : `for ${Math.abs(points)} points ${points > 0 ? 'more' : 'less'}`
