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
      says: ['fault: G, H and M need 3 UARTs, and MCU has 2 left.'],
    },
    {
      title: 'one more when USB serial is given up',
      mcu: 'uno-r3',
      parts: { G: 'gps-uart', H: 'hc-12' },
      says: ['fault: G and H need 2 UARTs, and MCU has 1 left.'],
      fix: 'Do without: USB serial',
      changes: ['MCU: uses unset becomes none'],
    },
  ],
})
