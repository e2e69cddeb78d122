import { memoIn } from '../base/memo.ts'
import { loadNeeds } from '../catalog/common.ts'
import { busNeed } from './buses.ts'
import type { Host, SignalUse } from './model.ts'

/** Plain words for what a signal asks of a pin. */
export function needWords(need: string): string {
  const bus = busNeed(need)
  if (bus)
    return `${{ i2c: 'I2C', spi: 'SPI', uart: 'UART', i2s: 'I2S', onewire: '1-Wire', can: 'CAN' }[bus.kind]} ${bus.signal.toUpperCase()}`
  return (
    {
      'digital-in': 'a digital input',
      'digital-out': 'a digital output',
      'analog-in': 'an analog input',
      'analog-out': 'an analog output',
      pwm: 'PWM',
      interrupt: 'an edge interrupt',
      'open-drain': 'an open-drain output',
      touch: 'a touch input',
      sink: 'a switch to ground',
      source: 'a switched supply',
      bridge: 'a half-bridge output',
    }[need] ?? need
  )
}

/** Short form for posts: what is lacking. */
export function lackWords(need: string): string {
  return (
    {
      'digital-in': 'no input',
      'digital-out': 'no output',
      'analog-in': 'not analog',
      'analog-out': 'no DAC',
      pwm: 'no PWM',
      interrupt: 'no interrupt',
      touch: 'no touch',
    }[need] ?? `no ${needWords(need).replace(/^an? /, '')}`
  )
}

/** True for outputs that switch a load's supply, its ground, or both: no logic level comes out of them. */
export const switchesLoad = (functions: ReadonlySet<string>): boolean => loadNeeds.some((need) => functions.has(need))

/** True for pins that put out a level. */
export const givesLevels = (functions: ReadonlySet<string>): boolean =>
  ['digital-out', 'analog-out', 'pwm'].some((one) => functions.has(one))

/** True when the pin must be able to put out a level for this need. */
export function drives(need: string): boolean {
  const bus = busNeed(need)
  if (!bus) return ['digital-out', 'pwm', 'open-drain', 'analog-out'].includes(need)
  return !['miso', 'rx', 'cts', 'din'].includes(bus.signal)
}

/** What a driver of the system must serve to carry a signal: `onewire` for a 1-Wire device, else what it needs. */
export const servedAs = ({ needs, numbered }: SignalUse['facts']): string => (numbered ? 'onewire' : needs)

/** Speaks and listens on one line by the length of pulses: whatever else pulls there breaks its words. */
export const isSingleWire = ({ facts }: Pick<SignalUse, 'facts'>): boolean =>
  facts.direction === 'open-drain' && drives(facts.needs) && isTimed({ facts })

/** Pulses timed to microseconds, as on a 1-Wire line: a pin behind a bus message cannot give or read them. */
export const isTimed = ({ facts }: Pick<SignalUse, 'facts'>): boolean =>
  facts.timing === true || facts.pullMostOhms !== undefined

/** Which of a signal's needs a host meets: the first, the second best, or neither. Bus signals count any controller. */
export function meets(
  host: Pick<Host, 'functions'>,
  use: { readonly facts: Pick<SignalUse['facts'], 'needs' | 'orElse'> },
): 'needs' | 'orElse' | undefined {
  if (can(host, use.facts.needs)) return 'needs'
  return use.facts.orElse !== undefined && can(host, use.facts.orElse) ? 'orElse' : undefined
}

function can({ functions }: Pick<Host, 'functions'>, need: string): boolean {
  const bus = busNeed(need)
  if (!bus) return functions.has(need)
  return bus.kind === 'spi' && bus.signal === 'cs' ? functions.has('digital-out') : carriesLine(functions, need)
}

/** True where some controller has a line of this kind among the functions. */
const carriesLine = memoIn((functions: ReadonlySet<string>, need: string): boolean => {
  const [kind, signal] = need.split('.') as [string, string]
  for (const name of functions) if (name.startsWith(kind) && name.endsWith(`.${signal}`)) return true
  return false
})

/** True where hardware of the board sends the row of bits that a part asks for, whatever the program does meanwhile. */
export function isStreamed({ board, functions }: Host, { facts }: SignalUse): boolean {
  const streams = facts.stream ? (board?.board.streams ?? []) : []
  const of = (name: string): string => name.replace(/\d+(?=\.)/, '')
  return streams.length > 0 && [...functions].some((name) => streams.includes(of(name)))
}

/** A line of a serial port, with a name of the port that is the same for both its lines. */
export interface SerialLine {
  readonly port: string
  readonly line: 'rx' | 'tx'
}

/** Lines of serial ports that a pin is for: of one that a matrix gives either, what is printed beside it. */
export function serialLines({ functions, board, pin }: Host): SerialLine[] {
  const can = [...functions].flatMap((name): SerialLine[] => {
    const [, port, line] = /^(uart\w*)\.(rx|tx)$/.exec(name) ?? []
    return port ? [{ port, line: line as SerialLine['line'] }] : []
  })
  const only = can.filter((one) => !can.some(({ port, line }) => port === one.port && line !== one.line))
  if (only.length > 0 || can.length === 0) return only
  const label = board?.facts.pins.find(({ id }) => id === pin)?.label ?? ''
  const [, line, number] = /^([RT]X)D?(\d*)$/.exec(label) ?? []
  return line ? [{ port: `printed ${number}`, line: line === 'TX' ? 'tx' : 'rx' }] : []
}

/** True for a pin that can be the transmitter or the receiver of some serial port of its board. */
export const serialRole = ({ functions }: Host, role: 'rx' | 'tx'): boolean =>
  [...functions].some((one) => one.startsWith('uart') && one.endsWith(`.${role}`))
