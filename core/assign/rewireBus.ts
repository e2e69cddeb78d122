import { applyEdits, type Edit, type Fix } from '../plan/edit.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Bus, Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { assign } from './assign.ts'
import { detach } from './rewire.ts'

/** Takes a bus off its pins and places it anew: one fix, or none when a locked wire holds it or no pins are left. */
export function rewireBus(wiring: Wiring, bus: Bus): Fix[] {
  const moved = bus.uses.filter((use) => use.hosts.length > 0 && busNeed(use.facts.needs)!.signal !== 'cs')
  const off: Edit[] = []
  for (const use of moved) {
    const edits = detach(wiring, use)
    if (!edits) return []
    for (const edit of edits) if (!off.some((one) => JSON.stringify(one) === JSON.stringify(edit))) off.push(edit)
  }
  const bare = resolve(applyEdits(wiring.plan, off), wiring.catalog)
  const result = assign(bare, { only: new Set(moved.map((use) => use.end)) })
  if (result.unplaced.length > 0 || result.edits.length === 0) return []
  return [
    {
      title: `Place the ${bus.kind.toUpperCase()} lines of ${bus.parts.map((part) => part.ref).join(', ')} anew`,
      edits: [...off, ...result.edits],
    },
  ]
}
