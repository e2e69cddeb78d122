import type { ChipBoard } from './chip.ts'

const BITS = [0, 1, 2, 3, 4, 5, 6, 7] as const

/** Letters of the ports of which a board brings pins out. */
const lettersOf = ({ board }: ChipBoard): readonly string[] =>
  [...new Set(board.facts.pins.flatMap(({ port }) => /^P([A-L])[0-7]$/.exec(port ?? '')?.[1] ?? []))].sort()

/**
 * Ports of an eight-bit chip: direction, output and input of eight pins at once. Writing a one to an input bit turns the
 * output bit round (ATmega328P datasheet, 14.2).
 */
export function addPorts(chip: ChipBoard, changed: (at: number) => void): void {
  const { hardware, registers } = chip
  for (const letter of lettersOf(chip)) {
    let known: readonly (number | undefined)[] | undefined
    const pins = (): readonly (number | undefined)[] => {
      known ??= BITS.map((bit) => chip.numberAt(`P${letter}${bit}`))
      return known
    }
    const gather = (is: (pin: number) => boolean): number =>
      pins().reduce<number>((sum, pin, bit) => sum | (pin !== undefined && is(pin) ? 1 << bit : 0), 0)
    const isOut = (pin: number): boolean => hardware.state(pin).setting === 'out'
    const isSet = (pin: number): boolean => {
      const { setting, high } = hardware.state(pin)
      return setting === 'out' ? high : setting === 'pull-up'
    }
    const put = (pin: number, high: boolean, at: number): void => {
      if (isOut(pin)) hardware.write(pin, high, at)
      else hardware.setting(pin, high ? 'pull-up' : 'in', at)
    }
    registers.set(`DDR${letter}`, {
      bits: 8,
      isLine: true,
      read: () => gather(isOut),
      write: (value, at) => {
        for (const [bit, pin] of pins().entries()) {
          if (pin === undefined) continue
          const wanted = (value >> bit) % 2 === 1
          if (wanted === isOut(pin)) continue
          const high = isSet(pin)
          hardware.setting(pin, wanted ? 'out' : high ? 'pull-up' : 'in', at)
          if (wanted) hardware.write(pin, high, at)
        }
        changed(at)
      },
    })
    registers.set(`PORT${letter}`, {
      bits: 8,
      isLine: true,
      read: () => gather(isSet),
      write: (value, at) => {
        for (const [bit, pin] of pins().entries()) {
          if (pin === undefined) continue
          const wanted = (value >> bit) % 2 === 1
          if (wanted !== isSet(pin)) put(pin, wanted, at)
        }
      },
    })
    registers.set(`PIN${letter}`, {
      bits: 8,
      isLine: true,
      read: () => gather((pin) => hardware.level(pin)),
      write: (value, at) => {
        for (const [bit, pin] of pins().entries())
          if (pin !== undefined && (value >> bit) % 2 === 1) put(pin, !isSet(pin), at)
      },
    })
    for (const bit of BITS) for (const kind of ['P', 'PORT', 'DD', 'PIN']) chip.bits.set(`${kind}${letter}${bit}`, bit)
  }
}
