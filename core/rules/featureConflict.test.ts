import { testRule } from '../testing/rules.ts'
import { featureConflict } from './featureConflict.ts'

const overChip = {
  mcu: 'uno-r3',
  parts: { X: 'servo-sg90', P: 'pca9685', L: 'rgb-led' },
  wires: 'P.SDA MCU.A4, P.SCL MCU.A5, X.SIG P.PWM0, L.R MCU.9',
}

/** A servo or a buzzer, and a coloured lamp. */
const beside = (other: string, wires: string, mcu = 'uno-r3') => ({
  mcu,
  parts: { X: other, L: 'rgb-led' },
  wires,
})

testRule(featureConflict, {
  valid: [
    { title: 'colours on timers that no library takes', ...beside('servo-sg90', 'X.SIG MCU.9, L.R MCU.3, L.G MCU.5') },
    { title: 'colours beside a tone', ...beside('buzzer-passive', 'X.+ MCU.3, L.R MCU.9, L.G MCU.10, L.B MCU.6') },
    { title: 'colours while the servo has no pin yet', ...beside('servo-sg90', 'L.R MCU.9') },
    { title: 'colours while the servo hangs on a chip', ...overChip },
    {
      title: 'colours on a board whose pins have timers of their own',
      ...beside('servo-sg90', 'X.SIG MCU.25, L.R MCU.26', 'esp32-devkit-30'),
    },
    {
      title: 'a buzzer on the timer of the servo library: its tone is made on any pin',
      mcu: 'uno-r3',
      uses: ['servo-library'],
      parts: { B: 'buzzer-passive' },
      wires: 'B.+ MCU.9, B.- MCU.GND',
    },
    {
      title: 'a knob on the first unit while WiFi runs',
      uses: ['wifi'],
      parts: { K: 'potentiometer' },
      wires: 'K.W MCU.34',
    },
    { title: 'a knob on the second unit without WiFi', uses: [], parts: { K: 'potentiometer' }, wires: 'K.W MCU.27' },
    {
      title: 'a buzzer on another timer than the servo library',
      mcu: 'uno-r3',
      uses: ['servo-library'],
      parts: { B: 'buzzer-passive' },
      wires: 'B.+ MCU.3, B.- MCU.GND',
    },
    {
      title: 'a thermometer on the pin of the 1-Wire driver',
      mcu: 'pi-40',
      uses: ['one-wire'],
      parts: { T: 'ds18b20-probe' },
      wires: 'T.DQ MCU.GPIO4',
    },
  ],
  invalid: [
    {
      title: 'a colour on the timer of the library that a servo takes, wherever the servo hangs',
      ...beside('servo-sg90', 'X.SIG MCU.7, L.R MCU.9'),
      says: [
        'caution: L.R can only be switched on and off at MCU.D9: for X.SIG the Servo library takes the timer TIMER1.',
      ],
      fix: 'Move L.R to MCU.D6',
      changes: ['wire L.R to MCU.D9 removed', 'wire L.R to MCU.D6 added'],
    },
    {
      title: 'a colour on the timer of the library that makes tones',
      ...beside('buzzer-passive', 'X.+ MCU.7, L.R MCU.11'),
      says: [
        'caution: L.R can only be switched on and off at MCU.D11: for X.+ the Tone library takes the timer TIMER2.',
      ],
    },
    {
      title: 'a knob on the second unit while WiFi runs',
      uses: ['wifi'],
      parts: { K: 'potentiometer' },
      wires: 'K.W MCU.27',
      says: ['fault: K.W cannot have MCU.GPIO27: WiFi takes the analog unit ADC2.'],
      fix: 'Move K.W to MCU.GPIO36',
      changes: ['wire K.W to MCU.GPIO27 removed', 'wire K.W to MCU.GPIO36 added'],
    },
    {
      title: 'the speed of a motor on the timer of the servo library',
      mcu: 'uno-r3',
      uses: ['servo-library'],
      parts: { D: 'drv8833' },
      wires: 'D.IN1 MCU.9, D.GND MCU.GND',
      says: ['caution: D.IN1 can only be switched on and off at MCU.D9: Servo library takes the timer TIMER1.'],
      fix: 'Move D.IN1 to MCU.D5',
      changes: ['wire D.IN1 to MCU.D9 removed', 'wire D.IN1 to MCU.D5 added'],
    },
    {
      title: 'a button on the 1-Wire pin in use',
      mcu: 'pi-40',
      uses: ['one-wire'],
      parts: { B: 'button' },
      wires: 'B.1 MCU.GPIO4, B.2 MCU.GND',
      says: ['fault: B.1 cannot have MCU.GPIO4: 1-Wire driver takes this pin.'],
      fix: 'Move B.1 to MCU.GPIO27',
      changes: ['wire B.1 to MCU.GPIO4 removed', 'wire B.1 to MCU.GPIO27 added'],
    },
    {
      title: 'a radio on the controller of the flash chip underneath',
      mcu: 'stm32f411-blackpill',
      uses: ['flash-chip'],
      parts: { M: 'mcp3008' },
      wires: 'M.CLK MCU.PB3, M.DOUT MCU.PB4, M.DIN MCU.PB5, M.CS MCU.PB12',
      says: ['fault: M and Flash chip on the underside both need SPI 1 of MCU.'],
      fix: 'Place the SPI lines of M anew',
      changes: [
        'wire M.CLK to MCU.PB3 removed',
        'wire M.DOUT to MCU.PB4 removed',
        'wire M.DIN to MCU.PB5 removed',
        'wire M.CLK to MCU.PB13 added',
        'wire M.DIN to MCU.PB15 added',
        'wire M.DOUT to MCU.PB14 added',
      ],
    },
  ],
})
