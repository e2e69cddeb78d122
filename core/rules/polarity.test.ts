import { testRule } from '../testing/rules.ts'
import { polarity } from './polarity.ts'

/** Two transceivers on one line. */
const line = (wires: string) => ({
  boards: { MCU: { board: 'mega-2560-r3' }, B: { board: 'mega-2560-r3' } },
  parts: { X: 'max485', Y: 'max485' },
  wires: `X.VCC MCU.5V, X.GND MCU.GND, Y.VCC B.5V, Y.GND B.GND, ${wires}`,
})

/** A meter of the current of a motor. */
const metered = (wires: string) => ({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 6 } },
  parts: { I: 'ina219', M: { part: 'dc-motor', mode: 'switched' } },
  wires: `I.VCC MCU.5V, I.GND MCU.GND, I.SDA MCU.A4, I.SCL MCU.A5, PACK.- MCU.GND, ${wires}`,
})

/** A motor at a pack, with transistors, a diode and a switch; the lead at the plus is wired unless another is named. */
const behindTransistor = (wires: string, atMinus?: 'M.M2') => ({
  supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
  parts: {
    M: { part: 'dc-motor', mode: 'switched' },
    T: 'nmos',
    Q: 'pmos',
    D: 'diode',
    W: 'slide-switch',
    R: { part: 'resistor', options: { ohms: 100 } },
  },
  wires: `PACK.- MCU.GND, ${atMinus ? '' : 'M.M1 PACK.+, '}${wires}`,
})

/** Two boards joined at pins of their SPI. */
const spi = (wires: string) => ({
  boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
  wires: `A.GND B.GND, ${wires}`,
})

testRule(polarity, {
  valid: [
    { title: 'SPI between two boards', ...spi('A.D13 B.D13, A.D11 B.D11, A.D12 B.D12') },
    { title: 'a serial line by software over pins of SPI', ...spi('A.D11 B.D12, A.D12 B.D11') },
    {
      title: 'SPI to a chip that calls its lines by what it sends',
      boards: { A: { board: 'pico' }, B: { board: 'pico' } },
      wires: 'A.GP18 B.GP18, A.GP19 B.GP16, A.GP16 B.GP19, A.GND B.GND',
    },
    {
      title: 'a serial line between two boards over pins that could be I2C',
      boards: { A: { board: 'pico-w' }, B: { board: 'pico' } },
      wires: 'A.GP4 B.GP5, A.GP5 B.GP4, A.GND B.GND',
    },
    {
      title: 'one line between two boards',
      boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
      wires: 'A.A4 B.A5, A.GND B.GND',
    },
    {
      title: 'a clock at the data of another board, and a data line at the clock of a third one',
      boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' }, C: { board: 'nano-v3' } },
      wires: 'A.A4 B.A5, A.A5 C.A4, A.GND B.GND, A.GND C.GND',
    },
    {
      title: 'a transistor that is off for good, its source on ground',
      ...behindTransistor('T.G MCU.GND, T.S MCU.GND, M.M2 T.D'),
    },
    {
      title: 'a transistor between two levels, its gate on the lower supply',
      parts: { T: { part: 'nmos', options: { model: '2n7000' } }, S: 'hc-sr04' },
      wires: 'T.G MCU.3V3, T.S MCU.27, T.D S.ECHO, S.VCC MCU.VIN, S.GND MCU.GND',
    },
    {
      title: 'a diode across a coil behind a switch in the way',
      ...behindTransistor('T.G MCU.27, T.S MCU.GND, M.M2 W.C, W.1 T.D, D.K M.M1, D.A M.M2'),
    },
    { title: 'a meter between battery and motor', ...metered('PACK.+ I.VIN+, I.VIN- M.M1, M.M2 PACK.-') },
    { title: 'a meter between motor and ground', ...metered('PACK.+ M.M1, M.M2 I.VIN+, I.VIN- PACK.-') },
    {
      title: 'two diodes that let the higher supply in',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 9 }, WALL: { volts: 9 } },
      parts: { D: 'diode', E: 'diode' },
      wires: 'PACK.+ D.A, D.K MCU.VIN, WALL.+ E.A, E.K MCU.VIN, PACK.- MCU.GND, WALL.- MCU.GND',
    },
    { title: 'the two lines of a pair, each to its own', ...line('X.A Y.A, X.B Y.B') },
    {
      title: 'an LED from pin to ground',
      parts: { L: { part: 'led', options: { colour: 'red' } }, R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.A R.1, R.2 MCU.27, L.K MCU.GND',
    },
    {
      title: 'a diode across a coil',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { M: { part: 'dc-motor', mode: 'switched' }, T: 'nmos', D: 'diode' },
      wires: 'T.G MCU.27, T.S MCU.GND, PACK.- MCU.GND, M.M1 PACK.+, M.M2 T.D, D.A M.M2, D.K M.M1',
    },
    {
      title: 'a Zener diode that clamps',
      parts: { Z: 'zener', R: { part: 'resistor', options: { ohms: 1000 } } },
      wires: 'R.1 MCU.VIN, R.2 Z.K, Z.A MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'a transistor whose gate is on ground and whose source is on the pin',
      ...behindTransistor('T.G MCU.GND, T.S R.1, R.2 MCU.27, M.M2 T.D'),
      says: ['fault: G and S of T are swapped: T.G is on ground and T.S on the pin that should move it.'],
      fix: 'Swap the wires of T.G and T.S',
      changes: [
        'wire T.G to MCU.GND removed',
        'wire T.S to R.1 removed',
        'wire T.S to MCU.GND added',
        'wire T.G to R.1 added',
      ],
    },
    {
      title: 'a P-channel transistor whose gate is on the supply and whose source is on the pin',
      ...behindTransistor('Q.G PACK.+, Q.S MCU.27, M.M2 MCU.GND, Q.D M.M1', 'M.M2'),
      says: ['fault: G and S of Q are swapped: Q.G is on a supply and Q.S on the pin that should move it.'],
    },
    {
      title: 'a diode across a coil, turned round, behind a switch in the way',
      ...behindTransistor('T.G MCU.27, T.S MCU.GND, M.M2 W.C, W.1 T.D, D.A M.M1, D.K M.M2'),
      says: [
        'fault: D is the wrong way round: its anode D.A is on the supply and its cathode D.K on the switched side.',
      ],
    },
    {
      title: 'a diode across a coil, turned round, on a P-channel transistor behind a switch',
      ...behindTransistor('Q.G MCU.27, Q.S PACK.+, M.M2 MCU.GND, M.M1 W.C, W.1 Q.D, D.A M.M1, D.K M.M2', 'M.M2'),
      says: [
        'fault: D is the wrong way round: its anode D.A is on Q.D and its cathode D.K on ground, which it shorts when Q.D is high.',
      ],
    },
    {
      title: 'a meter turned, between battery and motor',
      ...metered('PACK.+ I.VIN-, I.VIN+ M.M1, M.M2 PACK.-'),
      says: ['tip: I counts what is taken as negative: the current comes in at I.VIN- and leaves at I.VIN+.'],
    },
    {
      title: 'a meter turned, between motor and ground',
      ...metered('PACK.+ M.M1, M.M2 I.VIN-, I.VIN+ PACK.-'),
      says: ['tip: I counts what is taken as negative: the current comes in at I.VIN- and leaves at I.VIN+.'],
    },
    {
      title: 'one of two diodes that let the higher supply in, turned',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 9 }, WALL: { volts: 9 } },
      parts: { D: 'diode', E: 'diode' },
      wires: 'PACK.+ D.K, D.A MCU.VIN, WALL.+ E.A, E.K MCU.VIN, PACK.- MCU.GND, WALL.- MCU.GND',
      says: ['fault: D is the wrong way round: its cathode D.K is on PACK.+, which can give nothing then.'],
      fix: 'Swap the wires of D.A and D.K',
      changes: [
        'wire PACK.+ to D.K removed',
        'wire D.A to MCU.VIN removed',
        'wire PACK.+ to D.A added',
        'wire D.K to MCU.VIN added',
      ],
    },
    {
      title: 'I2C between two boards crossed',
      boards: { A: { board: 'pi-40' }, B: { board: 'pico' } },
      wires: 'A.GPIO2 B.GP5, A.GPIO3 B.GP4, A.GND B.GND',
      says: ['fault: The lines of A and B are crossed: A.GPIO2 is joined with B.GP5.'],
      fix: 'Swap the wires of B.GP5 and B.GP4',
      changes: [
        'wire A.GPIO2 to B.GP5 removed',
        'wire A.GPIO3 to B.GP4 removed',
        'wire A.GPIO2 to B.GP4 added',
        'wire A.GPIO3 to B.GP5 added',
      ],
    },
    {
      title: 'SPI between two boards crossed',
      ...spi('A.D13 B.D13, A.D11 B.D12, A.D12 B.D11'),
      says: ['fault: The lines of A and B are crossed: A.D11 is joined with B.D12.'],
      fix: 'Swap the wires of B.D12 and B.D11',
      changes: [
        'wire A.D11 to B.D12 removed',
        'wire A.D12 to B.D11 removed',
        'wire A.D11 to B.D11 added',
        'wire A.D12 to B.D12 added',
      ],
    },
    {
      title: 'the two lines of a pair crossed',
      ...line('X.A Y.B, X.B Y.A'),
      says: ['fault: The lines of X and Y are crossed: X.A is joined with Y.B.'],
      fix: 'Swap the wires of X.B and X.A',
      changes: ['wire X.A to Y.B removed', 'wire X.B to Y.A removed', 'wire X.B to Y.B added', 'wire X.A to Y.A added'],
    },
    {
      title: 'an LED turned round',
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'L.K R.1, R.2 MCU.27, L.A MCU.GND',
      says: ['fault: L is the wrong way round: its anode L.A is on ground.'],
      fix: 'Swap the wires of L.A and L.K',
      changes: [
        'wire L.K to R.1 removed',
        'wire L.A to MCU.GND removed',
        'wire L.A to R.1 added',
        'wire L.K to MCU.GND added',
      ],
    },
    {
      title: 'a diode across a coil, turned round',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { M: { part: 'dc-motor', mode: 'switched' }, T: 'nmos', D: 'diode' },
      wires: 'T.G MCU.27, T.S MCU.GND, PACK.- MCU.GND, M.M1 PACK.+, M.M2 T.D, D.K M.M2, D.A M.M1',
      says: [
        'fault: D is the wrong way round: its anode D.A is on the supply and its cathode D.K on the switched side.',
      ],
      fix: 'Swap the wires of D.A and D.K',
      changes: [
        'wire D.K to M.M2 removed',
        'wire D.A to M.M1 removed',
        'wire D.A to M.M2 added',
        'wire D.K to M.M1 added',
      ],
    },
    {
      title: 'a fan turned round',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { F: 'fan', T: 'nmos' },
      wires: 'T.G MCU.27, T.S MCU.GND, PACK.- MCU.GND, F.- PACK.+, F.+ T.D',
      says: ['fault: F is the wrong way round: its minus F.- is on a supply.'],
      fix: 'Swap the wires of F.+ and F.-',
      changes: [
        'wire F.- to PACK.+ removed',
        'wire F.+ to T.D removed',
        'wire F.+ to PACK.+ added',
        'wire F.- to T.D added',
      ],
    },
  ],
})
