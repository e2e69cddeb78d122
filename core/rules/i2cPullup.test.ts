import type { Short } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { i2cPullup } from './i2cPullup.ts'

/** A bare chip with a pair of resistors. */
const pulled = (ohms: number) => ({
  parts: { E: 'mcp23017', A: { part: 'resistor', options: { ohms } }, B: { part: 'resistor', options: { ohms } } },
  wires: 'E.VDD MCU.3V3, E.VSS MCU.GND, E.SDA MCU.21, E.SCL MCU.22, A.1 MCU.21, A.2 MCU.3V3, B.1 MCU.22, B.2 MCU.3V3',
})

/** The lines of two boards joined, and what pulls at them. */
const twoBoards = (more: string): Short => ({
  boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
  parts: { R: { part: 'resistor', options: { ohms: 4700 } }, S: { part: 'resistor', options: { ohms: 4700 } } },
  wires: `A.GND B.GND, A.A4 B.A4, A.A5 B.A5${more}`,
})

const pulledBoards = (ohms: number): Short => ({
  boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
  parts: { R: { part: 'resistor', options: { ohms } }, S: { part: 'resistor', options: { ohms } } },
  wires: 'A.GND B.GND, A.A4 B.A4, A.A5 B.A5, R.1 A.A4, R.2 A.5V, S.1 A.A5, S.2 A.5V',
})

/** A display at 5 V behind two transistors, with resistors alike on the side of the board. */
const behindTransistors = (ohms: number): Short => {
  const resistor = (value: number) => ({ part: 'resistor', options: { ohms: value } })
  const transistor = { part: 'nmos', options: { model: '2n7000' } }
  return {
    parts: {
      Q: transistor,
      P: transistor,
      R: resistor(ohms),
      U: resistor(ohms),
      T: resistor(10_000),
      V: resistor(10_000),
      L: 'lcd-i2c',
    },
    wires:
      'L.VCC MCU.VIN, L.GND MCU.GND, Q.D L.SDA, Q.S MCU.21, P.D L.SCL, P.S MCU.22, Q.G MCU.3V3, P.G MCU.3V3, R.1 MCU.3V3, R.2 Q.S, U.1 MCU.3V3, U.2 P.S, T.1 MCU.VIN, T.2 Q.D, V.1 MCU.VIN, V.2 P.D',
  }
}

testRule(i2cPullup, {
  valid: [
    { title: 'two boards on one bus with resistors', ...twoBoards(', R.1 A.A4, R.2 A.5V, S.1 A.A5, S.2 A.5V') },
    {
      title: 'two boards joined at pins that may carry many other things',
      boards: { A: { board: 'pico' }, B: { board: 'pico' } },
      wires: 'A.GP4 B.GP4, A.GP5 B.GP5, A.GND B.GND',
    },
    {
      title: 'one line alone, which may be any',
      boards: { A: { board: 'uno-r3' }, B: { board: 'uno-r3' } },
      wires: 'A.A4 B.A4, A.GND B.GND',
    },
    {
      title: 'modules that bring their own',
      parts: { A: 'bme280', C: 'ds3231' },
      wires:
        'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.21, A.SCL MCU.22, C.VCC MCU.3V3, C.GND MCU.GND, C.SDA MCU.21, C.SCL MCU.22',
    },
    {
      title: 'a bare chip with two resistors',
      parts: {
        X: 'mcp23017',
        P: { part: 'resistor', options: { ohms: 4700 } },
        Q: { part: 'resistor', options: { ohms: 4700 } },
      },
      wires: 'X.VDD MCU.3V3, X.VSS MCU.GND, X.SDA MCU.21, X.SCL MCU.22, P.1 X.SDA, P.2 MCU.3V3, Q.1 X.SCL, Q.2 MCU.3V3',
    },
    {
      title: 'a bare chip on a board that brings them',
      mcu: 'pi-40',
      parts: { X: 'mcp23017' },
      wires: 'X.VDD MCU.3V3, X.VSS MCU.GND, X.SDA MCU.GPIO2, X.SCL MCU.GPIO3',
    },
  ],
  invalid: [
    {
      title: 'two boards alone on one bus',
      ...twoBoards(''),
      says: ['caution: Nothing pulls A.A4 and A.A5 up, where I2C of A and B is joined.'],
    },
    {
      title: 'two boards on one bus with a chip that brings no resistors either',
      boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
      parts: { X: { part: 'mcp23017', on: 'A' } },
      wires: 'A.GND B.GND, A.A4 B.A4, A.A5 B.A5, X.VDD A.5V, X.VSS A.GND, X.SDA A.A4, X.SCL A.A5',
      says: ['fault: SDA and SCL of X have no pull-up resistor.'],
    },
    {
      title: 'two boards on one bus of which one line has a resistor',
      ...twoBoards(', R.1 A.A4, R.2 A.5V'),
      says: ['caution: Nothing pulls A.A5 up, where I2C of A and B is joined.'],
    },
    {
      title: 'a bare chip alone',
      parts: { X: 'mcp23017' },
      wires: 'X.VDD MCU.3V3, X.VSS MCU.GND, X.SDA MCU.21, X.SCL MCU.22',
      says: ['fault: SDA and SCL of X have no pull-up resistor.'],
      fix: 'Add two resistors of 4.7 kΩ to the supply',
      changes: [
        'part R1 added (resistor)',
        'part R2 added (resistor)',
        'wire R1.1 to X.SDA added',
        'wire R1.2 to MCU.3V3 added',
        'wire R2.1 to X.SCL added',
        'wire R2.2 to MCU.3V3 added',
      ],
    },
    {
      title: 'only one line has its resistor',
      parts: { X: 'mcp23017', P: { part: 'resistor', options: { ohms: 4700 } } },
      wires: 'X.VDD MCU.3V3, X.VSS MCU.GND, X.SDA MCU.21, X.SCL MCU.22, P.1 X.SDA, P.2 MCU.3V3',
      says: ['fault: SCL of X has no pull-up resistor.'],
      fix: 'Add 4.7 kΩ from X.SCL to MCU.3V3',
      changes: ['part R1 added (resistor)', 'wire R1.1 to X.SCL added', 'wire R1.2 to MCU.3V3 added'],
    },
    {
      title: 'weak resistors',
      parts: {
        X: 'mcp23017',
        P: { part: 'resistor', options: { ohms: 47000 } },
        Q: { part: 'resistor', options: { ohms: 47000 } },
      },
      wires: 'X.VDD MCU.3V3, X.VSS MCU.GND, X.SDA MCU.21, X.SCL MCU.22, P.1 X.SDA, P.2 MCU.3V3, Q.1 X.SCL, Q.2 MCU.3V3',
      says: ['caution: SDA and SCL of X rise in about 1593 ns, and 100 kHz allow 1000 ns.'],
      fix: 'Add two resistors of 4.7 kΩ to the supply',
      changes: [
        'part R1 added (resistor)',
        'part R2 added (resistor)',
        'wire R1.1 to X.SDA added',
        'wire R1.2 to MCU.3V3 added',
        'wire R2.1 to X.SCL added',
        'wire R2.2 to MCU.3V3 added',
      ],
    },
    {
      title: 'slow rise at the clock that is asked',
      boards: { MCU: { board: 'esp32-devkit-30', clocks: { i2c0: 400000 } } },
      parts: { A: 'bme280' },
      wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.21, A.SCL MCU.22',
      says: ['caution: SDA and SCL of A rise in about 339 ns, and 400 kHz allow 300 ns.'],
    },
    {
      title: 'resistors stronger than a device can pull',
      parts: {
        A: 'bme280',
        P: { part: 'resistor', options: { ohms: 680 } },
        Q: { part: 'resistor', options: { ohms: 680 } },
      },
      wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.21, A.SCL MCU.22, P.1 A.SDA, P.2 MCU.3V3, Q.1 A.SCL, Q.2 MCU.3V3',
      says: ['caution: The pull-ups on SDA and SCL of A are together 637 Ω to 3.3 V, stronger than 967 Ω.'],
    },
  ],
  edges: [
    {
      says: 'strong',
      because: '(3.3 V − 0.4 V) / 3 mA at the transistor',
      at: behindTransistors,
      said: 950,
      quiet: 975,
    },
    {
      says: 'slow',
      because: 'twice 1000 ns / (0.8473 · 40 pF) = 59 kΩ behind a transistor',
      at: behindTransistors,
      said: 60_000,
      quiet: 58_000,
    },
    {
      says: 'strong',
      because: '(5 V − 0.4 V) / 3 mA = 1533 Ω of two boards',
      at: pulledBoards,
      said: 1500,
      quiet: 1530,
    },
    {
      says: 'slow',
      because: '1000 ns / (0.8473 · 70 pF) = 16.9 kΩ of two boards',
      at: pulledBoards,
      said: 17_000,
      quiet: 16_700,
    },
    { says: 'strong', because: '(3.3 V − 0.4 V) / 3 mA = 967 Ω, less a hundredth', at: pulled, said: 950, quiet: 960 },
    { says: 'slow', because: '1000 ns / (0.8473 · 40 pF) = 29.5 kΩ', at: pulled, said: 29600, quiet: 29400 },
  ],
})
