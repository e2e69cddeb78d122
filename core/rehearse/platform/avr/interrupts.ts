import { Callable } from '../../cpp/values.ts'
import type { Edge } from '../hardware.ts'
import type { ChipBoard } from './chip.ts'

/** What wakes an outside interrupt, by its two bits of sense control. */
const SENSES: readonly Edge[] = ['low', 'change', 'falling', 'rising']

/** What of its interrupts differs from chip to chip. */
export interface Lines {
  /** Port pins of the outside interrupts, by number. */
  readonly outside: ReadonlyMap<number, string>
  /** Port pins whose changes one handler takes, bit by bit, by number. */
  readonly changes: readonly (readonly string[])[]
  /** Vector of the first serial unit; undefined where that is another one. */
  readonly received: string | undefined
}

/** Outside interrupts and changes of pins (ATmega328P datasheet, 13.2). */
export function addInterrupts(chip: ChipBoard, { outside, changes }: Lines): void {
  const { hardware } = chip
  const listening = new Set<number>()
  const handler = (vector: string): Callable => new Callable(vector, () => chip.call(vector, chip.machine.at))
  const listen = (port: string, edge: Edge | undefined, vector: string, at: number): void => {
    const pin = chip.numberAt(port)
    if (pin === undefined) return
    if (edge !== undefined) listening.add(pin)
    else if (!listening.delete(pin)) return
    hardware.onEdge(pin, edge, edge && handler(vector), at, 'port')
  }
  const sense = (at: number): void => {
    for (const [number, port] of outside) {
      const bits = chip.value(number < 4 ? 'EICRA' : 'EICRB') >> (2 * (number % 4))
      const isOn = (chip.value('EIMSK') >> number) % 2 === 1
      listen(port, isOn ? SENSES[bits & 3] : undefined, `INT${number}_vect`, at)
    }
  }
  for (const name of ['EICRA', 'EICRB', 'EIMSK']) chip.keep(name, (_, at) => sense(at))
  chip.keep('EIFR')
  for (const number of outside.keys()) {
    chip.bits.set(`INT${number}`, number)
    chip.bits.set(`INTF${number}`, number)
    chip.bits.set(`ISC${number}0`, 2 * (number % 4))
    chip.bits.set(`ISC${number}1`, 2 * (number % 4) + 1)
  }
  const watch = (at: number): void => {
    for (const [group, ports] of changes.entries())
      for (const [bit, port] of ports.entries()) {
        const isOn = (chip.value('PCICR') >> group) % 2 === 1 && (chip.value(`PCMSK${group}`) >> bit) % 2 === 1
        listen(port, isOn ? 'change' : undefined, `PCINT${group}_vect`, at)
      }
  }
  chip.keep('PCICR', (_, at) => watch(at))
  chip.keep('PCIFR')
  for (const [group, ports] of changes.entries()) {
    chip.keep(`PCMSK${group}`, (_, at) => watch(at))
    chip.bits.set(`PCIE${group}`, group)
    chip.bits.set(`PCIF${group}`, group)
    for (const bit of ports.keys()) chip.bits.set(`PCINT${8 * group + bit}`, bit)
  }
  chip.registers.set('SREG', {
    bits: 8,
    read: () => (hardware.masked ? 0 : 0x80),
    write: (value) => {
      hardware.masked = value < 0x80
    },
  })
}
