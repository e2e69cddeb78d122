import type { ChipBoard } from './chip.ts'

/** Clocks of the converter for one reading (ATmega328P datasheet, 23.4). */
const CLOCKS = 13
/** Channel that is the reference inside the chip, of 1.1 V; the one behind it is ground. */
const BANDGAP = 14
const BANDGAP_VOLTS = 1.1
const START = 0x40
const ENABLED = 0x80
const AGAIN = 0x20
const CALLS = 0x08
const LEFT = 0x20

/**
 * The converter by its registers: a channel, a reference, a start, and the reading when its time is over; `references`
 * are volts inside the chip by the two bits that choose them.
 */
export function addConverter(chip: ChipBoard, references: ReadonlyMap<number, number>): void {
  const { hardware, machine } = chip
  let result = 0
  let readyAt: number | undefined
  let round = 0
  const duration = (): number => (CLOCKS * Math.max(2, 2 ** (chip.value('ADCSRA') & 7)) * 1e6) / chip.hertz
  const convert = (at: number): void => {
    const mux = chip.value('ADMUX')
    const choice = mux >> 6
    const reference = choice === 0 ? 'outside' : choice === 1 ? 'supply' : (references.get(choice) ?? 'supply')
    const channel = (mux & 0x07) + ((chip.value('ADCSRB') & 0x08) > 0 ? 8 : 0)
    const full = typeof reference === 'number' ? reference : chip.board.board.logicVolts
    if ((mux & 0x0f) >= BANDGAP) result = (mux & 0x0f) === BANDGAP ? Math.round((BANDGAP_VOLTS / full) * 1023) : 0
    else {
      const pin = chip.board.facts.pins.find(({ analog }) => analog === `ADC${channel}`)
      const number = pin && chip.numberOf(pin.id)
      result = number === undefined ? 0 : hardware.readAnalog(number, at, reference)
    }
  }
  const start = (at: number): void => {
    round += 1
    const own = round
    readyAt = machine.now + duration()
    hardware.later(duration(), () => {
      if (own !== round || readyAt === undefined) return
      convert(at)
      readyAt = undefined
      if ((chip.value('ADCSRA') & AGAIN) > 0) start(at)
      if ((chip.value('ADCSRA') & CALLS) > 0) chip.call('ADC_vect', at)
    })
  }
  /** Whoever reads while it runs has waited long enough when the time is over, handlers held back or not. */
  const settle = (): void => {
    if (readyAt === undefined || machine.now < readyAt) return
    convert(machine.at)
    readyAt = undefined
  }
  for (const name of ['ADMUX', 'ADCSRB', 'DIDR0']) chip.keep(name)
  chip.registers.set('ADCSRA', {
    bits: 8,
    read: () => {
      settle()
      return (chip.value('ADCSRA') & ~START) | (readyAt === undefined ? 0 : START)
    },
    write: (value, at) => {
      chip.set('ADCSRA', value & ~START)
      if ((value & ENABLED) === 0) {
        round += 1
        readyAt = undefined
      } else if ((value & START) > 0 && readyAt === undefined) start(at)
    },
  })
  const isLeft = (): boolean => (chip.value('ADMUX') & LEFT) > 0
  const shown = (): number => {
    settle()
    return isLeft() ? result << 6 : result
  }
  const readOnly = (name: string, bits: 8 | 16, read: () => number): void => {
    chip.registers.set(name, { bits, read, write: () => undefined })
  }
  readOnly('ADC', 16, shown)
  readOnly('ADCW', 16, shown)
  readOnly('ADCL', 8, () => shown() & 255)
  readOnly('ADCH', 8, () => shown() >> 8)
  chip.name('ADPS0', 'ADPS1', 'ADPS2', 'ADIE', 'ADIF', 'ADATE', 'ADSC', 'ADEN')
  chip.name('MUX0', 'MUX1', 'MUX2', 'MUX3', 'MUX4', 'ADLAR', 'REFS0', 'REFS1')
  chip.name('ADTS0', 'ADTS1', 'ADTS2', 'MUX5')
}
