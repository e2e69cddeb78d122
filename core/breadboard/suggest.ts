import type { Catalog } from '../catalog/catalog.ts'
import { type Edit, freeBreadboardRef } from '../plan/edit.ts'
import type { Breadboard, Plan } from '../plan/planSchema.ts'
import { resolve } from '../wiring/resolve.ts'
import { roughLayout } from './layout.ts'
import type { Layout } from './workbench.ts'

const half: Breadboard = { kind: 'half' }
const full: Breadboard = { kind: 'full' }
/** Breadboards for one board and its parts, the smallest first. */
const sizes: readonly (readonly Breadboard[])[] = [
  [half],
  [full],
  [half, { ...half, joined: true }],
  [full, { ...full, joined: true }],
  [full, { ...full, joined: true }, full],
  [full, { ...full, joined: true }, full, full],
]

/**
 * Chooses breadboards for a plan that has none: for each board the smallest on which everything finds its place and
 * every wire its hole, or the largest when none suffices. `watch` hears of every try, between 0 and 1.
 */
export function suggestBreadboards(plan: Plan, catalog: Catalog, watch?: (share: number) => void): Edit[] {
  const homes = Object.keys(plan.boards)
  const apart = homes.length > 1
  const levels = new Map(homes.length === 0 ? [['', 0]] : homes.map((ref) => [ref, 0]))
  const most = sizes.length - 1
  for (let tries = 0; ; tries += 1) {
    const breadboards = breadboardsFor(plan, levels, apart)
    const wiring = resolve({ ...plan, bench: { places: {}, done: [], ...plan.bench, breadboards } }, catalog)
    const homeOf = new Map(wiring.parts.map((part) => [part.ref, part.home?.ref]))
    const cramped = new Set(
      unplaceable(roughLayout(wiring)).map((ref) => {
        const home = levels.has(ref) ? ref : homeOf.get(ref)
        return home !== undefined && levels.has(home) ? home : undefined
      }),
    )
    const growing = [...levels.keys()].filter(
      (home) => (cramped.has(home) || cramped.has(undefined)) && levels.get(home)! < most,
    )
    if (growing.length === 0)
      return Object.entries(breadboards).map(([ref, entry]) => ({ do: 'set-breadboard', ref, entry }))
    for (const home of growing) levels.set(home, levels.get(home)! + 1)
    watch?.((tries + 1) / sizes.length)
  }
}

/** References of what finds no place, or a pin that no wire reaches. */
function unplaceable({ stray, blocked }: Layout): string[] {
  return [...stray.map(({ ref }) => ref), ...blocked.map(({ end }) => end.slice(0, end.indexOf('.')))]
}

function breadboardsFor(plan: Plan, levels: ReadonlyMap<string, number>, apart: boolean): Record<string, Breadboard> {
  let breadboards: Record<string, Breadboard> = {}
  for (const [home, level] of levels)
    for (const entry of sizes[level]!) {
      const ref = freeBreadboardRef({ ...plan, bench: { places: {}, done: [], breadboards } })
      breadboards = { ...breadboards, [ref]: apart ? { ...entry, for: home } : entry }
    }
  return breadboards
}
