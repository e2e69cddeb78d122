import { testRule } from '../testing/rules.ts'
import { interruptLine } from './interruptLine.ts'

testRule(interruptLine, {
  valid: [
    {
      title: 'two wheels on lines of their own',
      mcu: 'stm32f103-bluepill',
      parts: { A: 'hall-a3144', B: 'hall-a3144' },
      wires: 'A.OUT MCU.PA0, B.OUT MCU.PB1',
    },
  ],
  invalid: [
    {
      title: 'two wheels on PA0 and PB0',
      mcu: 'stm32f103-bluepill',
      parts: { A: 'hall-a3144', B: 'hall-a3144' },
      wires: 'A.OUT MCU.PA0, B.OUT MCU.PB0',
      says: ['fault: A.OUT on MCU.PA0 and B.OUT on MCU.PB0 share the interrupt line EXTI0 of MCU.'],
      fix: 'Move A.OUT to MCU.PB12',
      changes: ['wire A.OUT to MCU.PA0 removed', 'wire A.OUT to MCU.PB12 added'],
    },
    {
      title: 'two receivers that can be polled instead',
      mcu: 'stm32f411-blackpill',
      parts: { A: 'ir-receiver', B: 'ir-receiver' },
      wires: 'A.OUT MCU.PA1, B.OUT MCU.PB1',
      says: ['caution: A.OUT on MCU.PA1 and B.OUT on MCU.PB1 share the interrupt line EXTI1 of MCU.'],
    },
  ],
})
