import { entryOf } from '../base/entryOf.ts'
import { isLoad } from '../catalog/common.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { RECOMMENDED_SLACK } from '../circuit/pinLoads.ts'
import type { Host, PartInstance, SignalUse, SupplyUse, Wiring } from '../wiring/model.ts'
import { needWords, switchesLoad } from '../wiring/needs.ts'
import { sourcesOf } from '../wiring/supply.ts'
import type { Report, Rule } from './finding.ts'

export const driverNeeded: Rule = {
  meta: {
    id: 'driver-needed',
    severities: ['fault', 'caution'],
    about: 'A coil, motor, lamp, fan or strip hangs straight on a pin, or is fed by one.',
    messages: {
      straight: '{ends} {ends:hangs/hang} straight on {pins}; {ends:it/each} needs {need}.',
      fedByPin: '{part} takes up to {takes} mA and is fed from the pin {pin}, which is good for {most} mA.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const byPart = new Map<PartInstance, { use: SignalUse; host: Host }[]>()
    for (const use of wiring.signals)
      if (isLoad(use.facts.needs))
        for (const { host } of use.hosts)
          if (!switchesLoad(host.functions) && !isHeardSoftly(wiring, use, host))
            byPart.set(use.part, [...(byPart.get(use.part) ?? []), { use, host }])
    for (const [part, bare] of byPart) {
      const first = bare[0]
      if (!first) continue
      const most = first.host.current?.absolute ?? first.host.current?.recommended
      const ends = bare.map(({ use }) => use.end)
      report({
        severity: 'fault',
        at: bare.flatMap(({ use, host }) => [use.end, host.end]),
        message: 'straight',
        data: { ends, pins: bare.map(({ host }) => host.end), need: needWords(first.use.facts.needs) },
        why: `${part.part.title}: many times what a logic pin can give${most === undefined ? '' : ` (${most} mA at most)`}, and windings strike back with a high voltage when they are switched off. A transistor, a driver chip or a relay has to stand between.`,
        numbers: most === undefined ? {} : { pinMilliamps: most },
        propose: () => [
          {
            title: `Take ${part.ref} off the ${ends.length > 1 ? 'pins' : 'pin'} until a driver is there`,
            edits: wiring.plan.wires
              .filter((wire) => !wire[2]?.locked && [wire[0], wire[1]].some((end) => ends.includes(end)))
              .map(([from, to]) => ({ do: 'disconnect', from, to })),
          },
        ],
      })
    }
    sayFedByPins(wiring, report)
  },
}

/** Parts that take their supply from a pin which cannot carry it. */
function sayFedByPins(wiring: Wiring, report: (one: Report) => void): void {
  for (const part of wiring.parts)
    for (const use of part.supplies) {
      if (use.source) continue
      for (const end of use.pins) {
        const net = wiring.netOf(end)
        const host = net.ends.map((one) => wiring.terminal(one)?.host).find((one) => one?.board !== undefined)
        if (!host || !feedsTooMuch(host, use)) continue
        const takes = takenBy(use) as number
        const most = goodFor(host)
        const { absolute = most } = host.current ?? {}
        report({
          severity: takes > (absolute as number) ? 'fault' : 'caution',
          at: [end, host.end],
          message: 'fedByPin',
          data: { part: part.ref, takes: Math.round(takes), pin: host.end, most },
          why: 'A logic pin is no supply: above its current its voltage falls, then its output stage is destroyed. Feed the part from a supply, and switch it with a transistor where it must be switched.',
          numbers: { takesMilliamps: Math.round(takes), pinMilliamps: most as number },
          propose: () => {
            const rails = sourcesOf(wiring).filter(
              (source) => source.volts >= use.facts.least && source.volts <= use.facts.most,
            )
            return rails.slice(0, 2).map((source) => ({
              title: `Feed ${end} from ${source.end}`,
              edits: [
                ...wiring.plan.wires
                  .filter((wire) => [wire[0], wire[1]].includes(end))
                  .map(([from, to]) => ({ do: 'disconnect' as const, from, to })),
                { do: 'connect' as const, from: end, to: source.end },
              ],
            }))
          },
        })
      }
    }
}

/**
 * A loudspeaker behind a resistor sounds, if softly, on what a pin gives: I = V / (R + Z). A capacitor in the way comes to
 * half of the square wave's height, and leaves the other half.
 */
function isHeardSoftly(
  wiring: Wiring,
  { facts, part, hosts }: SignalUse,
  { end: at, current, logicVolts, levels }: Host,
): boolean {
  if (facts.behindResistor === undefined || logicVolts === undefined) return false
  const own = entryOf(part.options, facts.behindResistor)
  const most = current?.recommended ?? current?.absolute
  const via = hosts.find(({ host }) => host.end === at)?.via ?? []
  const between = circuitOf(wiring).elements.filter((one) => via.includes(one.part.ref))
  const ohms = between.reduce((sum, one) => sum + (one.kind === 'resistor' ? (one.ohms ?? 0) : 0), 0)
  if (ohms === 0 || typeof own !== 'number' || most === undefined) return false
  const swing = between.some(({ kind }) => kind === 'capacitor') ? logicVolts / 2 : logicVolts
  return (swing / (ohms + own + (levels?.outputOhms ?? 0))) * 1000 <= most * RECOMMENDED_SLACK
}

const takenBy = (use: SupplyUse): number | undefined => use.peakMilliamps ?? use.typicalMilliamps
const goodFor = (host: Host): number | undefined => host.current?.recommended ?? host.current?.absolute

/** True for a pin of a board that cannot carry what hangs on it as its supply. */
export function feedsTooMuch(host: Host, use: SupplyUse): boolean {
  const [takes, most] = [takenBy(use), goodFor(host)]
  return takes !== undefined && most !== undefined && takes > most
}
