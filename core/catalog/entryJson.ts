import { boardFacts } from './boardFacts.ts'
import type { Board } from './boardSchema.ts'
import type { Part } from './partSchema.ts'

/** A board as `boards --json` and `/api/boards` show it: functions expanded, every name given. */
export function boardJson(board: Board) {
  return {
    id: board.id,
    title: board.title,
    mcu: board.mcu,
    logicVolts: board.logicVolts,
    keywords: board.keywords,
    headers: board.headers.map(({ id, title, posts, columns, first, last, pins }) => ({
      id,
      title,
      posts,
      columns,
      first,
      last,
      positions: pins.length,
    })),
    pins: boardFacts(board).pins.map((pin) => ({
      id: pin.id,
      aliases: pin.allNames.filter((name) => name !== pin.id),
      header: pin.header.id,
      position: pin.position,
      kind: pin.kind,
      functions: [...pin.functions].sort(),
      cautions: pin.cautions.map(({ id, text }) => ({ id, text })),
    })),
    variants: board.variants.map(({ id, title }) => ({ id, title })),
    features: board.features.map(({ id, title, text, usual }) => ({ id, title, text, usual })),
  }
}

/** A part as `parts --json` and `/api/parts` show it. */
export function partJson(part: Part) {
  const required = new Set(
    [...part.signals, ...part.modes.flatMap((mode) => mode.signals)]
      .filter((signal) => signal.required)
      .map((signal) => signal.pin),
  )
  for (const supply of part.supplies)
    for (const pin of [...supply.pins, ...supply.ground.slice(0, 1)]) required.add(pin)
  for (const tie of [...part.ties, ...part.modes.flatMap((mode) => mode.ties)]) if (tie.required) required.add(tie.pin)
  const supply = part.supplies[0]
  return {
    id: part.id,
    title: part.title,
    keywords: part.keywords,
    category: part.category,
    pins: part.pins.map((pin) => ({
      id: pin.id,
      aliases: pin.aliases,
      role: pin.role,
      required: required.has(pin.id),
    })),
    modes: part.modes.map(({ id, title }) => ({ id, title })),
    options: part.options.map((option) => ({
      id: option.id,
      ...(option.values.length > 0 ? { values: option.values.map((one) => one.value) } : { unit: option.unit }),
    })),
    addresses: [
      ...new Set(
        part.modes.flatMap((mode) => [
          ...(mode.i2c?.addresses.fixed ?? []),
          ...part.options
            .filter((one) => one.id === mode.i2c?.addresses.option)
            .flatMap((one) => one.values.map(({ value }) => Number(value))),
        ]),
      ),
    ],
    supply: supply ? { least: supply.least, most: supply.most } : null,
    provides: [
      ...new Set([
        ...part.provides.flatMap((given) => given.pins),
        ...part.controllers.flatMap((controller) => Object.values(controller.pins)),
      ]),
    ],
  }
}
