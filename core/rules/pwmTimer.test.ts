import { testRule } from '../testing/rules.ts'
import { pwmTimer } from './pwmTimer.ts'

/** A fan of the maker's own, whose speed comes over a line of 25 kHz. */
const quickFan = {
  boards: {},
  parts: {
    'own-fan': {
      catalog: 1,
      id: 'own-fan',
      title: 'Fan with a line for its speed',
      summary: 'Turns as fast as it is told',
      keywords: [],
      category: 'load',
      build: 'module',
      stem: 'FAN',
      sources: [{ title: 'Its data sheet', for: 'everything here' }],
      pins: [
        { id: 'VCC', role: 'supply', number: 1 },
        { id: 'GND', role: 'ground', number: 2 },
        { id: 'PWM', role: 'signal', number: 3 },
      ],
      supplies: [{ pins: ['VCC'], ground: ['GND'], least: 4.5, most: 5.5, typicalMilliamps: 100, peakMilliamps: 150 }],
      levels: { logic: { vih: 2, vil: 0.8, most: 5.5, least: -0.3 } },
      signals: [{ pin: 'PWM', needs: 'pwm', direction: 'in', levels: 'logic', hertz: 25000 }],
      footprint: { kind: 'in-line', pins: ['VCC', 'GND', 'PWM'] },
    },
  },
}

testRule(pwmTimer, {
  valid: [
    {
      title: 'two servos on one timer: the same frequency',
      mcu: 'uno-r3',
      parts: { A: 'servo-sg90', B: 'servo-sg90' },
      wires: 'A.SIG MCU.9, B.SIG MCU.10',
    },
    {
      title: 'servo and buzzer on timers of their own',
      mcu: 'uno-r3',
      parts: { A: 'servo-sg90', B: 'buzzer-passive' },
      wires: 'A.SIG MCU.9, B.+ MCU.3',
    },
    {
      title: 'servo and buzzer on pins of one timer, for which libraries take timers of their own',
      mcu: 'uno-r3',
      parts: { A: 'servo-sg90', B: 'buzzer-passive' },
      wires: 'A.SIG MCU.9, B.+ MCU.10',
    },
    {
      title: 'a fan with a frequency of its own, on a timer that no library takes',
      mcu: 'uno-r3',
      own: quickFan,
      parts: { A: 'servo-sg90', F: 'own-fan' },
      wires: 'A.SIG MCU.7, F.PWM MCU.3',
    },
    {
      title: 'servo and buzzer on a matrix',
      parts: { A: 'servo-sg90', B: 'buzzer-passive' },
      wires: 'A.SIG MCU.25, B.+ MCU.26',
    },
  ],
  invalid: [
    {
      title: 'servo and buzzer on a board with one timer for all pins',
      mcu: 'esp8266-d1-mini',
      parts: { A: 'servo-sg90', B: 'buzzer-passive' },
      wires: 'A.SIG MCU.D1, B.+ MCU.D2',
      says: ['tip: MCU has 1 PWM timer, and 2 frequencies are wanted.'],
    },
    {
      title: 'a servo on a plain pin, whose library takes the timer of a fan with a frequency of its own',
      mcu: 'uno-r3',
      own: quickFan,
      parts: { A: 'servo-sg90', F: 'own-fan' },
      wires: 'A.SIG MCU.7, F.PWM MCU.9',
      says: [
        'fault: A.SIG (50 Hz) on MCU.D7 and F.PWM (25 kHz) on MCU.D9 hang on TIMER1 and need different frequencies.',
      ],
    },
    {
      title: 'servo and buzzer on one slice',
      mcu: 'pico',
      parts: { A: 'servo-sg90', B: 'buzzer-passive' },
      wires: 'A.SIG MCU.GP2, B.+ MCU.GP3',
      says: [
        'fault: A.SIG (50 Hz) on MCU.GP2 and B.+ (2.7 kHz) on MCU.GP3 hang on SLICE1 and need different frequencies.',
      ],
      fix: 'Move B.+ to MCU.GP10',
      changes: ['wire B.+ to MCU.GP3 removed', 'wire B.+ to MCU.GP10 added'],
    },
  ],
})
