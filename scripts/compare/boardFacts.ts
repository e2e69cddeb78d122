import type { Controller } from '../../core/catalog/boardControllers.ts'
import type { Board } from '../../core/catalog/boardSchema.ts'

/** Facts of a board's file as texts that can be held against another source: `PB3 spi1.mosi`. */

/** A pin by the name that the other source uses. */
export type Naming = (pin: Board['pins'][number]) => string | undefined

export const byPort: Naming = (pin) => pin.port
export const byFirmware: Naming = (pin) => pin.firmware

/** Name of each pin id, following holes that repeat another pin. */
function names(board: Board, naming: Naming): Map<string, string> {
  const found = new Map<string, string>()
  for (const pin of board.pins) {
    const real = pin.joins === undefined ? pin : (board.pins.find((other) => other.id === pin.joins) ?? pin)
    const name = pin.kind === 'io' || real.kind === 'io' ? naming(real) : undefined
    if (name !== undefined) found.set(pin.id, name)
  }
  return found
}

/** Every signal of a controller with a pin that it can be on. */
export function controllerPins(controller: Controller): [signal: string, pin: string][] {
  const free = Object.entries(controller.pins ?? {}).flatMap(([signal, pins]) =>
    pins.map((pin): [string, string] => [signal, pin]),
  )
  return [...free, ...(controller.groups ?? []).flatMap((group) => Object.entries(group))]
}

/** `PIN CONTROLLER.SIGNAL` for all controllers of these kinds. */
export function busFacts(board: Board, naming: Naming, kinds: readonly string[]): string[] {
  const known = names(board, naming)
  return board.controllers
    .filter(({ kind }) => kinds.includes(kind))
    .flatMap((controller) =>
      controllerPins(controller).flatMap(([signal, pin]) => {
        const name = known.get(pin)
        return name === undefined ? [] : [`${name} ${controller.id}.${signal}`]
      }),
    )
}

/** `PIN TIMER.CHANNEL` of all timers. */
export function timerFacts(board: Board, naming: Naming): string[] {
  const known = names(board, naming)
  return board.timers.flatMap(({ id, channels }) =>
    Object.entries(channels).flatMap(([channel, pins]) =>
      pins.flatMap((pin) => (known.has(pin) ? [`${known.get(pin)} ${id}.${channel}`] : [])),
    ),
  )
}

/** `PIN function` of pins that do it, as `does` says. */
export function doesFacts(board: Board, naming: Naming, does: string): string[] {
  return board.pins.flatMap((pin) => {
    const all = pin.does.flatMap((name) => board.functionSets[name] ?? [name])
    const name = naming(pin)
    return pin.joins === undefined && name !== undefined && (all as string[]).includes(does) ? [`${name} ${does}`] : []
  })
}

/** Names of all pins of the board that the source could know. */
export function pinNames(board: Board, naming: Naming): Set<string> {
  return new Set(names(board, naming).values())
}
