import { testRule } from '../testing/rules.ts'
import { pwmTimer } from './pwmTimer.ts'

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
      title: 'servo and buzzer on one timer',
      mcu: 'uno-r3',
      parts: { A: 'servo-sg90', B: 'buzzer-passive' },
      wires: 'A.SIG MCU.9, B.+ MCU.10',
      says: [
        'fault: A.SIG (50 Hz) on MCU.D9 and B.+ (2.7 kHz) on MCU.D10 hang on TIMER1 and need different frequencies.',
      ],
      fix: 'Move B.+ to MCU.D6',
      changes: ['wire B.+ to MCU.D10 removed', 'wire B.+ to MCU.D6 added'],
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
