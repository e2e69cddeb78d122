import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import { boardFacts } from './boardFacts.ts'
import type { Board } from './boardSchema.ts'
import { type BusKind, busSignals, volts } from './common.ts'

/** One fact of a board in words, the same rows for every board, so that two can stand side by side. */
export interface FactRow {
  readonly title: string
  readonly text: string
}

const busNames: Record<BusKind, string> = {
  i2c: 'I2C controllers',
  spi: 'SPI controllers',
  uart: 'UARTs',
  i2s: 'I2S controllers',
  onewire: '1-Wire controllers',
  can: 'CAN controllers',
}

/** A board's facts as rows of text; what is not known says so. */
export function boardRows(board: Board): FactRow[] {
  const facts = boardFacts(board)
  const io = facts.pins.filter((pin) => pin.kind === 'io' && pin.id === pin.net)
  const having = (name: string): string[] =>
    io.filter((pin) => pin.functions.has(name)).map((pin) => pin.label ?? pin.id)
  const counted = (names: readonly string[]): string =>
    names.length === 0 ? 'none' : names.length > 12 ? String(names.length) : `${names.length}: ${names.join(', ')}`
  const caution = (id: string): string[] =>
    io.filter((pin) => pin.cautions.some((one) => one.id === id)).map((pin) => pin.label ?? pin.id)
  const { pin, total } = board.current
  const most = volts(board.levels.default?.most, board.logicVolts)
  const milliamps = [
    pin.recommended === undefined ? undefined : `${pin.recommended} mA at ease`,
    pin.absolute === undefined ? undefined : `${pin.absolute} mA at most`,
    total?.absolute === undefined ? undefined : `${total.absolute} mA over all pins`,
  ].filter((text) => text !== undefined)
  return [
    { title: 'Chip', text: board.mcu },
    { title: 'Logic', text: formatVolts(board.logicVolts) },
    { title: 'An input bears', text: most === undefined ? 'not known' : formatVolts(most) },
    { title: 'Current of a pin', text: milliamps.length === 0 ? 'not known' : milliamps.join(', ') },
    { title: 'Pins for signals', text: String(io.length) },
    { title: 'Only by soldering', text: counted(io.filter((one) => one.solder).map((one) => one.label ?? one.id)) },
    {
      title: 'Input only',
      text: counted(io.filter((one) => !one.functions.has('digital-out')).map((one) => one.label ?? one.id)),
    },
    {
      title: 'Analog inputs',
      text: [
        counted(having('analog-in')),
        ...board.analog.map((unit) => `${unit.id.toUpperCase()} ${unit.bits} bits, ${unit.least} to ${unit.most} V`),
      ].join('; '),
    },
    { title: 'Analog outputs', text: counted(having('analog-out')) },
    {
      title: 'PWM',
      text: [
        counted(having('pwm')),
        ...(board.pwm ? [`${board.pwm.channels} channels on ${board.pwm.timers} timers`] : []),
        ...(board.pwm?.leastHertz === undefined ? [] : [`from ${formatQuantity(board.pwm.leastHertz, 'Hz')}`]),
      ].join('; '),
    },
    { title: 'Edge interrupts', text: counted(having('interrupt')) },
    { title: 'Touch', text: counted(having('touch')) },
    ...(Object.keys(busSignals) as BusKind[]).map((kind) => {
      const own = board.controllers.filter((one) => one.kind === kind)
      const free = own.some((one) => one.matrix) ? ', on any pin' : ''
      return { title: busNames[kind], text: own.length === 0 ? 'none' : `${own.length}${free}` }
    }),
    { title: 'Boot-strap pins', text: counted(caution('boot-strap')) },
    {
      title: 'Gives',
      text: board.rails
        .map((rail) => {
          const limit = rail.limits.reduce<number | undefined>(
            (top, one) => Math.max(top ?? 0, one.milliamps),
            undefined,
          )
          const through = rail.through === undefined ? '' : `, through ${rail.through}`
          return `${formatVolts(rail.volts)} at ${rail.id}${limit === undefined ? '' : `, up to ${limit} mA`}${through}`
        })
        .join('; '),
    },
    {
      title: 'Is fed by',
      text: board.feeds
        .map(
          (feed) =>
            `${feed.title} (${feed.least === feed.most ? formatVolts(feed.least) : `${feed.least} to ${feed.most} V`})`,
        )
        .join('; '),
    },
    { title: 'Takes itself', text: ownWords(board) },
    {
      title: 'On a breadboard',
      text:
        board.mounting.way === 'beside'
          ? 'lies beside it, on jumpers'
          : board.mounting.free
            ? `leaves ${board.mounting.free.left} and ${board.mounting.free.right} holes beside its rows`
            : 'plugs in',
    },
    { title: 'While in reset', text: `pins ${board.reset.pins.replace('-', ' ')}` },
    { title: 'Features', text: board.features.map((feature) => feature.title).join(', ') || 'none' },
  ]
}

/** What a board takes from its feed: as a rule, at peaks, and while a feature that takes more is in use. */
function ownWords({ own, features }: Board): string {
  if (!own) return 'not known'
  const peak = own.peak > own.typical ? [`up to ${own.peak} mA at peaks`] : []
  const more = features.flatMap((one) => (one.peak === undefined ? [] : [`up to ${one.peak} mA with ${one.title}`]))
  return [`${own.typical} mA as a rule`, ...peak, ...more].join(', ')
}
