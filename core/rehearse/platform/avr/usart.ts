import type { ChipBoard } from './chip.ts'

const RECEIVED_CALLS = 0x80
/** Microseconds after which it is looked again whether a byte has come. */
const LOOK_EACH = 100

/**
 * The first serial unit by its registers (ATmega328P datasheet, 19): bytes out at once, bytes in as they come, which
 * `vector` takes.
 */
export function addUsart(chip: ChipBoard, vector: string): void {
  const { hardware, machine } = chip
  const line = () => hardware.serial('Serial')
  const baud = (): number => {
    const divider = (chip.value('UBRR0H') << 8) | chip.value('UBRR0L')
    const fast = (chip.value('UCSR0A') & 2) > 0
    return chip.hertz / ((fast ? 8 : 16) * (divider + 1))
  }
  let round = 0
  const look = (own: number, at: number): void =>
    hardware.later(LOOK_EACH, () => {
      if (own !== round) return
      look(own, at)
      if (line().waiting.length > 0) chip.call(vector, at)
    })
  for (const name of ['UBRR0H', 'UBRR0L', 'UCSR0C']) chip.keep(name)
  chip.registers.set('UBRR0', {
    bits: 16,
    read: () => (chip.value('UBRR0H') << 8) | chip.value('UBRR0L'),
    write: (value) => {
      chip.set('UBRR0H', value >> 8)
      chip.set('UBRR0L', value & 255)
    },
  })
  chip.keep('UCSR0B', (value, at) => {
    round += 1
    if ((value & 0x18) > 0) line().begin(Math.round(baud()), at)
    if ((value & RECEIVED_CALLS) > 0) look(round, at)
  })
  chip.registers.set('UCSR0A', {
    bits: 8,
    // Nothing waits to be sent; a byte waits where one has come.
    read: () => (chip.value('UCSR0A') & 0x1f) | 0x60 | (line().waiting.length > 0 ? 0x80 : 0),
    write: (value) => chip.set('UCSR0A', value),
  })
  chip.registers.set('UDR0', {
    bits: 8,
    read: () => line().waiting.shift() ?? 0,
    write: (value, at) => {
      line().write(String.fromCharCode(value & 255), at)
      hardware.wait((10 * 1e6) / baud(), machine.at)
    },
  })
  chip.name('MPCM0', 'U2X0', 'UPE0', 'DOR0', 'FE0', 'UDRE0', 'TXC0', 'RXC0')
  chip.name('TXB80', 'RXB80', 'UCSZ02', 'TXEN0', 'RXEN0', 'UDRIE0', 'TXCIE0', 'RXCIE0')
  chip.name('UCPOL0', 'UCSZ00', 'UCSZ01', 'USBS0', 'UPM00', 'UPM01', 'UMSEL00', 'UMSEL01')
}
