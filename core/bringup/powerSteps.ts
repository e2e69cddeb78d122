import { type Budget, budgets } from '../circuit/budget.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Source, Wiring } from '../wiring/model.ts'
import { sourcesOf } from '../wiring/supply.ts'
import type { Spot } from './metal.ts'
import type { Step } from './step.ts'

/** Share by which a supply may lie off: of USB 5 % by its standard, of the others as usual for regulators. */
const SUPPLY_SHARE = 0.05

/** What must be set first, volts of each supply, and the current of the whole. */
export function powerSteps(wiring: Wiring): Step[] {
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
  return end === undefined ? undefined : { id: end, end, hole: undefined, words: end }
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
    spots: [{ id: at, end: at, hole: undefined, words: at }, ...(minus ? [minus] : [])],
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
      expect: `About ${Math.round(typicalMilliamps)} mA in ordinary use, up to ${Math.round(peakMilliamps)} mA at peaks.${more}`,
      predicted: { least: 0, most: peakMilliamps, unit: 'mA' },
      otherwise: [
        'Far more: switch off, and feel which part is warm.',
        'Nothing at all: the lead is open, or the meter’s fuse is gone.',
      ],
      board: undefined,
    },
  ]
}
