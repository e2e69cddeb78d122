import { fed } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { pinShared } from './pinShared.ts'

/** Outputs of two registers, and what they hang on. */
const registers = (wires: string) => ({
  mcu: 'uno-r3',
  parts: { X: '74hc595', Y: '74hc595', Z: 'mcp23017' },
  wires: `X.VCC MCU.5V, X.GND MCU.GND, Y.VCC MCU.5V, Y.GND MCU.GND, Z.VDD MCU.5V, Z.VSS MCU.GND, ${wires}`,
})

/** Two distance sensors, and a resistor. */
const oneWire = (resistance: number, wires: string) => ({
  mcu: 'uno-r3',
  parts: { E: 'hc-sr04', F: 'hc-sr04', R: ohms(resistance) },
  wires: `E.VCC MCU.5V, E.GND MCU.GND, F.VCC MCU.5V, F.GND MCU.GND, ${wires}`,
})

/** Two outputs that meet at a pin through parts of one kind, with a resistor to ground. */
const meet = (part: string, into: string, outOf: string, ohms?: number) => ({
  mcu: 'uno-r3',
  parts: {
    A: 'hx711',
    B: 'hx711',
    X: { part, ...(ohms === undefined ? {} : { options: { ohms } }) },
    Y: { part, ...(ohms === undefined ? {} : { options: { ohms } }) },
    R: { part: 'resistor', options: { ohms: 10000 } },
  },
  wires: `A.VCC MCU.5V, A.GND MCU.GND, B.VCC MCU.5V, B.GND MCU.GND, A.DT X.${into}, X.${outOf} MCU.7, B.DT Y.${into}, Y.${outOf} MCU.7, R.1 MCU.7, R.2 MCU.GND`,
})

/** A meter on the bus of an Uno, a distance sensor, and a lamp or a button beside them. */
const besideMeter = (wires: string) => ({
  mcu: 'uno-r3',
  parts: {
    X: 'ina219',
    E: 'hc-sr04',
    B: 'button',
    L: 'led',
    R: { part: 'resistor', options: { ohms: 470 } },
  },
  wires: `X.VCC MCU.5V, X.GND MCU.GND, X.SDA MCU.A4, X.SCL MCU.A5, E.VCC MCU.5V, E.GND MCU.GND, E.TRIG MCU.6, E.ECHO MCU.7, ${wires}`,
})

testRule(pinShared, {
  valid: [
    {
      title: 'both clocks of a register on one pin: its outputs are a bit late, and right',
      mcu: 'uno-r3',
      parts: { X: '74hc595' },
      wires: 'X.SER MCU.2, X.SRCLK MCU.3, X.RCLK MCU.3',
    },
    {
      title: 'two buttons that do the same',
      mcu: 'uno-r3',
      parts: { A: 'button', B: 'button' },
      wires: 'A.1 MCU.2, B.1 MCU.2, A.2 MCU.GND, B.2 MCU.GND',
    },
    {
      title: 'two contacts of one part, told apart by their resistors',
      mcu: 'uno-r3',
      parts: { S: 'dip-switch', R: ohms(10_000), T: ohms(22_000), U: ohms(10_000) },
      wires: 'S.1.2 MCU.5V, S.2.2 MCU.5V, S.1 R.1, S.2 T.1, R.2 MCU.A0, T.2 MCU.A0, U.1 MCU.A0, U.2 MCU.GND',
    },
    {
      title: 'two servos that turn together, and a lamp that shows their pulses',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { S: 'servo-sg90', T: 'servo-sg90', L: 'led', R: ohms(330) },
      wires:
        'S.VCC PACK.+, T.VCC PACK.+, S.GND PACK.-, T.GND PACK.-, PACK.- MCU.GND, S.SIG MCU.9, T.SIG MCU.9, R.1 MCU.9, R.2 L.A, L.K MCU.GND',
    },
    {
      title: 'two fields of keys with their rows in common',
      mcu: 'uno-r3',
      parts: { K: 'keypad-4x3', L: 'keypad-4x3' },
      wires:
        'K.R1 MCU.2, K.R2 MCU.3, K.R3 MCU.4, K.R4 MCU.5, K.C1 MCU.6, K.C2 MCU.7, K.C3 MCU.8, L.R1 MCU.2, L.R2 MCU.3, L.R3 MCU.4, L.R4 MCU.5, L.C1 MCU.9, L.C2 MCU.10, L.C3 MCU.11',
    },
    {
      title: 'two switches of lines that take the same channel',
      mcu: 'uno-r3',
      parts: { X: 'mux-4067', Y: '74hc4051' },
      wires: 'X.S0 MCU.2, Y.S0 MCU.2, X.S1 MCU.3, Y.S1 MCU.3',
    },
    {
      title: 'two lines of one part that are on together',
      mcu: 'uno-r3',
      parts: { X: 'tcs3200' },
      wires: 'X.S0 MCU.2, X.S1 MCU.2, X.S2 MCU.3, X.S3 MCU.4',
    },
    {
      title: 'clocks of two registers on one pin',
      mcu: 'uno-r3',
      parts: { X: '74hc595', Y: '74hc165' },
      wires: 'X.SRCLK MCU.3, Y.CLK MCU.3, X.RCLK MCU.4, Y.PL MCU.4',
    },
    {
      title: 'an echo through a resistor on the pin of its trigger',
      ...oneWire(1100, 'E.TRIG MCU.9, R.1 MCU.9, R.2 E.ECHO'),
    },
    {
      title: 'a lamp at the output of a motion sensor that a pin reads which cannot drive',
      parts: { P: 'hc-sr501', L: 'led', R: ohms(470) },
      wires: 'P.VCC MCU.VIN, P.GND MCU.GND, P.OUT MCU.34, P.OUT R.1, R.2 L.A, L.K MCU.GND',
    },
    { title: 'a lamp between two pins', ...besideMeter('L.A R.1, R.2 MCU.8, L.K MCU.9') },
    {
      title: 'a lamp from the supply to an output that nobody reads, which it shows',
      mcu: 'uno-r3',
      parts: { H: 'hall-a3144', L: 'led', R: ohms(470) },
      wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.OUT L.K, L.A R.1, R.2 MCU.5V',
    },
    { title: 'a button that leads an echo on to a pin', ...besideMeter('B.1 MCU.3, B.2 E.ECHO') },
    { title: 'two outputs that diodes keep apart', ...meet('diode', 'A', 'K') },
    { title: 'an output of a register read by an expander', ...registers('X.QA Z.GPA0') },
    {
      title: 'two I2C devices share their lines',
      parts: { A: 'bme280', B: 'ds3231' },
      wires: 'A.SDA MCU.D21, B.SDA MCU.D21, A.SCL MCU.D22, B.SCL MCU.D22',
    },
    {
      title: 'two SPI devices share MISO',
      parts: { A: 'sx1276', B: { part: 'bme280', mode: 'spi' } },
      wires: 'A.MISO MCU.19, B.SDO MCU.19',
    },
    {
      title: 'two thermometers with numbers of their own on one line',
      parts: { A: 'ds18b20', B: 'ds18b20-probe' },
      wires: 'A.DQ MCU.27, B.DQ MCU.27',
    },
    {
      title: 'two humidity sensors on lines of their own',
      parts: { A: 'dht22', B: 'dht11' },
      wires: 'A.DATA MCU.27, B.DATA MCU.26',
    },
    {
      title: 'two lamps driven together',
      parts: { A: 'led', R: 'resistor', B: 'led', S: 'resistor' },
      wires: 'A.A R.1, R.2 MCU.D4, B.A S.1, S.2 MCU.D4',
    },
    {
      title: 'two open collectors on one line',
      parts: { A: 'hall-a3144', B: 'hall-a3144' },
      wires: 'A.OUT MCU.D4, B.OUT MCU.D4',
    },
    { title: 'two buttons in parallel', parts: { A: 'button', B: 'button' }, wires: 'A.1 MCU.D4, B.1 MCU.D4' },
    {
      title: 'expander pins of their own',
      parts: { X: 'mcp23017', A: 'button', B: 'button' },
      wires: 'A.1 X.GPA0, B.1 X.GPA1',
    },
    {
      title: 'a link between two boards',
      boards: { A: { board: 'uno-r3' }, B: { board: 'uno-r3' } },
      wires: 'A.D4 B.D4, A.GND B.GND',
    },
  ],
  invalid: [
    {
      title: 'data and clock of a register on one pin',
      mcu: 'uno-r3',
      parts: { X: '74hc595' },
      wires: 'X.SER MCU.2, X.SRCLK MCU.2, X.RCLK MCU.3',
      says: [
        'fault: X.SER and X.SRCLK share MCU.D2: each takes its own changes of the line, and would take those of the other as well.',
      ],
    },
    {
      title: 'the push of a knob on one of its phases',
      mcu: 'uno-r3',
      parts: { X: 'rotary-encoder' },
      wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.CLK MCU.2, X.DT MCU.3, X.SW MCU.2',
      says: ['fault: X.CLK and X.SW share MCU.D2: nobody can tell which of the two speaks.'],
    },
    {
      title: 'two of four switches on one pin',
      mcu: 'uno-r3',
      parts: { S: 'dip-switch' },
      wires: 'S.1 MCU.2, S.2 MCU.2, S.1.2 MCU.GND, S.2.2 MCU.GND',
      says: ['fault: S.1 and S.2 share MCU.D2: nobody can tell which of the two speaks.'],
    },
    {
      title: 'the range of a sensor on a bit of its colour',
      mcu: 'uno-r3',
      parts: { X: 'tcs3200' },
      wires: 'X.S0 MCU.2, X.S1 MCU.3, X.S2 MCU.2, X.S3 MCU.4',
      says: ['fault: X.S0 and X.S2 share MCU.D2: one is a bit of a number, which the other would change.'],
    },
    {
      title: 'a servo and a relay on one pin',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { S: 'servo-sg90', K: 'relay-1' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, K.VCC MCU.5V, K.GND MCU.GND, S.SIG MCU.9, K.IN MCU.9',
      says: [
        'fault: S.SIG and K.IN share MCU.D9: one wants pulses of a set length, and the other would jump with them.',
      ],
    },
    {
      title: 'a button on a line of a field of keys',
      mcu: 'uno-r3',
      parts: { K: 'keypad-4x3', B: 'button' },
      wires:
        'K.R1 MCU.2, K.R2 MCU.3, K.R3 MCU.4, K.R4 MCU.5, K.C1 MCU.6, K.C2 MCU.7, K.C3 MCU.8, B.1 MCU.6, B.2 MCU.GND',
      says: ['fault: K.C1 and B.1 share MCU.D6: a contact beside a field of keys is taken for one of its keys.'],
    },
    {
      title: 'two bits of a channel on one pin',
      mcu: 'uno-r3',
      parts: { X: 'mux-4067' },
      wires: 'X.S0 MCU.2, X.S1 MCU.2',
      says: ['fault: X.S0 and X.S1 share MCU.D2: two bits of a number that are always alike tell half as much.'],
    },
    {
      title: 'two data lines of a display on one pin',
      mcu: 'uno-r3',
      parts: { X: 'lcd-parallel' },
      wires: 'X.D4 MCU.2, X.D5 MCU.2, X.RW MCU.GND',
      says: ['fault: X.D4 and X.D5 share MCU.D2: two bits of a number that are always alike tell half as much.'],
    },
    {
      title: 'an echo through a resistor too small on the pin of its trigger',
      ...oneWire(910, 'E.TRIG MCU.9, R.1 MCU.9, R.2 E.ECHO'),
      says: ['fault: E.TRIG and E.ECHO share MCU.D9: the pin would have to be input and output at once.'],
    },
    {
      title: 'a trigger through a resistor on the pin of its echo',
      ...oneWire(1100, 'E.ECHO MCU.9, R.1 MCU.9, R.2 E.TRIG'),
      says: ['fault: E.TRIG and E.ECHO share MCU.D9: the pin would have to be input and output at once.'],
    },
    {
      title: "an echo through a resistor on the pin of another's trigger",
      ...oneWire(1100, 'E.TRIG MCU.8, F.TRIG MCU.9, F.ECHO MCU.7, R.1 MCU.9, R.2 E.ECHO'),
      says: ['fault: E.ECHO and F.TRIG share MCU.D9: the pin would have to be input and output at once.'],
    },
    {
      title: 'a lamp at the output of a motion sensor that is read as well',
      mcu: 'uno-r3',
      parts: { P: 'hc-sr501', L: 'led', R: ohms(470) },
      wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.OUT MCU.2, P.OUT R.1, R.2 L.A, L.K MCU.GND',
      says: ['caution: P.OUT moves L.A by itself, and MCU.D2 can only read along.'],
    },
    {
      title: 'a lamp from the supply at an echo that is read as well',
      ...besideMeter('L.A R.1, R.2 MCU.5V, L.K E.ECHO'),
      says: ['caution: E.ECHO moves L.K by itself, and MCU.D7 can only read along.'],
    },
    {
      title: 'a lamp from the supply at an output that only pulls low, read as well',
      mcu: 'uno-r3',
      parts: { H: 'hall-a3144', L: 'led', R: ohms(470) },
      wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.OUT MCU.2, H.OUT L.K, L.A R.1, R.2 MCU.5V',
      says: ['caution: H.OUT moves L.K by itself, and MCU.D2 can only read along.'],
    },
    {
      title: 'a lamp to ground at an output that only pulls low',
      mcu: 'uno-r3',
      parts: { H: 'hall-a3144', L: 'led', R: ohms(470) },
      wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.OUT MCU.2, H.OUT R.1, R.2 L.A, L.K MCU.GND',
      says: ['fault: H.OUT and L.A share MCU.D2: the pin would have to be input and output at once.'],
    },
    {
      title: 'a servo at an output that is read, which makes no pulses for it',
      mcu: 'uno-r3',
      parts: { P: 'hc-sr501', S: 'servo-sg90' },
      wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.OUT MCU.9, S.SIG MCU.9, S.VCC MCU.5V, S.GND MCU.GND',
      says: ['fault: P.OUT and S.SIG share MCU.D9: the pin would have to be input and output at once.'],
    },
    {
      title: 'a lamp on a pin whose other leg hangs on the clock of a bus',
      ...besideMeter('L.A R.1, R.2 MCU.8, L.K MCU.A5'),
      says: ['fault: L.K belongs on ground and hangs on the line of X.SCL.'],
      fix: 'Move L.K to MCU.GND',
      changes: ['wire L.K to MCU.A5 removed', 'wire L.K to MCU.GND added'],
    },
    {
      title: 'the same behind its resistor',
      ...besideMeter('L.A MCU.8, L.K R.1, R.2 X.SDA'),
      says: ['fault: L.K belongs on ground and hangs on the line of X.SDA.'],
    },
    {
      title: 'a lamp on a pin whose other leg hangs on an echo',
      ...besideMeter('L.A R.1, R.2 MCU.8, L.K E.ECHO'),
      says: ['fault: L.K belongs on ground and hangs on the line of E.ECHO.'],
    },
    {
      title: 'a button on a pin whose other leg hangs on a bus',
      ...besideMeter('B.1 MCU.3, B.2 MCU.A4'),
      says: ['fault: B.2 belongs on ground and hangs on the line of X.SDA.'],
    },
    {
      title: 'two lamps in one row, each with its own resistor and pin',
      mcu: 'uno-r3',
      parts: { L: 'led', K: 'led', R: ohms(330), T: ohms(330) },
      wires: 'R.1 MCU.4, T.1 MCU.5, R.2 L.A, T.2 K.A, L.K MCU.GND, K.K MCU.GND, L.A K.A',
      says: ['caution: MCU.D4 and MCU.D5 drive L and K together, each over a resistor.'],
    },
    {
      title: 'the same where the pins give ground',
      mcu: 'uno-r3',
      parts: { L: 'led', K: 'led', R: ohms(330), T: ohms(330) },
      wires: 'R.1 MCU.4, T.1 MCU.5, R.2 L.K, T.2 K.K, L.A MCU.5V, K.A MCU.5V, L.K K.K',
      says: ['caution: MCU.D4 and MCU.D5 drive L and K together, each over a resistor.'],
    },
    {
      title: 'two humidity sensors on one line',
      parts: { A: 'dht22', B: { part: 'dht11', options: { kind: 'board' } } },
      wires: 'A.DATA MCU.27, B.DATA MCU.27',
      says: [
        'fault: A.DATA and B.DATA share MCU.GPIO27: devices on one wire can share it only when each has a number of its own.',
      ],
    },
    {
      title: 'a humidity sensor on the line of a 1-Wire thermometer',
      parts: { A: 'ds18b20', B: 'dht22' },
      wires: 'A.DQ MCU.27, B.DATA MCU.27',
      says: [
        'fault: A.DQ and B.DATA share MCU.GPIO27: devices on one wire can share it only when each has a number of its own.',
      ],
    },
    {
      title: 'a button on the line of a thermometer',
      parts: { A: 'ds18b20', B: 'button' },
      wires: 'A.DQ MCU.27, B.1 MCU.27, B.2 MCU.GND',
      says: [
        'fault: A.DQ and B.1 share MCU.GPIO27: devices on one wire can share it only when each has a number of its own.',
      ],
    },
    {
      title: 'two outputs that meet through resistors',
      ...meet('resistor', '1', '2', 1000),
      says: ['fault: A.DT and B.DT share MCU.D7: two outputs drive one line.'],
    },
    {
      title: 'outputs of two registers on one wire',
      ...registers('X.QA Y.QB'),
      says: ['fault: X.QA and Y.QB are outputs on one wire.'],
    },
    {
      title: 'two outputs on one pin',
      parts: { A: 'hx711', B: 'epaper-2in9' },
      wires: `${fed('A', 'B')}, A.DT MCU.D27, B.BUSY MCU.D27`,
      says: ['fault: A.DT and B.BUSY share MCU.GPIO27: two outputs drive one line.'],
      fix: 'Move B.BUSY to MCU.GPIO36',
      changes: ['wire B.BUSY to MCU.GPIO27 removed', 'wire B.BUSY to MCU.GPIO36 added'],
    },
    {
      title: 'a bus line with a lamp',
      parts: { A: 'bme280', L: 'led', R: 'resistor' },
      wires: 'A.SDA MCU.D21, L.A R.1, R.2 MCU.D21',
      says: ['fault: A.SDA and L.A share MCU.GPIO21: a bus line must carry nothing else.'],
    },
    {
      title: 'SDA and SCL on one pin',
      parts: { A: 'bme280', B: 'ds3231' },
      wires: 'A.SDA MCU.D21, B.SCL MCU.D21',
      says: ['fault: A.SDA and B.SCL share MCU.GPIO21: a bus line must carry nothing else.'],
    },
    {
      title: 'a button and a lamp',
      mcu: 'uno-r3',
      parts: { B: 'button', L: 'led', R: 'resistor' },
      wires: 'B.1 MCU.7, B.2 MCU.GND, L.A R.1, R.2 MCU.7, L.K MCU.GND',
      says: ['fault: B.1 and L.A share MCU.D7: the pin would have to be input and output at once.'],
      fix: 'Move L.A to MCU.D8',
      changes: ['wire R.2 to MCU.D7 removed', 'wire R.2 to MCU.D8 added'],
    },
    {
      title: 'on an expander pin',
      parts: { X: 'mcp23017', B: 'button', S: 'hx711' },
      wires: 'B.1 X.GPB3, S.SCK X.GPB3',
      says: ['fault: B.1 and S.SCK share X.GPB3: the pin would have to be input and output at once.'],
    },
    {
      title: 'two pins of one board joined',
      parts: { B: 'button' },
      wires: 'B.1 MCU.D4, MCU.D4 MCU.D5',
      says: ['fault: MCU.GPIO5 and MCU.GPIO4 are joined with each other.'],
      fix: 'Take out the wire MCU.GPIO4 to MCU.GPIO5',
      changes: ['wire MCU.GPIO4 to MCU.GPIO5 removed'],
    },
  ],
})
