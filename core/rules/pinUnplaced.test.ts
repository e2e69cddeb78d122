import { fed } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { pinUnplaced } from './pinUnplaced.ts'

const bridge = (wires: string) => ({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 12 } },
  parts: { U: 'l293d', M: 'solenoid' },
  wires: `PACK.- MCU.GND, U.VSS MCU.5V, U.VS PACK.+, U.GND MCU.GND, U.GND.2 MCU.GND, U.GND.3 MCU.GND, U.GND.4 MCU.GND, ${wires}`,
})

/** A display of characters in its own supply, with lines of its data. */
const display = (wires: string) => ({
  mcu: 'uno-r3',
  parts: { L: { part: 'lcd-parallel', options: {} } },
  wires: `L.VSS MCU.GND, L.VDD MCU.5V, L.V0 MCU.GND, L.RS MCU.D12, L.RW MCU.GND, L.E MCU.D11, ${wires}`,
  unused: ['L.A', 'L.K'],
})
const [low, high] = [
  'L.D0 MCU.D5, L.D1 MCU.D4, L.D2 MCU.D3, L.D3 MCU.D2',
  'L.D4 MCU.D6, L.D5 MCU.D7, L.D6 MCU.D8, L.D7 MCU.D9',
]

testRule(pinUnplaced, {
  valid: [
    {
      title: 'the clock of a counter on a motion sensor',
      mcu: 'uno-r3',
      parts: { X: 'cd4017', H: 'hc-sr501' },
      wires: 'X.VDD MCU.5V, X.VSS MCU.GND, X.INH MCU.GND, X.RST MCU.3, X.CLK H.OUT, H.VCC MCU.5V, H.GND MCU.GND',
    },
    {
      title: 'a sensor of light on a channel of a converter',
      mcu: 'pi-40',
      parts: { A: 'ads1115', L: 'ldr', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires:
        'A.VDD MCU.3V3, A.GND MCU.GND, A.SDA MCU.GPIO2, A.SCL MCU.GPIO3, A.ADDR MCU.GND, L.1 MCU.3V3, L.2 A.A1, R.1 L.2, R.2 MCU.GND',
    },
    {
      title: 'a relay on a motion sensor, without a pin of the board',
      mcu: 'uno-r3',
      parts: { H: 'hc-sr501', K: 'relay-1' },
      wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.OUT K.IN, K.VCC MCU.5V, K.GND MCU.GND',
    },
    { title: 'four lines of a display, the upper ones', ...display(high) },
    { title: 'all eight lines of a display', ...display(`${low}, ${high}`) },
    {
      title: 'the inputs of a bridge half that carries nothing',
      ...bridge('U.1A MCU.D6, U.EN12 MCU.D5, U.1Y M.+, M.- PACK.-'),
    },
    { title: 'everything wired', parts: { B: 'button' }, wires: 'B.1 MCU.D4, B.2 MCU.GND' },
    { title: 'left open on purpose', parts: { B: 'button' }, wires: 'B.2 MCU.GND', unused: ['B.1'] },
    { title: 'optional pins open', parts: { C: 'ds3231' }, wires: `${fed('C')}, C.SDA MCU.D21, C.SCL MCU.D22` },
  ],
  invalid: [
    {
      title: 'a sensor of light on the output of a converter that gives alarms',
      mcu: 'pi-40',
      parts: { A: 'ads1115', L: 'ldr', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires:
        'A.VDD MCU.3V3, A.GND MCU.GND, A.SDA MCU.GPIO2, A.SCL MCU.GPIO3, A.ADDR MCU.GND, L.1 MCU.3V3, L.2 A.ALRT, R.1 L.2, R.2 MCU.GND',
      says: ['caution: L: 2 has a wire that leads nowhere yet.'],
    },
    {
      title: 'the clock of a register on a button, which sends no bits',
      mcu: 'uno-r3',
      parts: { X: '74hc165', B: 'button', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires:
        'X.VCC MCU.5V, X.GND MCU.GND, X.INH MCU.GND, X.SER MCU.GND, X.PL MCU.3, X.QH MCU.4, X.CLK B.1, B.2 MCU.GND, R.1 X.CLK, R.2 MCU.5V',
      says: ['caution: X: CLK has a wire that leads nowhere yet.'],
    },
    {
      title: 'a servo on a knob, which makes no pulses',
      mcu: 'uno-r3',
      supplies: { P: { volts: 5, limitMilliamps: 3000 } },
      parts: { K: 'potentiometer', S: 'servo-sg90' },
      wires: 'P.- MCU.GND, S.VCC P.+, S.GND MCU.GND, K.1 MCU.5V, K.3 MCU.GND, K.W S.SIG',
      says: ['caution: S: SIG has a wire that leads nowhere yet.'],
    },
    {
      title: 'an input of a bridge half that carries a motor',
      ...bridge('U.1A MCU.D6, U.EN12 MCU.D5, U.1Y M.+, M.- U.2Y'),
      says: ['caution: U: 2A has no wire yet.'],
    },
    {
      title: 'one pin open',
      parts: { B: 'button' },
      wires: 'B.2 MCU.GND',
      says: ['caution: B: 1 has no wire yet.'],
      fix: 'Place what is open on B',
      changes: ['wire B.1 to MCU.GPIO32 added'],
    },
    {
      title: 'a second battery where the first feeds the board',
      mcu: 'uno-r3',
      parts: {
        B: { part: 'battery-box', options: { volts: 9 } },
        C: { part: 'battery-box', options: { volts: 9 } },
      },
      wires: 'B.+ MCU.VIN, B.- MCU.GND',
      says: ['tip: C feeds nothing: MCU is fed already, and nothing else asks for 9.0 V.'],
    },
    {
      title: 'a shifter and a resistor that nothing asks for',
      mcu: 'uno-r3',
      parts: { B: 'button', S: 'shifter-bss138', R: { part: 'resistor', options: { ohms: 10_000 } } },
      wires: 'B.1 MCU.D4, B.2 MCU.GND',
      says: [
        'tip: S has no wire, and everything else has its own.',
        'tip: R has no wire, and everything else has its own.',
      ],
    },
    {
      title: 'a battery that no pin of the board bears',
      mcu: 'pico',
      parts: { C: { part: 'battery-box', options: { volts: 9 } } },
      says: [
        'caution: C feeds nothing: 9.0 V suits no pin of MCU, which takes 1.8 V to 5.5 V at VSYS and 4.75 V to 5.25 V at VBUS; a converter between would help.',
      ],
    },
    {
      title: 'the lower four lines of a display in the place of the upper ones',
      ...display(low),
      says: ['fault: L speaks over D4, D5, D6 and D7, and D0, D1, D2 and D3 are wired in their place.'],
      fix: 'Move the wires to D4, D5, D6 and D7',
      changes: [
        'wire L.D0 to MCU.D5 removed',
        'wire L.D1 to MCU.D4 removed',
        'wire L.D2 to MCU.D3 removed',
        'wire L.D3 to MCU.D2 removed',
        'wire L.D4 to MCU.D5 added',
        'wire L.D5 to MCU.D4 added',
        'wire L.D6 to MCU.D3 added',
        'wire L.D7 to MCU.D2 added',
      ],
    },
    {
      title: 'two of eight lines of a display',
      ...display('L.D0 MCU.D5, L.D1 MCU.D4'),
      says: ['caution: L: D4, D5, D6 and D7 have no wire yet.'],
    },
    {
      title: 'marked as left open by the fix',
      parts: { B: 'button' },
      wires: 'B.2 MCU.GND',
      says: ['caution: B: 1 has no wire yet.'],
      fix: 'Leave 1 open on purpose',
      changes: ['B.1 left open on purpose'],
    },
    {
      title: 'a lamp with nothing but itself gets its resistor too',
      parts: { L: 'led' },
      says: ['caution: L: A and K have no wire yet.'],
      fix: 'Place what is open on L',
      changes: [
        'part R1 added (resistor)',
        'wire L.A to R1.1 added',
        'wire L.K to MCU.GND added',
        'wire R1.2 to MCU.GPIO32 added',
      ],
    },
  ],
})
