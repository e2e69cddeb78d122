import { memo } from '../base/memo.ts'
import type { Controller } from '../catalog/boardControllers.ts'
import { busNeed, busPins } from '../wiring/buses.ts'
import type { BoardInstance, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'

/** The open bus lines of one part, chip select left out: they go to one controller together. */
export interface Task {
  readonly part: PartInstance
  readonly kind: Controller['kind']
  readonly uses: readonly SignalUse[]
}

/** A controller that can carry a bus, with what hangs on it already. */
export interface Lane {
  readonly key: string
  readonly board: BoardInstance
  readonly controller: Pick<Controller, 'id' | 'kind' | 'title' | 'rank' | 'pins' | 'groups' | 'prefer'>
  /** The bus switch or serial bridge whose controller it is; a board's own when left out. */
  readonly provider?: PartInstance
  /** Pins in use by line name, as host ends. */
  readonly given: ReadonlyMap<string, string>
  readonly parts: readonly PartInstance[]
}

/** Controllers of boards and parts that could carry a bus, those of boards first. */
export const lanesOf = memo((wiring: Wiring): readonly Lane[] => {
  const given = wiring.parts.flatMap((provider) =>
    provider.part.controllers.flatMap((one): Lane[] => {
      const board = provider.home
      if (!board) return []
      const bus = wiring.buses.find((each) => each.provider === provider && each.controller === one.id)
      const pins = new Map<string, string>()
      for (const use of bus?.uses ?? []) {
        const host = use.hosts[0]?.host
        const need = busNeed(use.facts.needs)
        if (host && need) pins.set(need.signal, host.end)
      }
      return [
        {
          key: `${provider.ref} ${one.id}`,
          board,
          // As good as a second controller of the board: it is in the kit for that.
          controller: {
            id: one.id,
            kind: one.kind,
            title: `${one.title} of ${provider.ref}`,
            rank: 1,
            pins: undefined,
            groups: undefined,
          },
          provider,
          given: pins,
          parts: bus?.parts ?? [],
        },
      ]
    }),
  )
  const own = wiring.boards.flatMap((board) =>
    board.board.controllers
      .filter((one) => !board.features.some((feature) => feature.controllers.includes(one.id)))
      .map((controller): Lane => {
        const bus = wiring.buses.find((one) => one.board === board && one.controller === controller.id)
        const pins = bus ? busPins(bus) : new Map<string, Set<string>>()
        return {
          key: `${board.ref} ${controller.id}`,
          board,
          controller,
          given: new Map([...pins].map(([signal, on]) => [signal, `${board.ref}.${[...on][0]}`])),
          parts: pins.size > 0 && bus ? bus.parts : [],
        }
      }),
  )
  return [...own, ...given]
})

/** What holds a pin that a lane uses, by host end. */
export const laneAt = memo(
  (wiring: Wiring): ReadonlyMap<string, Lane> =>
    new Map(lanesOf(wiring).flatMap((lane) => [...lane.given.values()].map((end) => [end, lane] as const))),
)
