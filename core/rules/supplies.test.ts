import type { PlanPart } from '../plan/planSchema.ts'
import { testRule } from '../testing/rules.ts'
import { led, ohms } from '../testing/short.ts'
import { commonGround } from './commonGround.ts'
import { supplyMissing } from './supplyMissing.ts'
import { supplyRange } from './supplyRange.ts'

const pack = (volts: number) => ({ PACK: { volts } })

const servoOn = (volts: number) => ({
  supplies: { P: { volts } },
  parts: { S: 'servo-sg90' },
  wires: 'S.VCC P.+, S.GND P.-, P.- MCU.GND, S.SIG MCU.27',
})

/** A load between two outputs of a bridge that a pack feeds. */
const motor = (label: number) => ({ part: 'dc-motor', options: { volts: label } })
const onBridge = (part: string | ReturnType<typeof motor>, volts: number) => ({
  mcu: 'uno-r3',
  supplies: pack(volts),
  parts: { L: part, H: { part: 'l298n', options: { jumper: volts > 12 ? 'off' : 'set' } } },
  wires: `${volts > 12 ? 'H.5V MCU.5V, ' : ''}H.12V PACK.+, H.GND PACK.-, PACK.- MCU.GND, H.IN1 MCU.7, H.IN2 MCU.8, H.ENA MCU.9, H.OUT1 L.+, H.OUT2 L.-`,
})

/** Something of two legs in the plus, a transistor at its minus. */
const switched = (load: PlanPart | string, volts: number, plus = 'L.+ P.+') => ({
  mcu: 'uno-r3',
  supplies: { P: { volts, limitMilliamps: 3000 } },
  parts: { L: load, Q: 'npn', R: ohms(1000), S: ohms(270) },
  wires: `P.- MCU.GND, ${plus}, L.- Q.C, Q.E MCU.GND, R.1 Q.B, R.2 MCU.3`,
})

testRule(supplyRange, {
  valid: [
    {
      title: 'a buzzer of 5 V on 12 V behind a resistor that takes the rest',
      ...switched('buzzer-active', 12, 'L.+ S.1, S.2 P.+'),
    },
    { title: 'the input of a solid-state relay on 24 V, switched at its minus', ...switched('ssr', 24) },
    { title: 'a pump of 5 V on a bridge at 7.4 V, which keeps two', ...onBridge('pump', 7.4) },
    { title: 'a lock of 12 V on a bridge at 12 V', ...onBridge('solenoid', 12) },
    { title: 'a motor of which no label is told, on a bridge at 24 V', ...onBridge('dc-motor', 24) },
    { title: 'a motor of 12 V on a bridge at 14.4 V, which keeps two', ...onBridge(motor(12), 14.4) },
    {
      title: 'a motor of 12 V on a transistor',
      supplies: pack(12),
      parts: { M: { ...motor(12), mode: 'switched' } },
      wires: 'M.M1 PACK.+, PACK.- MCU.GND',
    },
    { title: 'a sensor at 3.3 V', parts: { B: 'bme280' }, wires: 'B.VCC MCU.3V3' },
    { title: 'a board fed at its 5 V pin', supplies: pack(5), wires: 'PACK.+ MCU.VIN' },
    { title: 'a board fed with 9 V at VIN', mcu: 'uno-r3', supplies: pack(9), wires: 'PACK.+ MCU.VIN' },
    {
      title: 'a motor of 12 V that a transistor switches, and one of which nothing is said',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { M: { part: 'dc-motor', options: { volts: 12 } }, Q: 'nmos', N: 'dc-motor', P: 'nmos' },
      wires:
        'PACK.- MCU.GND, M.M1 PACK.+, M.M2 Q.D, Q.S MCU.GND, Q.G MCU.D5, N.M1 PACK.+, N.M2 P.D, P.S MCU.GND, P.G MCU.D6',
    },
  ],
  invalid: [
    {
      title: 'a buzzer of 5 V on 12 V, switched at its minus',
      ...switched('buzzer-active', 12),
      says: ['fault: L gets up to 12.0 V between L.+ and L.-, and bears 7.0 V.'],
    },
    {
      title: 'a buzzer of 3 V on 6 V, switched at its minus',
      ...switched({ part: 'buzzer-active', options: { kind: '3v' } }, 6),
      says: ['fault: L gets up to 6.0 V between L.+ and L.-, and bears 5.0 V.'],
    },
    {
      title: 'the input of a solid-state relay on 40 V, switched at its minus',
      ...switched('ssr', 40),
      says: ['fault: L gets up to 40.0 V between L.+ and L.-, and bears 32.0 V.'],
    },
    ...(
      [
        [6, 24, '3.0 V to 6.0 V'],
        [12, 5, '6.0 V to 14.0 V'],
      ] as const
    ).map(([label, volts, takes]) => ({
      title: `a motor of ${label} V that a transistor switches, at ${volts} V`,
      mcu: 'uno-r3',
      supplies: { PACK: { volts } },
      parts: { M: { part: 'dc-motor', options: { volts: label } }, Q: 'nmos' },
      wires: 'PACK.- MCU.GND, M.M1 PACK.+, M.M2 Q.D, Q.S MCU.GND, Q.G MCU.D5',
      says: [`fault: M.M1 gets ${volts.toFixed(1)} V and takes ${takes}.`],
    })),
    {
      title: 'a 3.3 V sensor at 5 V',
      parts: { B: 'bme280' },
      wires: 'B.VCC MCU.VIN, B.GND MCU.GND, B.CSB MCU.VIN',
      says: ['fault: B.VCC gets 5.0 V and takes 1.71 V to 3.6 V.'],
      fix: 'Feed B from MCU.3V3 (3.3 V)',
      changes: [
        'wire B.VCC to MCU.VIN removed',
        'wire B.CSB to MCU.VIN removed',
        'wire B.VCC to MCU.3V3 added',
        'wire B.CSB to MCU.3V3 added',
      ],
    },
    {
      title: 'a pump of 5 V on a bridge at 9 V',
      ...onBridge('pump', 9),
      says: ['caution: L gets up to 9.0 V from H and takes 3.0 V to 6.0 V.'],
    },
    {
      title: 'a lock of 12 V on a bridge at 7.4 V',
      ...onBridge('solenoid', 7.4),
      parts: { L: { part: 'solenoid', mode: 'bridge' }, H: 'l298n' },
      says: ['caution: L gets up to 7.4 V from H and takes 9.0 V to 13.0 V.'],
    },
    ...(
      [
        [6, 9, '3.0 V to 6.0 V'],
        [12, 24, '6.0 V to 14.0 V'],
      ] as const
    ).map(([label, volts, takes]) => ({
      title: `a motor of ${label} V on a bridge at ${volts} V`,
      ...onBridge(motor(label), volts),
      says: [`caution: L gets up to ${volts.toFixed(1)} V from H and takes ${takes}.`],
    })),
    {
      title: 'a hall switch at 3.3 V',
      parts: { H: 'hall-a3144' },
      wires: 'H.VCC MCU.3V3, H.GND MCU.GND',
      says: ['fault: H.VCC gets 3.3 V and takes 4.5 V to 24.0 V.'],
      fix: 'Feed H from MCU.VIN (5.0 V)',
      changes: ['wire H.VCC to MCU.3V3 removed', 'wire H.VCC to MCU.VIN added'],
    },
    {
      title: 'a board with 9 V at its 5 V pin',
      mcu: 'uno-r3',
      supplies: pack(9),
      wires: 'PACK.+ MCU.5V, PACK.- MCU.GND',
      says: ['fault: MCU.5V gets 9.0 V from PACK.+ and takes 4.75 V to 5.25 V.'],
      fix: 'Feed MCU at VIN instead',
      changes: ['wire PACK.+ to MCU.5V removed', 'wire PACK.+ to MCU.VIN added'],
    },
    {
      title: 'a board with 5 V at VIN of a linear regulator',
      mcu: 'uno-r3',
      supplies: pack(5),
      wires: 'PACK.+ MCU.VIN',
      says: ['fault: MCU.VIN gets 5.0 V from PACK.+ and takes 7.0 V to 12.0 V.'],
    },
  ],
  edges: [
    { says: 'part', because: 'at least 4.8 V', at: servoOn, said: 4.75, quiet: 4.8 },
    { says: 'part', because: 'at most 6 V', at: servoOn, said: 6.05, quiet: 6 },
    {
      says: 'across',
      because: '7 V and 5 % for the supply',
      at: (volts) => switched('buzzer-active', volts),
      said: 7.4,
      quiet: 7.3,
    },
  ],
})

testRule(supplyMissing, {
  valid: [
    {
      title: 'a thermometer that takes its current from its own line',
      mcu: 'uno-r3',
      parts: { T: 'ds18b20', R: ohms(4700) },
      wires: 'T.VDD MCU.GND, T.GND MCU.GND, T.DQ MCU.2, R.1 T.DQ, R.2 MCU.5V',
    },
    { title: 'a part that is not wired at all', parts: { B: 'bme280' } },
    {
      title: 'a buzzer that a pin switches by pulling low',
      mcu: 'uno-r3',
      parts: { B: 'buzzer-active' },
      wires: 'B.+ MCU.5V, B.- MCU.D5',
    },
    {
      title: 'two digits that share their segments, each with its common leg on a pin',
      mcu: 'mega-2560-r3',
      parts: { S: 'seven-segment', T: 'seven-segment', R: ohms(1000) },
      wires: 'S.A R.1, T.A R.1, R.2 MCU.D22, S.COM MCU.D30, T.COM MCU.D31',
    },
    {
      title: 'two lamps back to back between two pins',
      mcu: 'uno-r3',
      parts: { L: led('red'), M: led('red'), R: ohms(220) },
      wires: 'L.A R.1, R.2 MCU.D5, L.K MCU.D6, M.A MCU.D6, M.K R.1',
    },
    {
      title: 'a transistor that shifts a level, its foot on the lower line',
      parts: { Q: { part: 'nmos', options: { model: '2n7000' } }, R: ohms(10_000), S: ohms(10_000), B: 'lcd-i2c' },
      wires:
        'B.VCC MCU.VIN, B.GND MCU.GND, Q.G MCU.3V3, Q.S MCU.GPIO21, Q.D B.SDA, R.1 Q.D, R.2 MCU.VIN, S.1 Q.S, S.2 MCU.3V3',
    },
    { title: 'supply and ground wired', parts: { B: 'bme280' }, wires: 'B.VCC MCU.3V3, B.GND MCU.GND' },
    {
      title: 'ground at the second of three ground pins',
      parts: { R: 'sx1276' },
      wires: 'R.VCC MCU.3V3, R.GND.2 MCU.GND',
    },
    {
      title: 'the 3.3 V that come from USB, on USB',
      mcu: 'nano-v3',
      parts: { B: 'bme280' },
      wires: 'B.VCC MCU.3V3, B.GND MCU.GND',
    },
    { title: 'no supply on purpose', parts: { B: 'bme280' }, wires: 'B.GND MCU.GND', unused: ['B.VCC'] },
  ],
  invalid: [
    {
      title: 'a sensor on the 3.3 V that come from USB alone, on a battery',
      mcu: 'nano-v3',
      supplies: { P: { volts: 9 } },
      parts: { B: 'bme280' },
      wires: 'P.+ MCU.VIN, P.- MCU.GND, B.VCC MCU.3V3, B.GND MCU.GND',
      says: ['fault: B hangs at B.VCC on MCU.3V3, which gives nothing while MCU is fed at VIN.'],
    },
    {
      title: 'a sensor on a post that is no rail of the board’s',
      mcu: 'nano-v3',
      supplies: { P: { volts: 9 } },
      parts: { B: 'bme280' },
      wires: 'P.+ MCU.VIN, P.- MCU.GND, B.VCC MCU.AREF, B.GND MCU.GND',
      says: ['fault: B has no supply at B.VCC.'],
    },
    {
      title: 'a lamp between two pins',
      mcu: 'uno-r3',
      parts: { L: led('red'), R: ohms(220) },
      wires: 'L.A R.1, R.2 MCU.D5, L.K MCU.D6',
      says: ['caution: L has its ground at L.K from the pin MCU.D6: it works only while the program holds that low.'],
      fix: 'Move L.K to MCU.GND',
      changes: ['wire L.K to MCU.D6 removed', 'wire L.K to MCU.GND added'],
    },
    {
      title: 'a buzzer with its minus on the pin that resets the board',
      mcu: 'nano-v3',
      parts: { B: 'buzzer-active' },
      wires: 'B.+ MCU.D5, B.- MCU.RESET',
      says: ['fault: B has no ground at B.-.'],
      fix: 'Move B.- to MCU.GND',
      changes: ['wire B.- to MCU.RESET removed', 'wire B.- to MCU.GND added'],
    },
    {
      title: 'a buzzer with its minus on a pin of the memory',
      mcu: 'esp8266-nodemcu-v2',
      parts: { B: 'buzzer-active' },
      wires: 'B.+ MCU.GPIO14, B.- MCU.GPIO6',
      says: ['fault: B has no ground at B.-.'],
    },
    {
      title: 'a transistor whose emitter lies a post beside ground',
      mcu: 'pi-40',
      supplies: { PSU: { volts: 12 } },
      parts: { Q: 'npn', F: { part: 'fan', options: { volts: 12 } }, R: ohms(1000) },
      wires: 'PSU.- MCU.GND, F.+ PSU.+, F.- Q.C, Q.B R.1, R.2 MCU.GPIO17, Q.E MCU.GPIO27',
      says: ['fault: Q.E lies on the pin MCU.GPIO27: all that Q switches would flow into it.'],
      fix: 'Move Q.E to MCU.GND',
      changes: ['wire Q.E to MCU.GPIO27 removed', 'wire Q.E to MCU.GND added'],
    },
    {
      title: 'a thermometer on its line alone, its supply pin open',
      mcu: 'uno-r3',
      parts: { T: 'ds18b20', R: ohms(4700) },
      wires: 'T.GND MCU.GND, T.DQ MCU.2, R.1 T.DQ, R.2 MCU.5V',
      says: ['fault: T has no supply at T.VDD.'],
      fix: 'Feed T.VDD from MCU.5V (5 V)',
      changes: ['wire T.VDD to MCU.5V added'],
    },
    {
      title: 'a sensor with its supply on ground',
      mcu: 'uno-r3',
      parts: { T: 'dht22' },
      wires: 'T.VCC MCU.GND, T.GND MCU.GND, T.DATA MCU.2',
      says: ['fault: T has no supply at T.VCC.'],
    },
    ...(
      [
        ['a regulator', 'regulator-3v3', 'R.IN', 'R.OUT'],
        ['a module with a regulator', 'bmi160', 'R.VIN', 'R.3V3'],
        ['a converter', 'boost', 'R.IN+', 'R.OUT+'],
      ] as const
    ).map(([what, part, input, output]) => ({
      title: `${what} fed with what it makes itself`,
      mcu: 'uno-r3',
      parts: { R: part },
      wires: `${input} ${output}, R.${part === 'boost' ? 'IN-' : 'GND'} MCU.GND`,
      says: [`fault: R has no supply at ${input}.`],
    })),
    {
      title: 'a board without a socket, and a pack that nothing leads from',
      mcu: 'pro-mini-3v3',
      supplies: { PACK: { volts: 5 } },
      says: ['fault: Nothing feeds MCU.'],
      fix: 'Feed it from PACK',
      changes: ['wire PACK.+ to MCU.RAW added', 'wire PACK.- to MCU.GND added'],
    },
    {
      title: 'a sensor of a few milliamperes fed from a pin',
      mcu: 'uno-r3',
      parts: { W: 'water-level' },
      wires: 'W.+ MCU.7, W.- MCU.GND, W.S MCU.A0',
      says: ['caution: W gets its supply at W.+ from the pin MCU.D7: it works only while the program holds that high.'],
    },
    {
      title: 'no supply',
      parts: { B: 'bme280' },
      wires: 'B.GND MCU.GND, B.SDA MCU.D21',
      says: ['fault: B has no supply at B.VCC.'],
      fix: 'Feed B.VCC from MCU.3V3 (3.3 V)',
      changes: ['wire B.VCC to MCU.3V3 added'],
    },
    {
      title: 'no ground',
      parts: { B: 'bme280' },
      wires: 'B.VCC MCU.3V3, B.SDA MCU.D21',
      says: ['fault: B has no ground at B.GND.'],
      fix: 'Join B.GND to MCU.GND',
      changes: ['wire B.GND to MCU.GND added'],
    },
    {
      title: 'fed from a wire that leads nowhere',
      parts: { B: 'bme280', C: 'ds3231' },
      wires: 'B.VCC C.VCC, B.GND MCU.GND, C.GND MCU.GND',
      says: ['fault: B has no supply at B.VCC.', 'fault: C has no supply at C.VCC.'],
    },
  ],
})

testRule(commonGround, {
  valid: [
    {
      title: 'a current sensor that measures through insulation',
      mcu: 'uno-r3',
      parts: { S: 'current-acs712', L: 'strip-12v' },
      supplies: { PACK: { volts: 12 } },
      wires: 'S.VCC MCU.5V, S.GND MCU.GND, S.OUT MCU.A0, S.IP+ PACK.+, S.IP- L.+, L.- PACK.-',
    },
    {
      title: 'one ground for all',
      supplies: pack(5),
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.SIG MCU.D4',
    },
    {
      title: 'joined at another hole',
      supplies: pack(5),
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, S.GND MCU.GND.2, S.SIG MCU.D4',
    },
    {
      title: 'two sides that have nothing to do with each other',
      supplies: pack(5),
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC PACK.+, S.GND PACK.-',
    },
    { title: 'two boards joined by radio only', boards: { A: { board: 'uno-r3' }, B: { board: 'uno-r3' } } },
    {
      title: 'a pack that waits for both its wires',
      supplies: pack(5),
      parts: { S: 'servo-sg90' },
      wires: 'S.SIG MCU.D4',
    },
    {
      title: 'a pack through a fuse and a switch, back by way of a shunt',
      supplies: pack(12),
      parts: { F: 'fuse', S: 'slide-switch', N: 'ina219', L: { part: 'lamp', options: { volts: 12 } } },
      wires:
        'PACK.+ F.1, F.2 S.C, S.1 L.+, L.- N.VIN+, N.VIN- PACK.-, N.VCC MCU.3V3, N.GND MCU.GND, PACK.- MCU.GND, N.SDA MCU.GPIO21, N.SCL MCU.GPIO22',
    },
    {
      title: 'two packs in a row',
      supplies: { A: { volts: 3 }, B: { volts: 3 } },
      parts: { R: ohms(330), L: 'led' },
      wires: 'A.+ B.-, B.+ R.1, R.2 L.A, L.K A.-',
    },
    {
      title: 'a motor that still waits for its other lead',
      supplies: pack(5),
      parts: { M: 'dc-motor' },
      wires: 'PACK.+ M.M1, PACK.- MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'a converter that feeds nothing',
      mcu: 'uno-r3',
      supplies: pack(12),
      parts: { U: 'buck' },
      wires: 'U.IN+ PACK.+, U.IN- PACK.-, PACK.- MCU.GND',
      says: ['caution: U.OUT+ has no wire: what U makes of its supply feeds nothing.'],
    },
    {
      title: 'a socket on the 5 V of a board',
      mcu: 'uno-r3',
      parts: { P: 'dc-socket' },
      wires: 'P.- MCU.5V, P.+ MCU.VIN',
      says: ['fault: P.- lies on 5 V (MCU.5V) instead of ground.'],
      fix: 'Move P.- to MCU.GND',
      changes: ['wire P.- to MCU.5V removed', 'wire P.- to MCU.GND added'],
    },
    ...(['VIN+', 'VIN-'] as const).map((side) => ({
      title: `a current sensor whose ${side} lies at a pack of another ground`,
      parts: { S: 'ina219' },
      supplies: { PACK: { volts: 12 } },
      wires: `S.VCC MCU.3V3, S.GND MCU.GND, S.${side} PACK.+`,
      says: ['fault: S measures against its own ground what PACK.+ gives, but PACK.- and MCU.GND are not joined.'],
    })),
    {
      title: 'a servo on its own supply',
      supplies: pack(5),
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, S.SIG MCU.D4',
      says: ['fault: S and MCU exchange signals, but PACK.- and MCU.GND are not joined.'],
      fix: 'Join PACK.- to MCU.GND',
      changes: ['wire PACK.- to MCU.GND added'],
    },
    {
      title: 'a return that does not lead back to its source',
      supplies: pack(5),
      parts: { H: 'hall-a3144' },
      wires: 'H.VCC PACK.+, H.GND MCU.GND, H.OUT MCU.D4',
      says: ['fault: H is fed from PACK.+ and returns through another ground, but PACK.- and MCU.GND are not joined.'],
      fix: 'Join PACK.- to MCU.GND',
      changes: ['wire PACK.- to MCU.GND added'],
    },
    {
      title: 'a switched load whose supply floats',
      supplies: pack(5),
      parts: { Q: 'nmos', F: 'fan' },
      wires: 'F.+ PACK.+, F.- Q.D, Q.S MCU.GND, Q.G MCU.D4',
      says: ['fault: F is fed from PACK.+ and returns through another ground, but PACK.- and MCU.GND are not joined.'],
    },
    {
      title: 'minus of the pack is forgotten',
      mcu: 'uno-r3',
      supplies: pack(12),
      parts: { Q: 'npn', B: ohms(1000), R: ohms(680), L: 'led' },
      wires: 'R.1 PACK.+, R.2 L.A, L.K Q.C, Q.E MCU.GND, Q.B B.1, B.2 MCU.D4',
      says: ['fault: What PACK.+ gives never comes back: PACK.- is open.'],
      fix: 'Join PACK.- to MCU.GND',
      changes: ['wire PACK.- to MCU.GND added'],
    },
    {
      title: 'minus of the pack goes elsewhere',
      mcu: 'uno-r3',
      supplies: pack(12),
      parts: { Q: 'npn', B: ohms(1000), R: ohms(680), L: 'led', C: { part: 'battery-box', options: { volts: 6 } } },
      wires: 'R.1 PACK.+, R.2 L.A, L.K Q.C, Q.E MCU.GND, Q.B B.1, B.2 MCU.D4, PACK.- C.-',
      says: [
        'fault: What PACK.+ gives never comes back: PACK.- is joined with nothing that it feeds.',
        'caution: C.+ has no wire: C feeds nothing, although C.- is joined.',
      ],
    },
    {
      title: 'a battery whose minus is forgotten',
      mcu: 'uno-r3',
      parts: { C: { part: 'battery-box', options: { volts: 9 } } },
      wires: 'C.+ MCU.VIN',
      says: ['fault: What C.+ gives never comes back: C.- is open.'],
    },
    {
      title: 'plus of the pack is forgotten',
      mcu: 'uno-r3',
      supplies: pack(9),
      wires: 'PACK.- MCU.GND',
      says: ['caution: PACK.+ has no wire: PACK feeds nothing, although PACK.- is joined.'],
    },
    {
      title: 'two boards joined by a signal',
      boards: { A: { board: 'uno-r3' }, B: { board: 'uno-r3' } },
      wires: 'A.D4 B.D4',
      says: ['fault: A and B are joined by a signal, but A.GND and B.GND are not joined.'],
      fix: 'Join A.GND to B.GND',
      changes: ['wire A.GND to B.GND added'],
    },
  ],
})
