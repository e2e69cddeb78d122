import { testRule } from '../testing/rules.ts'
import { pwmChannel } from './pwmChannel.ts'

const five = { P: { volts: 5, limitMilliamps: 3000 } }

const servos = (board: string, a: string, b: string) => ({
  mcu: board,
  supplies: five,
  parts: { A: 'servo-sg90', B: 'servo-sg90' },
  wires: `A.SIG MCU.${a}, B.SIG MCU.${b}, A.VCC P.+, B.VCC P.+, A.GND P.-, B.GND P.-, P.- MCU.GND`,
})
testRule(pwmChannel, {
  valid: [
    { title: 'two channels of one timer', ...servos('pico', 'GP0', 'GP1') },
    { title: 'two channels of a single-board computer', ...servos('pi-40', 'GPIO12', 'GPIO13') },
    { title: 'two servos on one pin, on purpose', ...servos('pico', 'GP0', 'GP0') },
    { title: 'one channel of two pins, of which one has another', ...servos('nucleo-f446re', 'PB4', 'PC6') },
    {
      title: 'three pins with three channels between them',
      mcu: 'nucleo-f446re',
      supplies: { P: { volts: 5, limitMilliamps: 3000 } },
      parts: { A: 'servo-sg90', B: 'servo-sg90', C: 'servo-sg90' },
      wires:
        'A.SIG MCU.PA0, B.SIG MCU.PA5, C.SIG MCU.PB8, A.VCC P.+, B.VCC P.+, C.VCC P.+, A.GND P.-, B.GND P.-, C.GND P.-, P.- MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'the same channel on two pins',
      ...servos('pico', 'GP0', 'GP16'),
      says: ['fault: MCU.GP0 and MCU.GP16 are one PWM channel: A.SIG and B.SIG always get the same pulse.'],
    },
    {
      title: 'the same of a single-board computer',
      ...servos('pi-40', 'GPIO18', 'GPIO12'),
      says: ['fault: MCU.GPIO18 and MCU.GPIO12 are one PWM channel: A.SIG and B.SIG always get the same pulse.'],
    },
    {
      title: 'pins with several channels, all of which are taken',
      ...servos('nucleo-f446re', 'PA5', 'PA15'),
      says: ['fault: MCU.PA5 and MCU.PA15 are one PWM channel: A.SIG and B.SIG always get the same pulse.'],
    },
  ],
})
