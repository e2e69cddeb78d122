import { layoutOf } from '../breadboard/layout.ts'
import type { Rule } from './finding.ts'

export const railGap: Rule = {
  meta: {
    id: 'rail-gap',
    severities: ['fault'],
    about: 'On the bench: a rail that is cut in the middle is used on both sides of its gap, and no wire bridges it.',
    messages: {
      gap: '{breadboard}: rail {rail} carries {name} on both sides of its gap before row {gapAt}, and nothing bridges it.',
    },
    fixable: true,
  },
  check(wiring, report) {
    const layout = layoutOf(wiring)
    for (const { breadboard, rail, net } of layout?.gaps ?? []) {
      const index = layout!.grid.index(breadboard)!
      const { entry, gapAt } = layout!.grid.boards[index]!
      const carried = wiring.nets[net]!
      const name = carried.ground ? 'ground' : (carried.sources[0]?.end ?? carried.ends[0]!)
      const { bridged: _, ...rest } = entry
      report({
        severity: 'fault',
        at: [`${breadboard}.${rail}`],
        message: 'gap',
        data: { breadboard, rail, name, gapAt },
        why: 'On many full breadboards the rails are cut half-way, which a break in the printed line shows. What stands on the far half is then joined with nothing, although it looks connected.',
        numbers: { gapBeforeRow: gapAt ?? 0 },
        propose: () => [
          {
            title: `Bridge the rails of ${breadboard}`,
            edits: [{ do: 'set-breadboard', ref: breadboard, entry: rest }],
          },
        ],
      })
    }
  },
}
