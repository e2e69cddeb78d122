import { formatVolts } from '../electrical/quantity.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import type { PartInstance, Source, Wiring } from './model.ts'
import { sourceChoices } from './supply.ts'

/**
 * Fixes that feed a part from another source which `suits`; straps tied to the old source move along. A source of the
 * same voltage only counts with `sameVolts`.
 */
export function resupply(
  wiring: Wiring,
  part: PartInstance,
  suits: (source: Source) => boolean,
  { sameVolts = false } = {},
): Fix[] {
  return part.supplies.flatMap((use) =>
    sourceChoices(wiring, part, use)
      .filter(
        (source) =>
          source.end !== use.source?.end && (sameVolts || source.volts !== use.source?.volts) && suits(source),
      )
      .slice(0, 1)
      .flatMap((source): Fix[] => {
        const old = use.source
        const oldNet = old && wiring.netOf(old.end)
        const edits: Edit[] = []
        for (const wire of wiring.plan.wires) {
          const mine = [wire[0], wire[1]].find((end) => end.startsWith(`${part.ref}.`))
          const other = mine === wire[0] ? wire[1] : wire[0]
          if (mine === undefined || !oldNet || wiring.netOf(mine) !== oldNet || other.startsWith(`${part.ref}.`))
            continue
          if (wire[2]?.locked) return []
          edits.push({ do: 'disconnect', from: wire[0], to: wire[1] }, { do: 'connect', from: mine, to: source.end })
        }
        if (edits.length === 0) edits.push({ do: 'connect', from: use.pins[0] as string, to: source.end })
        return [{ title: `Feed ${part.ref} from ${source.end} (${formatVolts(source.volts)})`, edits }]
      }),
  )
}
