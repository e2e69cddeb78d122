import { testRule } from '../testing/rules.ts'
import { decoupling } from './decoupling.ts'

testRule(decoupling, {
  valid: [
    {
      title: 'a chip with its capacitor',
      mcu: 'pi-40',
      parts: { X: 'mcp23017', C: { part: 'capacitor', options: { farads: 1e-7 } } },
      wires: 'X.VDD MCU.3V3, X.VSS MCU.GND, C.1 X.VDD, C.2 X.VSS',
    },
    { title: 'a module', parts: { A: 'bme280' }, wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.21, A.SCL MCU.22' },
  ],
  invalid: [
    {
      title: 'a chip alone',
      mcu: 'pi-40',
      parts: { X: 'mcp23017' },
      wires: 'X.VDD MCU.3V3, X.VSS MCU.GND',
      says: ['tip: X has no capacitor across its supply.'],
      fix: 'Add capacitor 100 nF to X',
      changes: ['part C1 added (capacitor)', 'wire C1.1 to X.VDD added', 'wire C1.2 to X.VSS added'],
    },
  ],
})
