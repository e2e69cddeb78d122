import { memo, memoIn } from '../base/memo.ts'
import { volts } from '../catalog/common.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { levelsOf, PROTECTION_DIODE } from '../wiring/levels.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'

interface Bears {
  readonly part: PartInstance
  /** Own pull-up of the module. */
  readonly pull: { readonly volts: number; readonly ohms: number } | undefined
  /** Most volts that its bus pins bear. */
  readonly most: number | undefined
}

const bearsOf = memoIn((wiring: Wiring, part: PartInstance): Bears => {
  const bus = part.mode?.i2c
  const to =
    bus?.pullUpTo === undefined ? part.logicVolts : wiring.netOf(`${part.ref}.${bus.pullUpTo}`).sources[0]?.volts
  const use = wiring.signals.find((one) => one.part === part && one.facts.needs === 'i2c.sda')
  // Led over a shifter its pull-ups end there.
  const isApart = use !== undefined && use.tail !== use.end
  return {
    part,
    pull:
      bus?.pullUpOhms !== undefined && to !== undefined && !isApart ? { volts: to, ohms: bus.pullUpOhms } : undefined,
    most: use && !isApart ? volts(levelsOf(use).most, part.logicVolts) : undefined,
  }
})

/** Why parts cannot hang on one I2C bus: their pull-ups together bring more than one of them bears. */
export function pulledTooHigh(wiring: Wiring, parts: readonly PartInstance[]): string | undefined {
  const { at, weak } = together(wiring, parts)
  return weak[0] && `pulled up to ${formatVolts(at)} together, into ${formatVolts(weak[0].most as number)}`
}

/** Parts of a board that cannot hang on one bus with its other ones, since the pull-ups of all are too much for them. */
export const weakOnBus = memo((wiring: Wiring): ReadonlySet<PartInstance> => {
  const boards = new Set(wiring.parts.map(({ home }) => home))
  return new Set(
    [...boards].flatMap((board) => {
      const parts = wiring.parts.filter(({ home, mode }) => home === board && mode?.i2c !== undefined)
      return together(wiring, parts).weak.map(({ part }) => part)
    }),
  )
})

/** Volts to which the pull-ups of parts bring one bus, and the parts that do not bear them. */
function together(wiring: Wiring, parts: readonly PartInstance[]): { readonly at: number; readonly weak: Bears[] } {
  const all = parts.map((part) => bearsOf(wiring, part))
  const pulls = all.flatMap(({ pull }) => pull ?? [])
  const at =
    pulls.reduce((sum, pull) => sum + pull.volts / pull.ohms, 0) / pulls.reduce((sum, pull) => sum + 1 / pull.ohms, 0)
  const weak = all.filter(
    ({ most, part }) => most !== undefined && at > most + 0.01 && at >= (part.logicVolts ?? most) + PROTECTION_DIODE,
  )
  return { at, weak }
}

/** Some part pulls its bus higher than another one bears, so that it matters who is on a bus with whom. */
export function hasMixedVolts(wiring: Wiring, parts: readonly PartInstance[]): boolean {
  const all = parts.map((part) => bearsOf(wiring, part))
  const highest = Math.max(0, ...all.map(({ pull }) => pull?.volts ?? 0))
  return all.some(({ most }) => most !== undefined && most < highest)
}
