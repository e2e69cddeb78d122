import { expect, it } from 'vitest'
import { type Short, wiringOf } from '../testing/plans.ts'
import { reserveOf } from './reserve.ts'

/** Free pins of a kind on the board of a wiring. */
function free(kind: string, short: Short): number | undefined {
  const wiring = wiringOf(short)
  return reserveOf(wiring, wiring.boards[0]).kinds.find(({ id }) => id === kind)?.free
}

it.each([
  ['all that is there', {}, 6],
  ['less one that has a wire', { parts: { L: 'rgb-led' }, wires: 'L.R MCU.3' }, 5],
  [
    'less those of a library that a servo runs, wherever it lies',
    { parts: { S: 'servo-sg90' }, wires: 'S.SIG MCU.7' },
    4,
  ],
  [
    'and less those of one for tones',
    { parts: { S: 'servo-sg90', B: 'buzzer-passive' }, wires: 'S.SIG MCU.7, B.+ MCU.8' },
    2,
  ],
  ['less those of a library that the plan names', { uses: ['servo-library'] }, 4],
] as const)('pulses that are left on an Uno: %s', (_, short, count) => {
  expect(free('pwm', { mcu: 'uno-r3', ...short } as Short)).toBe(count)
})

it('leaves out analog pins whose converter a radio takes', () => {
  expect(free('analog-in', { mcu: 'esp32-devkit-30', uses: [] })).toBe(15)
  expect(free('analog-in', { mcu: 'esp32-devkit-30', uses: ['wifi'] })).toBe(6)
})
