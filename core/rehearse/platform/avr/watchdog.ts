import type { ChipBoard } from './chip.ts'

/** Microseconds of the shortest time; each step doubles it (ATmega328P datasheet, 10.9.2). */
const SHORTEST = 16_384
const STARTS_ANEW = 0x08
const CHANGES = 0x10
const CALLS = 0x40

/** The watchdog by its register: it calls a handler, or starts the program anew. */
export function addWatchdog(chip: ChipBoard): void {
  const { hardware } = chip
  let round = 0
  chip.keep('WDTCSR', (value, at) => {
    // With this bit the register is only opened for what is written next.
    if ((value & CHANGES) > 0) return
    round += 1
    const own = round
    const time = SHORTEST * 2 ** ((value & 7) | ((value & 0x20) >> 2))
    hardware.sleep.guard((value & STARTS_ANEW) > 0 && (value & CALLS) === 0 ? time : undefined)
    const tick = (): void =>
      hardware.later(time, () => {
        if (own !== round) return
        tick()
        chip.call('WDT_vect', at)
      })
    if ((value & CALLS) > 0) tick()
  })
  chip.name('WDP0', 'WDP1', 'WDP2', 'WDE', 'WDCE', 'WDP3', 'WDIE', 'WDIF')
}
