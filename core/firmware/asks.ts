import { entryOf } from '../base/entryOf.ts'
import { holds } from '../catalog/when.ts'
import { analogUnitOf } from '../circuit/analog.ts'
import { USUAL_CLOCK } from '../circuit/i2cLines.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { BoardInstance, PartInstance, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { constantsOf, shuntOf } from './constants.ts'
import { type Line, linesOf, movers, partsOf } from './lines.ts'

/** One thing that a library or a program asks for, and what to give it. */
export interface AskRow {
  readonly what: string
  readonly give: string
}

export interface PartAsks {
  readonly ref: string
  readonly title: string
  readonly board: string
  readonly rows: readonly AskRow[]
}

/** What programs of a board will ask of each part: pins in their order, bus, address, rates, figures of the part. */
export function asksOf(wiring: Wiring, board: BoardInstance): PartAsks[] {
  const lines = linesOf(wiring).filter((line) => line.board === board)
  const groups = constantsOf(wiring, board.ref)
  const names = new Map(
    groups.flatMap(({ constants }) => constants).flatMap(({ host, name }) => (host ? [[host.end, name] as const] : [])),
  )
  return partsOf(wiring, board)
    .map(
      (part): PartAsks => ({
        ref: part.ref,
        title: part.title,
        board: board.ref,
        rows: rowsOf(
          wiring,
          part,
          lines.filter((line) => line.use.part === part),
          (end) => names.get(end),
        ),
      }),
    )
    .filter(({ rows }) => rows.length > 0)
}

function rowsOf(
  wiring: Wiring,
  part: PartInstance,
  lines: readonly Line[],
  nameOf: (end: string) => string | undefined,
): AskRow[] {
  const named = (end: string): string =>
    movers(wiring, end)
      .map((host) => nameOf(host.end) ?? host.end)
      .join(' with ')
  const busses = [...new Set(lines.flatMap(({ bus }) => bus ?? []))]
  const rows: AskRow[] = []
  for (const bus of busses) {
    const owner = bus.board ?? bus.provider
    const facts = bus.board?.board.controllers.find((one) => one.id === bus.controller)
    const by = facts
      ? `${facts.title} of ${owner?.ref}`
      : bus.provider
        ? `${bus.controller} of ${bus.provider.ref}`
        : undefined
    const pins = lines
      .filter((line) => line.bus === bus)
      .map((line) => `${line.busSignal} ${nameOf(line.host.end) ?? line.host.end}`)
      .join(', ')
    rows.push({ what: 'bus', give: `${by ?? `${bus.kind.toUpperCase()} by software`}: ${pins}` })
  }
  const { mode } = part
  if (mode?.i2c && lines.some(({ busSignal }) => busSignal === 'sda')) {
    const own = addressesOf(part).filter((one) => !one.shared)
    if (own.length > 0) rows.push({ what: 'address', give: own.map(({ address }) => hexAddress(address)).join(', ') })
    const bus = lines.find(({ busSignal }) => busSignal === 'sda')?.bus
    const clock = bus?.controller && entryOf(entryOf(wiring.plan.boards, bus.board?.ref ?? '')?.clocks, bus.controller)
    rows.push({
      what: 'clock of the bus',
      give: `${formatQuantity(clock || USUAL_CLOCK, 'Hz')}, the part bears ${formatQuantity(mode.i2c.most, 'Hz')}`,
    })
  }
  if (mode?.spi && lines.some(({ busSignal }) => busSignal === 'sck')) {
    const { modes, most, numbered } = mode.spi
    rows.push({ what: 'SPI mode', give: modes.join(' or ') })
    rows.push({ what: 'fastest clock', give: formatQuantity(most, 'Hz') })
    const number = numbered === undefined ? undefined : entryOf(part.options, numbered)
    if (number !== undefined) rows.push({ what: 'number on its select line', give: String(number) })
  }
  if (mode?.uart && lines.some(({ bus }) => bus?.kind === 'uart'))
    rows.push({
      what: 'baud',
      give: `${mode.uart.baud[0]}${mode.uart.baud.length > 1 ? `, or ${mode.uart.baud.slice(1).join(', ')}` : ''}, 8 bits, no parity, 1 stop bit`,
    })
  for (const line of lines) {
    if (line.bus) continue
    const { facts, end } = line.use
    const channel =
      line.host.provider === undefined
        ? ''
        : line.counted === undefined
          ? ` (pin ${line.host.pin} of ${line.host.ref})`
          : ` (number ${line.counted} of ${line.host.ref})`
    rows.push({
      what: `${facts.pin}${facts.text === undefined ? `: ${needWords(facts.needs)}` : `: ${facts.text}`}`,
      give: `${nameOf(line.host.end) ?? named(end)}${channel}`,
    })
    const unit = analogUnitOf(wiring, line.host)
    if (facts.needs === 'analog-in' && unit)
      rows.push({
        what: `reading of ${facts.pin}`,
        give: `0 to ${2 ** unit.bits - 1} (${unit.bits} bits) for 0 to ${unit.most} V`,
      })
  }
  const shunt = shuntOf(part)
  if (shunt !== undefined) rows.push({ what: 'shunt', give: `${shunt} ohm` })
  for (const ask of part.part.asks) {
    if (!holds(ask.when, part.options)) continue
    const pins = (ask.pins ?? []).map((pin) => named(`${part.ref}.${pin}`)).filter((name) => name !== '')
    const bare = (ask.pins ?? []).filter((pin) => named(`${part.ref}.${pin}`) === '')
    const open = bare.length === 0 ? [] : [`${bare.join(', ')} ${bare.length === 1 ? 'is' : 'are'} not wired`]
    const amount = typeof ask.amount === 'object' ? entryOf(part.options, ask.amount.option) : ask.amount
    const figure = amount === undefined ? [] : [`${amount}${ask.unit === undefined ? '' : ` ${ask.unit}`}`]
    const give = [
      ...(pins.length > 0 ? [pins.join(', '), ...open] : []),
      ...figure,
      ...(ask.say === undefined ? [] : [ask.say]),
    ]
    if (ask.pins && pins.length === 0) continue
    if (give.length > 0) rows.push({ what: ask.what, give: give.join('; ') })
  }
  if (part.part.counts.length > 0)
    rows.push({
      what: 'numbers of its pins',
      give: part.part.counts.map((pin, index) => `${index} ${pin}`).join(', '),
    })
  return rows
}
