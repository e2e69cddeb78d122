import { type Layout, layoutOf } from '../breadboard/layout.ts'
import { footprintOf } from '../catalog/footprint.ts'
import { analogSpan } from '../circuit/analog.ts'
import { type Budget, budgets } from '../circuit/budget.ts'
import { i2cViews } from '../circuit/busView.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { type Drive, drivesOf, type Reading, readingsOf } from '../firmware/drives.ts'
import { type Line, linesOf, pinOf } from '../firmware/lines.ts'
import { splitEnd } from '../plan/ends.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { Host, PartInstance, Source, Wiring } from '../wiring/model.ts'
import { drives } from '../wiring/needs.ts'
import { sourcesOf } from '../wiring/supply.ts'
import { continuityTouches, type Touch } from './continuity.ts'
import { metalOf, type Spot } from './metal.ts'

export const phases = ['look', 'continuity', 'power', 'scan', 'signal'] as const
export type Phase = (typeof phases)[number]
export const phaseTitles: Readonly<Record<Phase, string>> = {
  look: 'Look before you measure',
  continuity: 'Before power: what must sound and what must stay silent',
  power: 'First power',
  scan: 'Who is on the bus',
  signal: 'Signal by signal',
}

/** What a step should give, in base units. */
export interface Predicted {
  readonly least: number
  readonly most: number
  readonly unit: 'V' | 'mA' | 'counts' | 'µs' | 'level'
}

/** One thing to do and see before, at and after the first power. */
export interface Step {
  /** Made of what it touches: a step whose wires did not change keeps its tick. */
  readonly id: string
  readonly phase: Phase
  readonly title: string
  /** What to do, in plain words. */
  readonly does: string
  /** Places that the meter's tips touch. */
  readonly spots: readonly Spot[]
  /** How the meter is set; undefined for a step without one. */
  readonly meter: string | undefined
  /** What must be seen or heard. */
  readonly expect: string
  readonly predicted: Predicted | undefined
  /** Where to look when it is otherwise, the likeliest first. */
  readonly otherwise: readonly string[]
  /** Done by the test program of this board; undefined for what hands and eyes do. */
  readonly board: string | undefined
}

/** Steps that a board does itself, asked by its serial line. */
export const boardSteps = (wiring: Wiring): Step[] => [...scanSteps(wiring), ...signalSteps(wiring)]

/** All steps of a plan in the order in which they are done; hole by hole where it is laid out. */
export function stepsOf(wiring: Wiring, layout: Layout | undefined = layoutOf(wiring)): Step[] {
  const touches = continuityTouches(wiring, metalOf(wiring, layout))
  return [...lookSteps(wiring, layout), ...touches.map(touchStep), ...powerSteps(wiring), ...boardSteps(wiring)]
}

function lookSteps(wiring: Wiring, layout: Layout | undefined): Step[] {
  const holeOf = (end: string): string | undefined => {
    const hole = layout?.holeOf.get(end)
    return hole === undefined ? undefined : layout?.grid.name(hole)
  }
  const spot = (ref: string, pin: string): Spot => {
    const hole = holeOf(`${ref}.${pin}`)
    return { id: `${ref}.${pin}`, hole, words: `${pin} of ${ref}${hole === undefined ? '' : ` in ${hole}`}` }
  }
  return wiring.parts.flatMap((part): Step[] => {
    const { ref } = part
    const footprint = footprintOf(part.part, part.options)
    const base = { phase: 'look' as const, meter: undefined, predicted: undefined, board: undefined }
    const lights = part.part.inner.find((one) => one.kind === 'diode')
    const electrolytic = part.part.id === 'capacitor' && part.options.kind === 'electrolytic'
    if (footprint.kind === 'dual-in-line') {
      const first = footprint.pins[0] as string
      return [
        {
          ...base,
          id: `look:${ref}`,
          title: `${ref} the right way round`,
          does: `Find the notch or dot of ${ref}: leg 1 (${first}) lies left of it.`,
          spots: [spot(ref, first)],
          expect: `Leg 1 is in ${holeOf(`${ref}.${first}`) ?? 'its place'}.`,
          otherwise: [
            'A chip that is turned round gets its supply backwards and heats up at once: turn it before power.',
          ],
        },
      ]
    }
    if (electrolytic)
      return [
        {
          ...base,
          id: `look:${ref}`,
          title: `${ref} the right way round`,
          does: `The stripe of ${ref} marks its minus.`,
          spots: [spot(ref, '2')],
          expect: `The striped leg is ${spot(ref, '2').words}.`,
          otherwise: ['Backwards it can burst: turn it before power.'],
        },
      ]
    if (lights && part.part.polarised && part.part.pins.length === 2) {
      const [anode, cathode] = lights.between
      const lamp = part.part.category === 'light'
      return [
        {
          ...base,
          id: `look:${ref}`,
          title: `${ref} the right way round`,
          does: lamp
            ? `The long leg of ${ref} is ${anode}, the flat side is at ${cathode}. Or: diode test, red on ${anode}, black on ${cathode}.`
            : `The ring of ${ref} marks ${cathode}. Or: diode test, red on ${anode}, black on ${cathode}.`,
          spots: [spot(ref, anode), spot(ref, cathode)],
          meter: 'diode test',
          expect: lamp
            ? 'It glows faintly or reads 1.6 to 3.3 V; turned round nothing.'
            : 'It reads 0.2 to 0.8 V; turned round nothing.',
          otherwise: [`${ref} is turned round: exchange its legs.`],
        },
      ]
    }
    return 'check' in footprint && footprint.check !== undefined
      ? [
          {
            ...base,
            id: `look:${ref}`,
            title: `Print of ${ref}`,
            does: capital(footprint.check),
            spots: [],
            expect: 'The order of its pins is that of the plan.',
            otherwise: [`Another order: choose it in the options of ${ref}, or wire it by its print.`],
          },
        ]
      : []
  })
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

function touchStep({ id, a, b, hears, proves, through }: Touch): Step {
  const sounds = hears === 'sounds'
  return {
    id,
    phase: 'continuity',
    title: `${a.hole ?? a.id} and ${b.hole ?? b.id}`,
    does: `Touch ${a.words} and ${b.words}.`,
    spots: [a, b],
    meter: 'continuity (the sounding one), no power anywhere',
    expect: sounds ? 'It sounds.' : `Silence${through === undefined ? '' : `; ${through}`}.`,
    predicted: undefined,
    otherwise: sounds
      ? ['Somewhere on this way something is loose or a row off:', ...proves]
      : ['Two that lie side by side touch, or a wire is a row off:', ...proves.slice(0, 6)],
    board: undefined,
  }
}

/** Share by which a supply may lie off: of USB 5 % by its standard, of the others as usual for regulators. */
const SUPPLY_SHARE = 0.05

function powerSteps(wiring: Wiring): Step[] {
  const sources = sourcesOf(wiring).filter(({ end }) => wiring.netOf(end).wired)
  const ground = wiring.nets.find((net) => net.ground && net.wired)
  const minus = ground && groundSpot(wiring, ground.ends)
  return [
    ...trimmers(wiring),
    ...sources.map((source) => voltsStep(wiring, source, minus)),
    ...budgets(wiring)
      .filter(({ source }) => wiring.netOf(source.end).wired)
      .flatMap(currentStep),
  ]
}

function groundSpot(wiring: Wiring, ends: readonly string[]): Spot | undefined {
  const end =
    ends.find((one) => wiring.terminal(one)?.boardPin?.kind === 'ground') ??
    ends.find((one) => one.endsWith('.-')) ??
    ends[0]
  return end === undefined ? undefined : { id: end, hole: undefined, words: end }
}

/** What must be set before anything is fed from it. */
function trimmers(wiring: Wiring): Step[] {
  const base = { phase: 'power' as const, spots: [], predicted: undefined, board: undefined }
  const set = wiring.parts.flatMap((part): Step[] => {
    const rail = part.part.rails.find((one) => typeof one.volts === 'object')
    const volts = rail && typeof rail.volts === 'object' ? part.options[rail.volts.option] : undefined
    if (rail && typeof volts === 'number' && part.part.build === 'module' && rail.from !== undefined)
      return [
        {
          ...base,
          id: `trim:${part.ref}`,
          title: `Set ${part.ref} to ${formatVolts(volts)}`,
          does: `Feed ${part.ref} with nothing on its output, and turn its trimmer until ${part.ref}.${rail.pin} reads ${formatVolts(volts)}.`,
          meter: 'volts, direct current',
          expect: `${formatVolts(volts)} at ${part.ref}.${rail.pin}.`,
          predicted: { least: volts * (1 - SUPPLY_SHARE), most: volts * (1 + SUPPLY_SHARE), unit: 'V' },
          otherwise: [
            'As delivered such a converter may stand at its highest output: never wire parts to it before it is set.',
          ],
        },
      ]
    return []
  })
  const limited = new Set(
    circuitOf(wiring)
      .channels.filter(({ facts }) => facts.limits)
      .map(({ part }) => part),
  )
  return [
    ...set,
    ...[...limited].map(
      (part): Step => ({
        ...base,
        id: `trim:${part.ref}`,
        title: `Set the motor current of ${part.ref}`,
        does: `With logic fed and the motor still off, set the trimmer of ${part.ref} for the current that the motor's plate gives, by the formula of its board.`,
        meter: 'volts, direct current, at its trimmer',
        expect: 'The reference voltage that its formula gives.',
        otherwise: ['Never pull the motor off under power: the driver dies of it.'],
      }),
    ),
  ]
}

/** Where the volts of a source are measured: at the first part that it feeds, else at itself. */
export const fedAt = (wiring: Wiring, source: Source): string =>
  wiring.netOf(source.end).ends.find((end) => wiring.terminal(end)?.partPin?.role === 'supply') ?? source.end

function voltsStep(wiring: Wiring, source: Source, minus: Spot | undefined): Step {
  const net = wiring.netOf(source.end)
  const feeds = [
    ...new Set(
      net.ends.flatMap((end) => (wiring.terminal(end)?.partPin?.role === 'supply' ? [splitEnd(end).ref] : [])),
    ),
  ]
  const at = fedAt(wiring, source)
  const volts = formatVolts(source.volts)
  return {
    id: `volts:${source.end}`,
    phase: 'power',
    title: `${volts} from ${source.end}`,
    does: `Chips and modules still out, switch ${splitEnd(source.end).ref} on and measure${feeds.length > 0 ? ` at ${at}, where ${feeds.join(', ')} will be fed` : ` at ${source.end}`}.`,
    spots: [{ id: at, hole: undefined, words: at }, ...(minus ? [minus] : [])],
    meter: 'volts, direct current; red on the first, black on the second',
    expect: `${volts}, 5 % more or less; not with a minus before it.`,
    predicted: { least: source.volts * (1 - SUPPLY_SHARE), most: source.volts * (1 + SUPPLY_SHARE), unit: 'V' },
    otherwise: [
      'Nothing: the supply is off, or a rail is not bridged or not fed.',
      'A minus before it: plus and minus are exchanged. Switch off at once.',
      'Too little: something draws it down, perhaps a short. Switch off and look for what is warm.',
    ],
    board: undefined,
  }
}

function currentStep({ source, typicalMilliamps, peakMilliamps, unknown }: Budget): Step[] {
  if (peakMilliamps <= 0) return []
  const more = unknown.length > 0 ? ` Not counted, since nobody states it: ${unknown.join(', ')}.` : ''
  return [
    {
      id: `current:${source.end}`,
      phase: 'power',
      title: `Current from ${source.end}`,
      does: `Put everything in, switch on, and read the current of ${splitEnd(source.end).ref}: with a meter in its lead, or a USB meter.`,
      spots: [],
      meter: 'amperes, in the lead; the range that bears the peak',
      expect: `About ${Math.round(typicalMilliamps)} mA for the parts in ordinary use, up to ${Math.round(peakMilliamps)} mA at peaks; the board itself comes on top.${more}`,
      predicted: { least: 0, most: peakMilliamps, unit: 'mA' },
      otherwise: [
        'Far more: switch off, and feel which part is warm.',
        'Nothing at all: the lead is open, or the meter’s fuse is gone.',
      ],
      board: undefined,
    },
  ]
}

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
    const unit = pinOf(host)?.analogUnit
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
