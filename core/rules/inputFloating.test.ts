import { testRule } from '../testing/rules.ts'
import { inputFloating } from './inputFloating.ts'

/** A button between a pin and 3.3 V, with a resistor to ground. */
const heldLow = (mcu: string) => (ohms: number) => ({
  mcu,
  parts: { B: 'button', R: { part: 'resistor', options: { ohms } } },
  wires: 'B.1 MCU.GP15, B.2 MCU.3V3, R.1 MCU.GP15, R.2 MCU.GND',
})

testRule(inputFloating, {
  edges: [
    { says: 'latched', because: 'note on the first stepping: 8.2 kΩ', at: heldLow('pico-2'), said: 8300, quiet: 8100 },
  ],
  valid: [
    { title: 'any resistor on the chip before it', ...heldLow('pico')(47_000) },
    {
      title: 'a microphone over a capacitor, two resistors hold the middle',
      mcu: 'uno-r3',
      parts: {
        M: 'mic-max4466',
        C: { part: 'capacitor', options: { farads: 1e-6 } },
        U: { part: 'resistor', options: { ohms: 10_000 } },
        D: { part: 'resistor', options: { ohms: 10_000 } },
      },
      wires: 'M.VCC MCU.3V3, M.GND MCU.GND, M.OUT C.1, C.2 MCU.A0, U.1 MCU.5V, U.2 MCU.A0, D.1 MCU.A0, D.2 MCU.GND',
    },
    {
      title: 'a contact to the supply with its resistor',
      parts: { B: 'button', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'B.1 MCU.27, B.2 MCU.3V3, R.1 MCU.27, R.2 MCU.GND',
    },
    { title: 'a contact to ground', parts: { B: 'button' }, wires: 'B.1 MCU.27, B.2 MCU.GND' },
  ],
  invalid: [
    {
      title: 'a button to the supply on a chip of which some do not let go',
      ...heldLow('pico-2')(10_000),
      says: ['caution: MCU.GP15 may stay high after B opens: 10 kΩ pull it down.'],
    },
    {
      title: 'a button to the supply and the pull inside on such a chip',
      mcu: 'pico-2',
      parts: { B: 'button' },
      wires: 'B.1 MCU.GP15, B.2 MCU.3V3',
      says: ['caution: B closes to the supply, and nothing holds MCU.GP15 low while it is open.'],
      fix: 'Add 4.7 kΩ from B.1 to MCU.GND',
      changes: ['part R1 added (resistor)', 'wire R1.1 to B.1 added', 'wire R1.2 to MCU.GND added'],
    },
    {
      title: 'a microphone over a capacitor, no middle',
      mcu: 'uno-r3',
      parts: { M: 'mic-max4466', C: { part: 'capacitor', options: { farads: 1e-6 } } },
      wires: 'M.VCC MCU.3V3, M.GND MCU.GND, M.OUT C.1, C.2 MCU.A0',
      says: ['fault: M comes to MCU.A0 over C alone, and nothing holds MCU.A0 at a middle.'],
    },
    {
      title: 'a contact to the supply, nothing to hold the line',
      mcu: 'uno-r3',
      parts: { B: 'button' },
      wires: 'B.1 MCU.7, B.2 MCU.5V',
      says: ['fault: B closes to the supply, and nothing holds MCU.D7 low while it is open.'],
      fix: 'Add 10 kΩ from B.1 to MCU.GND',
      changes: ['part R1 added (resistor)', 'wire R1.1 to B.1 added', 'wire R1.2 to MCU.GND added'],
    },
    {
      title: 'the same where the pin can hold it',
      parts: { B: 'button' },
      wires: 'B.1 MCU.27, B.2 MCU.3V3',
      says: ['caution: B closes to the supply, and nothing holds MCU.GPIO27 low while it is open.'],
      fix: 'Add 10 kΩ from B.1 to MCU.GND',
      changes: ['part R1 added (resistor)', 'wire R1.1 to B.1 added', 'wire R1.2 to MCU.GND added'],
    },
    {
      title: 'a gate left open on purpose',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { T: 'nmos', F: 'fan' },
      wires: 'T.S MCU.GND, PACK.- MCU.GND, F.+ PACK.+, F.- T.D',
      unused: ['T.G'],
      says: ['caution: T.G is left open, and it is an input that the part needs.'],
      fix: 'Wire T.G to MCU.GPIO32',
      changes: [
        'part R1 added (resistor)',
        'wire T.G to MCU.GPIO32 added',
        'wire R1.1 to T.G added',
        'wire R1.2 to T.S added',
        'T.G is no longer left open on purpose',
      ],
    },
  ],
})
