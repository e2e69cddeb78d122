import { rewire } from '../assign/rewire.ts'
import { entryOf } from '../base/entryOf.ts'
import type { Fix } from '../plan/edit.ts'
import type { SignalUse } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { listWords } from './shared.ts'

export const spiSelect: Rule = {
  meta: {
    id: 'spi-select',
    severities: ['fault'],
    about:
      'Two SPI devices share a chip select, a device on a shared bus has none of its own, or one that needs its edges has it tied low.',
    messages: {
      shared: '{signals} share the chip select {end}.',
      none: '{signal} {reason}: {part} has no chip select of its own.',
      held: '{signal} {reason}: {part} never learns where a message begins and ends.',
    },
    fixable: true,
  },
  check(wiring, report) {
    const selects = wiring.signals.filter((use) => use.facts.needs === 'spi.cs')
    const byHost = new Map<string, SignalUse[]>()
    for (const use of selects)
      for (const { host } of use.hosts) byHost.set(host.end, [...(byHost.get(host.end) ?? []), use])
    for (const [end, uses] of byHost) {
      if (uses.length < 2 || areNumbered(uses)) continue
      report({
        severity: 'fault',
        at: [end, ...uses.map((use) => use.end)],
        message: 'shared',
        data: { signals: uses.map((use) => use.end), end },
        why: `On a shared SPI bus the select line is the only thing that tells the devices whom the board is talking to. With one select for ${uses.length} devices they all answer at once, and their data outputs fight.`,
        numbers: { devices: uses.length },
        propose: () => uses.slice(1).flatMap((use) => rewire(wiring, use)),
      })
    }
    for (const bus of wiring.buses) {
      if (bus.kind !== 'spi' || !bus.board) continue
      for (const use of selects) {
        if (!bus.parts.includes(use.part) || use.hosts.length > 0) continue
        const alone = bus.parts.length === 1
        const lowForGood = use.state === 'tied' && wiring.netOf(use.end).ground
        if (use.state === 'open' || use.state === 'joined') continue
        if (lowForGood && alone && use.part.mode?.spi?.alwaysOn) continue
        const reason = use.state === 'unused' ? 'is left open' : lowForGood ? 'is tied low' : 'is tied high'
        report({
          severity: 'fault',
          at: [use.end],
          message: lowForGood && alone ? 'held' : 'none',
          data: { signal: use.end, reason, part: use.part.ref },
          why:
            lowForGood && alone
              ? 'With the fall of its select a message begins, and with its rise the part takes over what it was told, or measures anew. Run it to a pin of the board.'
              : lowForGood
                ? `A device that is always selected answers to all traffic on the bus, also to what is meant for ${listWords(bus.parts.filter((part) => part !== use.part).map((part) => part.ref))}.`
                : 'A device whose select never goes low never takes part in the bus.',
          numbers: { devices: bus.parts.length },
          propose: (): readonly Fix[] => {
            if (use.state === 'unused')
              return [{ title: `Take ${use.end} into use`, edits: [{ do: 'use-again', end: use.end }] }]
            const wires = wiring.plan.wires.filter(
              (wire) => (wire[0] === use.end || wire[1] === use.end) && !wire[2]?.locked,
            )
            return wires.length === 0
              ? []
              : [
                  {
                    title: `Free ${use.end} for a select line`,
                    edits: wires.map((wire) => ({ do: 'disconnect', from: wire[0], to: wire[1] })),
                  },
                ]
          },
        })
      }
    }
  },
}

/** Several of one kind with numbers of their own: messages say whom they are for. */
function areNumbered(uses: readonly SignalUse[]): boolean {
  const [first] = uses
  const option = first?.part.mode?.spi?.numbered
  if (option === undefined || uses.some(({ part }) => part.part.id !== first?.part.part.id)) return false
  const numbers = uses.map(({ part }) => entryOf(part.options, option))
  return new Set(numbers).size === numbers.length
}
