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
    {
      title: 'two boards, crossed',
      boards: { A: { board: 'mega-2560-r3' }, B: { board: 'mega-2560-r3' } },
      wires: 'A.18 B.19, A.19 B.18, A.GND B.GND',
    },
    {
      title: 'two boards, one line alone joined straight: an edge may run there',
      boards: { A: { board: 'mega-2560-r3' }, B: { board: 'mega-2560-r3' } },
      wires: 'A.18 B.18, A.GND B.GND',
    },
    {
      title: 'two boards that run I2C straight where both could be serial pins as well',
      boards: { A: { board: 'pico' }, B: { board: 'pico-2' } },
      wires: 'A.GP0 B.GP0, A.GP1 B.GP1, A.GND B.GND',
    },
    {
      title: 'a board whose pins take either role',
      boards: { A: { board: 'uno-r3' }, B: { board: 'esp32-devkit-30' } },
      wires: 'A.1 B.25, A.0 B.26, A.GND B.GND',
    },
    {
      title: 'pins printed as a serial port, crossed',
      boards: { A: { board: 'pico' }, B: { board: 'esp32-devkit-30' } },
      wires: 'A.GP0 B.RX2, A.GP1 B.TX2, A.GND B.GND',
    },
  ],
  invalid: [
    {
      title: 'pins printed as a serial port, straight',
      boards: { A: { board: 'pico' }, B: { board: 'esp32-devkit-30' } },
      wires: 'A.GP4 B.TX2, A.GP5 B.RX2, A.GND B.GND',
      says: ['caution: A.GP4 is joined with B.GPIO17, and A.GP5 with B.GPIO16: TX to TX, RX to RX.'],
      fix: 'Swap the wires of B.GPIO17 and B.GPIO16',
      changes: [
        'wire A.GP4 to B.GPIO17 removed',
        'wire A.GP5 to B.GPIO16 removed',
        'wire A.GP4 to B.GPIO16 added',
        'wire A.GP5 to B.GPIO17 added',
      ],
    },
    {
      title: 'two boards, straight',
      boards: { A: { board: 'pi-40', uses: [] }, B: { board: 'pico' } },
      wires: 'A.GPIO14 B.GP0, A.GPIO15 B.GP1, A.GND B.GND',
      says: ['fault: A.GPIO14 is joined with B.GP0, and A.GPIO15 with B.GP1: TX to TX, RX to RX.'],
      fix: 'Swap the wires of B.GP0 and B.GP1',
      changes: [
        'wire A.GPIO14 to B.GP0 removed',
        'wire A.GPIO15 to B.GP1 removed',
        'wire A.GPIO14 to B.GP1 added',
        'wire A.GPIO15 to B.GP0 added',
      ],
    },
    {
      title: 'two boards, straight over a shifter',
      boards: { A: { board: 'mega-2560-r3' }, B: { board: 'pico' } },
      parts: { S: 'shifter-bss138' },
      wires: 'A.18 S.HV1, S.LV1 B.GP0, A.19 S.HV2, S.LV2 B.GP1, A.GND B.GND',
      says: ['fault: A.D18 is joined with B.GP0, and A.D19 with B.GP1: TX to TX, RX to RX.'],
    },
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
