import { circuitOf } from '../circuit/circuit.ts'
import { applyEdits } from '../plan/edit.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { type AssignOptions, type AssignResult, assign } from './assign.ts'

/** Points that a signal which could stay open may cost, with what it makes others cost: no strap, console or expander. */
const MOST_EACH = 20
/** Points of the placing itself, in the cost of an answer. */
const PLACED = 100

/**
 * A complete answer with those signals besides that could stay open and are wired as a rule: the switch of a joystick,
 * the further relays of a row. They come only to parts of which the maker has wired none, and only where the pins are to
 * be had cheaply: all of them, else of one part after the other as many as go, the first ones first.
 */
export function withRows(wiring: Wiring, plain: AssignResult, options: AssignOptions): AssignResult {
  if (options.only || options.draft) return plain
  const rows = rowsOf(wiring, plain, options)
  if (rows.length === 0) return plain
  const all = rows.flat()
  const tried = (ends: readonly string[]): AssignResult | undefined => {
    const result = assign(wiring, { ...options, also: new Set([...(options.also ?? []), ...ends]) })
    const count = result.placed.length - plain.placed.length
    const isCheap = result.cost - plain.cost <= count * (PLACED + MOST_EACH)
    const isWhole = result.unplaced.length <= plain.unplaced.length && result.optimal >= plain.optimal
    return isWhole && isCheap && result.added.length === plain.added.length ? result : undefined
  }
  const whole = tried(all)
  if (whole) return whole
  let best = plain
  let ends: readonly string[] = []
  const take = (more: readonly string[]): boolean => {
    const result = tried([...ends, ...more])
    if (!result) return false
    best = result
    ends = [...ends, ...more]
    return true
  }
  const left = rows.length > 1 ? rows.filter((row) => !take(row)) : rows
  // Of a row that does not go as a whole as many as go, found by steps of halves: what goes with many goes with fewer.
  for (const row of left)
    for (let [at, step] = [0, 2 ** Math.floor(Math.log2(row.length))]; step >= 1; step /= 2)
      if (at + step < row.length && take(row.slice(at, at + step))) at += step
  return best
}

/** Ends of such signals, part by part. */
function rowsOf(wiring: Wiring, plain: AssignResult, { refs }: AssignOptions): string[][] {
  const often = wiring.signals.filter(({ facts, state, part }) => {
    const isWanted = facts.often && state === 'open' && (refs?.has(part.ref) ?? true)
    return isWanted && wiring.signals.every((use) => use.part !== part || !wiring.netOf(use.end).wired)
  })
  if (often.length === 0) return []
  const after = resolve(applyEdits(wiring.plan, plain.edits), wiring.catalog)
  const ends = often.filter((use) => !isSpareContact(after, use)).map(({ end }) => end)
  return wiring.parts.flatMap(({ ref }) => {
    const mine = ends.filter((end) => end.startsWith(`${ref}.`))
    return mine.length > 0 ? [mine] : []
  })
}

/** It only moves contacts that carry nothing, while others of its part do. */
function isSpareContact(wiring: Wiring, { end, part }: SignalUse): boolean {
  const contacts = circuitOf(wiring).elements.filter((one) => one.part.ref === part.ref && one.moved !== undefined)
  const carrying = contacts.filter(({ netA, netB }) => netA.wired && netB.wired)
  return carrying.length > 0 && !carrying.some(({ moved }) => moved?.by === end)
}
