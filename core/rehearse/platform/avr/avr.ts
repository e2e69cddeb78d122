import { entryOf } from '../../../base/entryOf.ts'
import type { BoardInstance } from '../../../wiring/model.ts'
import type { Machine } from '../../cpp/machine.ts'
import type { LivePins } from '../../stage/pins.ts'
import type { Hardware } from '../hardware.ts'
import { type Chip, ChipBoard } from './chip.ts'
import { addConverter } from './converter.ts'
import { addInterrupts, type Lines } from './interrupts.ts'
import { addPorts } from './ports.ts'
import { Timer } from './timer.ts'
import { addUsart } from './usart.ts'
import { addWatchdog } from './watchdog.ts'

const row = (letter: string, count = 8): readonly string[] =>
  Array.from({ length: count }, (_, bit) => `P${letter}${bit}`)
const numbered = (from: number, ports: readonly string[]): readonly (readonly [number, string])[] =>
  ports.map((port, at) => [from + at, port])

/** Interrupts of pins by chip: ATmega328P datasheet 13, ATmega2560 datasheet 15, ATmega32U4 datasheet 11. */
const lines: Readonly<Record<string, Lines>> = {
  ATmega328P: {
    outside: new Map(numbered(0, ['PD2', 'PD3'])),
    changes: [row('B'), row('C', 7), row('D')],
    received: 'USART_RX_vect',
  },
  ATmega2560: {
    outside: new Map([...numbered(0, ['PD0', 'PD1', 'PD2', 'PD3']), ...numbered(4, ['PE4', 'PE5', 'PE6', 'PE7'])]),
    changes: [row('B'), ['PE0', ...row('J', 7)], row('K')],
    received: 'USART0_RX_vect',
  },
  ATmega32U4: {
    outside: new Map([...numbered(0, ['PD0', 'PD1', 'PD2', 'PD3']), [6, 'PE6'] as const]),
    changes: [row('B')],
    received: undefined,
  },
}

const letters = { a: 'A', b: 'B', c: 'C' } as const

/** The registers of an eight-bit board, on what is wired to it; none of a chip that is not described here. */
export function avrChip(
  board: BoardInstance,
  pins: () => LivePins,
  hardware: Hardware,
  machine: Machine,
  hertz: number,
  references: ReadonlyMap<number, number>,
): Chip | undefined {
  const own = entryOf(lines, board.board.mcu)
  if (!own) return undefined
  const chip = new ChipBoard(board, pins, hardware, machine, hertz)
  // Of the fast timer of ten bits that some have nothing is described.
  const timers = board.board.timers.flatMap(({ id, bits, channels }) =>
    bits === 8 || bits === 16
      ? [
          new Timer(
            chip,
            Number(id.replace('timer', '')),
            bits,
            new Map(
              Object.entries(letters).flatMap(([key, letter]) => {
                const ids = entryOf(channels, key)
                return ids ? [[letter, ids] as const] : []
              }),
            ),
          ),
        ]
      : [],
  )
  addPorts(chip, (at) => {
    for (const timer of timers) timer.refresh(at)
  })
  addInterrupts(chip, own)
  addConverter(chip, references)
  if (own.received !== undefined) addUsart(chip, own.received)
  addWatchdog(chip)
  for (const name of ['MCUSR', 'PRR', 'GPIOR0', 'GPIOR1', 'GPIOR2', 'GTCCR', 'ASSR']) chip.keep(name)
  return {
    registers: chip.registers,
    bits: chip.bits,
    portOf: (pin) => chip.portOf(pin),
    attach: (entry) => chip.attach(entry),
    begin: () => {
      chip.forget()
      for (const timer of timers) timer.begin()
      chip.set('MCUSR', 1)
      chip.set('ADCSRA', 0x87)
      chip.set('ADMUX', 0x40)
    },
    speed: () => chip.speed,
    hertzAt: (pin) => timers.find((timer) => timer.makes(pin))?.pulseHertz,
    pulsed: (pin, duty) => timers.find((timer) => timer.makes(pin))?.pulsed(pin, duty),
  }
}
