import { testRule } from '../testing/rules.ts'
import { pwmSoftware } from './pwmSoftware.ts'

const five = { P: { volts: 5, limitMilliamps: 3000 } }
const servo = 'S.VCC P.+, S.GND P.-, P.- MCU.GND'

testRule(pwmSoftware, {
  valid: [
    {
      title: 'a servo on hardware PWM',
      mcu: 'pi-40',
      supplies: five,
      parts: { S: 'servo-sg90' },
      wires: `${servo}, S.SIG MCU.GPIO18`,
    },
    {
      title: 'a servo on a small board whose library counts the time',
      mcu: 'uno-r3',
      supplies: five,
      parts: { S: 'servo-sg90' },
      wires: `${servo}, S.SIG MCU.D7`,
    },
    {
      title: 'a backlight, whose brightness bears a tremble',
      mcu: 'pi-40',
      parts: { L: 'st7789' },
      wires: 'L.BLK MCU.GPIO25',
    },
  ],
  invalid: [
    {
      title: 'a servo on a plain pin under Linux',
      mcu: 'pi-40',
      supplies: five,
      parts: { S: 'servo-sg90' },
      wires: `${servo}, S.SIG MCU.GPIO17`,
      says: ['caution: S.SIG gets its pulse from the program: MCU.GPIO17 has no PWM.'],
      fix: 'Move S.SIG to MCU.GPIO13',
      changes: ['wire S.SIG to MCU.GPIO17 removed', 'wire S.SIG to MCU.GPIO13 added'],
    },
    {
      title: 'a servo beside analog audio',
      mcu: 'pi-40',
      uses: ['analog-audio'],
      supplies: five,
      parts: { S: 'servo-mg996r' },
      wires: `${servo}, S.SIG MCU.GPIO13`,
      says: ['caution: S.SIG gets its pulse from the program: Analog audio has the PWM of MCU.GPIO13.'],
    },
  ],
})
