import { entryOf } from '../base/entryOf.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import { busNeed } from '../wiring/buses.ts'
import { strapEdits } from '../wiring/i2c.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { slotOf, speakAtOnce } from '../wiring/soundSlots.ts'
import type { Rule } from './finding.ts'

export const i2sSlot: Rule = {
  meta: {
    id: 'i2s-slot',
    severities: ['fault'],
    about: 'Two microphones speak in the same half of the frames on one I2S data line.',
    messages: { same: '{one} and {other} speak at the same time on one data line, in the {half} half.' },
    fixable: true,
  },
  check(wiring, report) {
    const lines = wiring.signals.filter(({ facts, end }) => {
      const need = busNeed(facts.needs)
      return need?.kind === 'i2s' && need.signal === 'din' && wiring.netOf(end).wired
    })
    for (const [at, one] of lines.entries())
      for (const other of lines.slice(at + 1)) {
        if (one.part === other.part || wiring.netOf(one.end) !== wiring.netOf(other.end)) continue
        if (!speakAtOnce(one.part, other.part)) continue
        const half = slotOf(other.part) as string
        report({
          severity: 'fault',
          at: [one.end, other.end],
          message: 'same',
          data: { one: one.part.ref, other: other.part.ref, half: half === 'both' ? 'whole' : half },
          why: 'A frame has a left and a right half, and what speaks in one is silent in the other. Two in the same half drive the line against each other: one has its channel pin on ground, the other one on the supply.',
          numbers: { half },
          propose: () => otherHalf(wiring, other.part, half),
        })
      }
  },
}

function otherHalf(wiring: Wiring, part: PartInstance, half: string): Fix[] {
  const value = part.part.options
    .find(({ id }) => id === 'channel')
    ?.values.find((one) => one.value !== half && typeof one.value === 'string')?.value
  const entry = entryOf(wiring.plan.parts, part.ref)
  const strap = typeof value === 'string' ? strapEdits(wiring, part, 'channel', value) : undefined
  if (!entry || !strap || value === undefined) return []
  const change: Edit = { do: 'change-part', ref: part.ref, entry: { options: { ...entry.options, channel: value } } }
  return [{ title: `Let ${part.ref} speak in the ${value} half`, edits: [change, ...strap] }]
}
