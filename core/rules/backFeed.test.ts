import { testRule } from '../testing/rules.ts'
import { backFeed } from './backFeed.ts'

const pack = (volts: number) => ({ PACK: { volts } })

testRule(backFeed, {
  valid: [
    { title: 'fed by its socket alone', mcu: 'uno-r3', uses: ['usb-serial'] },
    {
      title: 'fed at a pin behind its regulator',
      mcu: 'uno-r3',
      uses: ['usb-serial'],
      supplies: pack(9),
      wires: 'PACK.+ MCU.VIN, PACK.- MCU.GND',
    },
    {
      title: 'fed past the socket, which nothing uses',
      mcu: 'uno-r3',
      uses: ['servo-library'],
      supplies: pack(5),
      wires: 'PACK.+ MCU.5V, PACK.- MCU.GND',
    },
    {
      title: 'fed outside the range of the pin, of which supply-range speaks',
      mcu: 'uno-r3',
      uses: ['usb-serial'],
      supplies: pack(9),
      wires: 'PACK.+ MCU.5V, PACK.- MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'fed at the 5 V pin of a board that talks over USB',
      mcu: 'uno-r3',
      uses: ['usb-serial'],
      supplies: pack(5),
      wires: 'PACK.+ MCU.5V, PACK.- MCU.GND',
      says: [
        'caution: PACK.+ feeds MCU at 5V, which nothing parts from its USB socket: never plug USB in while it is on.',
      ],
    },
    {
      title: 'fed at the 3.3 V pin, with a pin for that voltage beside it',
      mcu: 'esp32-devkit-30',
      uses: ['usb-serial'],
      supplies: pack(3.3),
      wires: 'PACK.+ MCU.3V3, PACK.- MCU.GND',
      says: [
        'caution: PACK.+ feeds MCU at 3V3, which nothing parts from its USB socket: never plug USB in while it is on.',
      ],
    },
  ],
})
