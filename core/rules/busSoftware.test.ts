import { testRule } from '../testing/rules.ts'
import { busSoftware } from './busSoftware.ts'

testRule(busSoftware, {
  valid: [
    {
      title: 'a GPS receiver on a UART',
      mcu: 'mega-2560-r3',
      parts: { G: 'gps-uart' },
      wires: 'G.TX MCU.19, G.RX MCU.18',
    },
    {
      title: 'a thermocouple whose library takes any pins, on plain pins of a Nano',
      mcu: 'nano-v3',
      parts: { M: 'max6675' },
      wires: 'M.SCK MCU.4, M.SO MCU.5, M.CS MCU.7',
    },
    {
      title: 'the second pair of the only UART, with the USB monitor off',
      mcu: 'esp8266-nodemcu-v2',
      uses: [],
      parts: { G: 'gps-uart' },
      wires: 'G.TX MCU.GPIO13, G.RX MCU.GPIO15',
    },
  ],
  invalid: [
    {
      title: 'a fingerprint reader as fast as a program follows',
      mcu: 'uno-r3',
      parts: { F: 'fingerprint' },
      wires: 'F.TX MCU.2',
      says: ['tip: The UART of F works by software only, up to 57600 baud.'],
    },
    {
      title: 'a GPS receiver on plain pins of an Uno',
      mcu: 'uno-r3',
      parts: { G: 'gps-uart' },
      wires: 'G.TX MCU.4, G.RX MCU.5',
      says: ['tip: The UART of G works by software only, up to 57600 baud.'],
    },
    {
      title: 'the same pair while the monitor has the UART on its first pins',
      mcu: 'esp8266-nodemcu-v2',
      parts: { G: 'gps-uart' },
      wires: 'G.TX MCU.GPIO13, G.RX MCU.GPIO15',
      says: ['tip: The UART of G works by software only, up to 57600 baud.'],
    },
    {
      title: 'a GPS receiver on plain pins of a Mega, which has three ports to spare',
      mcu: 'mega-2560-r3',
      parts: { G: 'gps-uart' },
      wires: 'G.TX MCU.50, G.RX MCU.51',
      says: ['caution: The UART of G works by software only, up to 57600 baud.'],
    },
    {
      title: 'another one beside three that have the ports',
      mcu: 'mega-2560-r3',
      parts: { A: 'gps-uart', B: 'gps-uart', C: 'gps-uart', G: 'gps-uart' },
      wires: 'A.TX MCU.19, B.TX MCU.17, C.TX MCU.15, G.TX MCU.50',
      says: ['tip: The UART of G works by software only, up to 57600 baud.'],
    },
    {
      title: 'an analog converter on plain pins of a Nano',
      mcu: 'nano-v3',
      parts: { M: 'mcp3008' },
      wires: 'M.CLK MCU.4, M.DOUT MCU.5, M.DIN MCU.6, M.CS MCU.7',
      says: ['caution: The SPI of M works by software only, up to 70 kHz.'],
      fix: 'Place the SPI lines of M anew',
      changes: [
        'wire M.CLK to MCU.D4 removed',
        'wire M.DOUT to MCU.D5 removed',
        'wire M.DIN to MCU.D6 removed',
        'wire M.CLK to MCU.D13 added',
        'wire M.DIN to MCU.D11 added',
        'wire M.DOUT to MCU.D12 added',
      ],
    },
  ],
})
