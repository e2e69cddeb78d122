import { entryOf } from '../base/entryOf.ts'
import { layoutOf } from '../breadboard/layout.ts'
import type { Layout } from '../breadboard/workbench.ts'
import { type Edit, type Fix, freeBreadboardRef } from '../plan/edit.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Breadboard } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'

export const noFreeHole: Rule = {
  meta: {
    id: 'no-free-hole',
    severities: ['fault'],
    about:
      'On the bench: a board or part finds no room on the breadboards, or leaves no free hole for a wire that one of its pins needs.',
    messages: {
      noPlace: '{ref} finds no place on the bench: it {text}.',
      noWire: '{ref}: {pins} {pins:gets/get} no wire on the bench: {text}.',
    },
    fixable: true,
  },
  check(wiring, report) {
    const layout = layoutOf(wiring)
    if (!layout) return
    const stray = new Set(layout.stray.map(({ ref }) => ref))
    for (const { ref, text } of layout.stray)
      report({
        severity: 'fault',
        at: [ref],
        message: 'noPlace',
        data: { ref, text },
        why: 'Every leg needs a row of its own for each net, and a body covers the holes under it. A further breadboard makes room, or the part lies beside on jumper wires.',
        numbers: {},
        propose: () => waysOut(wiring, layout, ref),
      })
    const byRef = new Map<string, { ends: string[]; text: string }>()
    for (const { end, text } of layout.blocked) {
      const { ref } = splitEnd(end)
      if (stray.has(ref)) continue
      const known = byRef.get(ref) ?? { ends: [], text }
      known.ends.push(end)
      byRef.set(ref, known)
    }
    for (const [ref, { ends, text }] of byRef) {
      const pins = ends.map((end) => splitEnd(end).pin)
      report({
        severity: 'fault',
        at: ends,
        message: 'noWire',
        data: { ref, pins, text },
        why: 'A half-row has five holes, and what lies over them takes some away: a wide board can leave none on one side. Two breadboards clipped together leave holes on both sides, and a board beside them is reached with jumpers.',
        numbers: { pins: pins.length },
        propose: () => waysOut(wiring, layout, ref),
      })
    }
  },
}

function waysOut(wiring: Wiring, layout: Layout, ref: string): Fix[] {
  const { plan } = wiring
  const home = wiring.parts.find((part) => part.ref === ref)?.home?.ref ?? ref
  const own = layout.grid.boards.filter(({ entry }) => entry.for === home)
  const { ref: lastRef, entry } = (own.length > 0 ? own : layout.grid.boards).at(-1)!
  const fixes: Fix[] = []
  if (entryOf(plan.bench?.places, ref))
    fixes.push({ title: `Let the program place ${ref}`, edits: [{ do: 'place', ref, place: null }] })
  const added = (change: Partial<Breadboard>): Edit[] => {
    const { joined: _, ...rest } = entry
    return [{ do: 'set-breadboard', ref: freeBreadboardRef(plan), entry: { ...rest, ...change } }]
  }
  if (layout.grid.boards.at(-1)?.ref === lastRef)
    fixes.push({ title: `Clip a second breadboard to ${lastRef}`, edits: added({ joined: true }) })
  fixes.push({ title: 'Put another breadboard beside', edits: added({}) })
  if (entry.kind !== 'full')
    fixes.push({
      title: `Take a full breadboard for ${lastRef}`,
      edits: [{ do: 'set-breadboard', ref: lastRef, entry: { ...entry, kind: 'full' } }],
    })
  const unit = layout.units.find((one) => one.ref === ref)
  if (unit?.kind === 'straddle' || unit?.kind === 'row')
    fixes.push({
      title: `Lay ${ref} beside, on jumper wires`,
      edits: [{ do: 'place', ref, place: { beside: true } }],
    })
  return fixes
}
