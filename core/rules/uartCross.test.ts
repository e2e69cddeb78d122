import { testRule } from '../testing/rules.ts'
import { uartCross } from './uartCross.ts'

testRule(uartCross, {
  valid: [
    {
      title: 'TX to RX and RX to TX',
      mcu: 'mega-2560-r3',
      parts: { G: 'gps-uart' },
      wires: 'G.TX MCU.19, G.RX MCU.18',
    },
    { title: 'any pins of a matrix', parts: { G: 'gps-uart' }, wires: 'G.TX MCU.17, G.RX MCU.16' },
  ],
  invalid: [
    {
      title: 'TX to TX on a small board',
      mcu: 'pro-mini-3v3',
      uses: [],
      parts: { G: 'gps-uart' },
      wires: 'G.VCC MCU.VCC, G.GND MCU.GND, G.TX MCU.1, G.RX MCU.0',
      says: ['fault: G.TX sends into the transmitter MCU.D1, and G.RX listens to the receiver MCU.D0.'],
      fix: 'Swap the wires of G.TX and G.RX',
      changes: [
        'wire G.TX to MCU.D1 removed',
        'wire G.RX to MCU.D0 removed',
        'wire G.RX to MCU.D1 added',
        'wire G.TX to MCU.D0 added',
      ],
    },
    {
      title: 'TX to TX on the only UART of an Uno',
      mcu: 'uno-r3',
      uses: [],
      parts: { G: 'hc-05' },
      wires: 'G.TXD MCU.1, G.RXD MCU.0',
      says: ['fault: G.TXD sends into the transmitter MCU.D1, and G.RXD listens to the receiver MCU.D0.'],
    },
    {
      title: 'two parts that talk with each other',
      parts: { C: 'usb-ttl-cable', G: 'gps-uart' },
      wires: 'C.TX G.TX, C.RX G.RX',
      says: [
        'fault: C.RXD and G.RX are joined, and both are inputs.',
        'fault: C.TXD and G.TX are joined, and both are outputs.',
      ],
    },
  ],
})
