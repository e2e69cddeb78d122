import { testRule } from '../testing/rules.ts'
import { uartCount } from './uartCount.ts'

testRule(uartCount, {
  valid: [
    { title: 'two on a board with two to spare', parts: { G: 'gps-uart', H: 'hc-12' } },
    { title: 'one made by software', mcu: 'uno-r3', parts: { G: 'gps-uart' } },
  ],
  invalid: [
    {
      title: 'three on a board with two to spare',
      parts: { G: 'gps-uart', H: 'hc-12', M: 'mh-z19' },
      says: ['fault: G, H and M need UARTs of their own, and MCU has 2 left.'],
    },
    {
      title: 'one where a console has the only one',
      mcu: 'jetson-nano-40',
      parts: { G: 'gps-uart' },
      says: ['fault: G needs a UART of its own, and MCU has 0 left.'],
    },
    {
      title: 'one more when USB serial is given up',
      mcu: 'uno-r3',
      parts: { G: 'gps-uart', H: 'hc-12' },
      says: ['fault: G and H need UARTs of their own, and MCU has 1 left.'],
      fix: 'Do without: USB serial',
      changes: ['MCU: uses unset becomes none'],
    },
  ],
})
