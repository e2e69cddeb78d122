import { analogSpan, analogUnitOf } from '../circuit/analog.ts'
import { i2cViews } from '../circuit/busView.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { type Drive, drivesOf, type Reading, readingsOf } from '../firmware/drives.ts'
import { type Line, linesOf } from '../firmware/lines.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { Host, PartInstance, Wiring } from '../wiring/model.ts'
import { drives } from '../wiring/needs.ts'
import type { Step } from './step.ts'

/** Steps that a board does itself, asked by its serial line. */
export const boardSteps = (wiring: Wiring): Step[] => [...scanSteps(wiring), ...signalSteps(wiring)]

/** `i2c:i2c0`; with several boards in a plan `i2c:HOUSE.i2c0`. */
export const scanId = (wiring: Wiring, board: string, controller: string): string =>
  `i2c:${wiring.boards.length > 1 ? `${board}.` : ''}${controller}`

function scanSteps(wiring: Wiring): Step[] {
  return i2cViews(wiring).flatMap((view): Step[] => {
    const board = view.bus?.board
    const controller = view.bus?.controller
    if (!board || controller === undefined) return []
    const all = view.devices.flatMap(({ part }) =>
      addressesOf(part)
        .filter(({ shared }) => !shared)
        .map(({ address }) => `${hexAddress(address)} ${part.ref}`),
    )
    return [
      {
        id: scanId(wiring, board.ref, controller),
        phase: 'scan',
        title: view.title,
        does: `Scan ${view.title}.`,
        spots: [],
        meter: undefined,
        expect: all.join(', '),
        predicted: undefined,
        otherwise: ['Paste what the scan says: each address that is missing or not expected comes with its causes.'],
        board: board.ref,
      },
    ]
  })
}

/** A rangefinder: sound out, echo back. */
export const echoOf = (part: PartInstance): readonly [string, string] | undefined => {
  const ask = part.part.asks.find((one) => one.what === 'trigger, then echo')
  return ask?.pins?.length === 2 ? (ask.pins as [string, string]) : undefined
}

function signalSteps(wiring: Wiring): Step[] {
  const allDrives = drivesOf(wiring)
  const readings = readingsOf(wiring)
  const echoes = wiring.parts.flatMap((part) => echoStep(wiring, part))
  const inEcho = new Set(wiring.parts.flatMap((part) => (echoOf(part) ?? []).map((pin) => `${part.ref}.${pin}`)))
  return [
    ...linesOf(wiring)
      .filter((line) => line.host.board && !line.bus && !inEcho.has(line.use.end))
      .flatMap((line) => lineStep(wiring, line, allDrives, readings)),
    ...echoes,
  ]
}

function lineStep(wiring: Wiring, line: Line, allDrives: readonly Drive[], readings: readonly Reading[]): Step[] {
  const { use, host } = line
  const { facts, end, part } = use
  const board = host.board?.ref
  const title = `${end} at ${host.end}`
  const base = { phase: 'signal' as const, spots: [], meter: undefined, board }
  if (facts.needs === 'analog-in') {
    const unit = analogUnitOf(wiring, host)
    const span = analogSpan(wiring, use)
    if (!unit) return []
    const full = 2 ** unit.bits - 1
    const most = Math.min(full, Math.ceil(((span?.most ?? unit.most) / unit.most) * full))
    return [
      {
        ...base,
        id: `adc:${end}`,
        title,
        does: `Read ${end} and change what ${part.ref} senses, from one end to the other.`,
        expect: `A number between 0 and ${most} that follows.`,
        predicted: { least: 0, most, unit: 'counts' },
        otherwise: [
          `Always 0 or always ${full}: an end of ${part.ref} is not on its supply or ground.`,
          'Jumps about: the line is open.',
        ],
      },
    ]
  }
  if (drives(facts.needs)) {
    // A line that speaks both ways is its library's to prove.
    if (facts.direction === 'both' || facts.direction === 'open-drain') return []
    if (facts.hertz !== undefined && facts.actuator)
      return [
        {
          ...base,
          id: `out:${end}`,
          title,
          does: `The board sends pulses to ${host.end}: first to the middle, then a little further.`,
          expect: `${part.ref} turns a little, and stays quiet then.`,
          predicted: undefined,
          otherwise: [
            'It trembles: its supply is too weak, or its ground is not that of the board.',
            'Nothing: signal and supply leads are exchanged, or its supply is off.',
          ],
        },
      ]
    const effects = allDrives.filter((one) => one.when.some((two) => two.host === host))
    const [first] = effects
    return [
      {
        ...base,
        id: `out:${end}`,
        title,
        does: `The board puts ${host.end} high, then low, and lets go.`,
        expect: first
          ? effectWords(effects.slice(0, 3), host)
          : `${host.end} follows; ${part.ref} does what its line is for (${facts.text ?? facts.pin}).`,
        predicted: undefined,
        otherwise: [
          first
            ? `Nothing: another pin must hold a level as well, the supply of ${first.part.ref} is missing, or the wire is a row off.`
            : `Measure at ${end}: the level must change there.`,
          'The other thing moves: two wires are exchanged.',
        ],
      },
    ]
  }
  const reading = readings.find((one) => one.use === use)
  // What a part tells over a bus besides cannot be brought about by hand.
  if (
    !reading?.contact &&
    (part.mode?.spi || part.mode?.i2c || part.mode?.uart || facts.timing || facts.text === undefined)
  )
    return []
  const rest = reading?.contact ? (reading.contact.high === 'open' ? 1 : 0) : undefined
  return [
    {
      ...base,
      id: `in:${end}`,
      title,
      does: reading?.contact
        ? `Read ${end}, then press ${part.ref} and read again.`
        : `Read ${end} and make ${part.ref} change: ${facts.text ?? facts.pin}.`,
      expect: reading?.contact
        ? `${rest} at rest, ${1 - (rest ?? 0)} while it is pressed.`
        : 'It changes with what the part senses.',
      predicted: rest === undefined ? undefined : { least: rest, most: rest, unit: 'level' },
      otherwise: [
        'It never changes: the wire is open or a row off, or the other side of the contact is not where it belongs.',
        'It is the other way round: the contact closes to the other rail.',
      ],
    },
  ]
}

function effectWords(effects: readonly Drive[], host: Host): string {
  return effects
    .map(({ part, does, when }) => {
      const own = when.find((one) => one.host === host)
      const others = when.filter((one) => one.host !== host)
      const besides =
        others.length === 0 ? '' : ` (with ${others.map((one) => `${one.host.end} ${one.level}`).join(', ')})`
      return `${part.ref} ${does} while it is ${own?.level}${besides}`
    })
    .join('; ')
}

function echoStep(wiring: Wiring, part: PartInstance): Step[] {
  const pins = echoOf(part)
  if (!pins) return []
  const lines = linesOf(wiring)
  const [trigger, echo] = pins.map((pin) => lines.find((line) => line.use.end === `${part.ref}.${pin}`))
  if (!trigger?.host.board || !echo?.host.board) return []
  return [
    {
      id: `echo:${part.ref}`,
      phase: 'signal',
      title: `${part.ref}: trigger at ${trigger.host.end}, echo at ${echo.host.end}`,
      does: `Hold something flat 20 cm before ${part.ref}.`,
      spots: [],
      meter: undefined,
      expect: 'About 1160 µs: 58 µs for each centimetre there and back.',
      predicted: { least: 116, most: 23_200, unit: 'µs' },
      otherwise: [
        '0: trigger and echo are exchanged, or the supply is missing.',
        'Far too long: nothing is in the way, or it listens past it.',
      ],
      board: trigger.host.board.ref,
    },
  ]
}
