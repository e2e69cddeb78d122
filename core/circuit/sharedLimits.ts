import type { BoardInstance, PartInstance, Wiring } from '../wiring/model.ts'
import { type PinLoad, pinLoads } from './pinLoads.ts'

/** Pins that share supply lines inside their chip, with what they carry together and what these lines bear, in milliamperes. */
export interface SharedLimit {
  /** All pins of a board, a named group of them, or outputs of a part. */
  readonly of: 'board' | 'group' | 'outputs'
  readonly owner: BoardInstance | PartInstance
  /** Name of a group. */
  readonly title: string | undefined
  readonly loads: readonly PinLoad[]
  readonly milliamps: number
  readonly absolute: number | undefined
  readonly recommended: number | undefined
}

/** Every limit that pins have in common: of parts, then of each board its groups and the whole. */
export function sharedLimits(wiring: Wiring): SharedLimit[] {
  const all = pinLoads(wiring)
  const larger = ({ source, sink }: PinLoad): number => Math.max(source, sink)
  const outputs = wiring.parts.flatMap((owner) =>
    owner.part.provides.flatMap(({ pins, together }): SharedLimit[] => {
      if (together === undefined) return []
      const loads = all.filter(({ host }) => host.provider === owner && pins.includes(host.pin))
      const milliamps = sumOf(loads, larger)
      return [{ of: 'outputs', owner, title: undefined, loads, milliamps, absolute: together, recommended: undefined }]
    }),
  )
  const ofBoards = wiring.boards.flatMap((owner) => {
    const mine = all.filter(({ host }) => host.board === owner)
    const { groups, total } = owner.board.current
    const ofGroups = groups.map(({ pins, title, way, absolute }): SharedLimit => {
      const loads = mine.filter(({ host }) => pins.includes(host.pin))
      const carried = (load: PinLoad): number => (way === 'both' ? load.source + load.sink : load[way])
      return { of: 'group', owner, title, loads, milliamps: sumOf(loads, carried), absolute, recommended: undefined }
    })
    const whole: SharedLimit = {
      of: 'board',
      owner,
      title: undefined,
      loads: mine,
      milliamps: sumOf(mine, larger),
      absolute: total?.absolute,
      recommended: total?.recommended,
    }
    return [...ofGroups, whole]
  })
  return [...outputs, ...ofBoards]
}

const sumOf = (loads: readonly PinLoad[], carried: (load: PinLoad) => number): number =>
  loads.reduce((sum, load) => sum + carried(load), 0)
