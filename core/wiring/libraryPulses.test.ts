import { expect, it } from 'vitest'
import { type Short, wiringOf } from '../testing/plans.ts'
import { libraryFor, lostTo } from './libraryPulses.ts'

/** The signal for whose library a pin of a wiring loses its PWM. */
function taker(short: Short, pin: string): string | undefined {
  const wiring = wiringOf({ mcu: 'uno-r3', ...short })
  const host = wiring.hosts.get(`MCU.${pin}`)
  return host && lostTo(wiring, host)?.use.end
}

it.each([
  ['a servo that waits for a pin', { parts: { S: 'servo-sg90' } }, 'D9', 'S.SIG'],
  ['and not the timers of others', { parts: { S: 'servo-sg90' } }, 'D5', undefined],
  ['nor a pin without PWM', { parts: { S: 'servo-sg90' } }, 'D8', undefined],
  ['one that may go to a chip for pulses', { parts: { S: 'servo-sg90', P: 'pca9685' } }, 'D9', undefined],
  ['unless it lies on the board', { parts: { S: 'servo-sg90', P: 'pca9685' }, wires: 'S.SIG MCU.4' }, 'D9', 'S.SIG'],
  [
    'one with a pin before one that waits',
    { parts: { S: 'servo-sg90', T: 'servo-sg90' }, wires: 'T.SIG MCU.4' },
    'D9',
    'T.SIG',
  ],
  ['a tone', { parts: { B: 'buzzer-passive' } }, 'D3', 'B.+'],
  [
    'nobody, where another chip makes the pulses by itself',
    { mcu: 'esp32-devkit-30', parts: { S: 'servo-sg90' } },
    'GPIO25',
    undefined,
  ],
] as const)('%s', (_, short, pin, end) => {
  expect(taker(short as Short, pin)).toBe(end)
})

it('a speed of no set length is made by no library', () => {
  const wiring = wiringOf({ mcu: 'uno-r3', parts: { L: 'rgb-led', S: 'servo-sg90' } })
  const [board] = wiring.boards
  expect(libraryFor(board, wiring.signal('L.R')!)).toBeUndefined()
  expect(libraryFor(board, wiring.signal('S.SIG')!)?.id).toBe('servo-library')
  expect(libraryFor(undefined, wiring.signal('S.SIG')!)).toBeUndefined()
})
