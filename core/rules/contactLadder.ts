import { memo } from '../base/memo.ts'
import { circuitOf, railOf } from '../circuit/circuit.ts'
import { contactLevels } from '../circuit/contactLevels.ts'
import { behindResistors } from '../circuit/reach.ts'
import { networkOf } from '../circuit/still.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { listWords, twoDigits, usesByHost } from './shared.ts'

/** Levels that lie closer than this share of the full scale are one for a program that has to tell keys apart. */
const APART = 0.03

export const contactLadderMessages = {
  alike: '{pin} gets {volts} from {one} as well as from {two}: the program cannot tell them apart.',
  keysOnly: '{pin} gets {volts} whether a key is pressed or none: {keys} and what holds the line lead to one side.',
  keysUnheld: 'Nothing holds {pin} while none of {keys} is pressed, and each of them is to make a level of its own.',
}

/** Keys from which on resistors of their own are there to tell them apart, and not to protect a pin. */
const LADDER_KEYS = 3

/** Contacts that give one analog pin a level each, with the volts while each of them alone is closed. */
export interface Ladder {
  readonly host: Host
  readonly keys: readonly { readonly use: SignalUse; readonly volts: number }[]
  readonly open: number
  /** Least volts by which two keys must differ. */
  readonly apart: number
}

/**
 * Keys over resistors at one analog pin. Contacts that all make the same level, as end switches side by side do, are no
 * ladder: there the pin is read as high or low.
 */
export const laddersOf = memo((wiring: Wiring): readonly Ladder[] =>
  [...usesByHost(wiring)].flatMap(([host, uses]): Ladder[] => {
    if (uses.length < 2 || host.logicVolts === undefined || !host.functions.has('analog-in')) return []
    const apart = host.logicVolts * APART
    const made = uses.map((use) => ({ use, levels: contactLevels(wiring, use)[0] }))
    const keys = made.flatMap(({ use, levels }) =>
      levels?.closed === undefined ? [] : [{ use, volts: levels.closed }],
    )
    const open = made.find(({ levels }) => levels?.open !== undefined)?.levels?.open
    const isSpread = keys.some(({ volts }) => Math.abs(volts - (keys[0]?.volts ?? 0)) >= apart)
    return keys.length === uses.length && open !== undefined && isSpread ? [{ host, keys, open, apart }] : []
  }),
)

/** Keys of a ladder that make the same level, or none. */
export function sayLadders(wiring: Wiring, report: (one: Report) => void): void {
  for (const { host, keys, apart } of laddersOf(wiring)) {
    // What a pin has inside is switched off where it reads levels.
    const rest = networkOf(wiring).pulled(wiring.netOf(host.end))
    const at = [host.end, ...keys.map(({ use }) => use.part.ref)]
    const names = listWords(keys.map(({ use }) => use.part.ref))
    const rails = keys.map(({ use }) => farRail(wiring, use))
    if (
      rest === undefined
        ? keys.length >= LADDER_KEYS
        : rails.every((one) => one !== undefined && Math.abs(one - rest) < apart)
    ) {
      report({
        severity: rest === undefined ? 'caution' : 'fault',
        at,
        message: rest === undefined ? 'keysUnheld' : 'keysOnly',
        data: { pin: host.end, keys: names, ...(rest === undefined ? {} : { volts: formatVolts(rest) }) },
        why: 'Keys over resistors divide a supply: one resistor leads from the pin to the side to which the keys do not lead. 10 kΩ suits keys over some kilohms.',
        numbers: {},
      })
      continue
    }
    const sorted = keys.toSorted((a, b) => a.volts - b.volts)
    for (const [at, { use, volts }] of sorted.entries()) {
      const next = sorted[at + 1]
      if (!next || next.volts - volts >= apart) continue
      report({
        severity: 'caution',
        at: [use.end, next.use.end, host.end],
        message: 'alike',
        data: { pin: host.end, volts: formatVolts(volts), one: use.part.ref, two: next.use.part.ref },
        why: `Keys at one analog pin are told apart by the level that each makes. These two lie ${formatVolts(next.volts - volts)} apart, where ${formatVolts(apart)} are needed for resistors of 5 %. Give one of them another resistor.`,
        numbers: { volts: twoDigits(volts), other: twoDigits(next.volts), apart: twoDigits(apart) },
      })
    }
  }
}

/** Volts of the rail to which a key leads, straight or over other keys and resistors; undefined where it leads to none. */
function farRail(wiring: Wiring, { part, end }: SignalUse): number | undefined {
  const circuit = circuitOf(wiring)
  const contact = circuit.elements.find((one) => one.kind === 'contact' && one.part === part)
  if (!contact) return undefined
  const far = contact.a === end ? contact.netB : contact.netA
  const nets = behindResistors(circuit, far)
  return nets.map(railOf).find((one) => one !== undefined)?.volts
}
