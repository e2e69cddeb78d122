import { testRule } from '../testing/rules.ts'
import { supplyJoined } from './supplyJoined.ts'

testRule(supplyJoined, {
  valid: [
    {
      title: 'an output of a bridge on ground that is held there for good',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 6, limitMilliamps: 3000 } },
      parts: { U: 'drv8833', M: 'dc-motor' },
      wires:
        'U.VCC PACK.+, U.GND MCU.GND, PACK.- MCU.GND, U.IN1 MCU.5, U.IN2 MCU.GND, U.EEP MCU.7, M.M1 U.AOUT1, M.M2 U.AOUT2, U.AOUT2 MCU.GND',
    },
    {
      title: 'a switch that leads a battery to a board, beside the other supply of that board',
      mcu: 'pico',
      parts: { S: 'slide-switch', B: { part: 'battery-box', options: { volts: 4.5 } } },
      wires: 'S.1 B.+, S.C MCU.VSYS, B.- MCU.GND',
    },
    {
      title: 'a switch that chooses between two supplies',
      mcu: 'uno-r3',
      parts: { L: 'lamp', S: 'slide-switch' },
      supplies: { A: { volts: 12 }, B: { volts: 10 } },
      wires: 'S.1 A.+, S.3 B.+, S.C L.+, L.- A.-, A.- MCU.GND, B.- MCU.GND',
    },
    {
      title: 'a pack that feeds the board through its pin',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      wires: 'PACK.+ MCU.VIN, PACK.- MCU.GND',
    },
    {
      title: 'two boards with their grounds joined',
      boards: { A: { board: 'uno-r3' }, B: { board: 'pico' } },
      wires: 'A.GND B.GND',
    },
    {
      title: 'a switch between the rail of the board and a sensor',
      mcu: 'uno-r3',
      parts: { W: 'slide-switch', S: 'tmp36' },
      wires: 'W.1 MCU.5V, W.C S.VS, S.GND MCU.GND, S.OUT MCU.A0',
    },
    {
      title: 'a switch that changes a sensor between the rail and ground',
      mcu: 'uno-r3',
      parts: { W: 'slide-switch', S: 'tmp36' },
      wires: 'W.1 MCU.5V, W.3 MCU.GND, W.C S.VS, S.GND MCU.GND, S.OUT MCU.A0',
    },
    {
      title: 'a relay that brakes its pump',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { K: 'relay-1', P: 'pump' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.7, PACK.+ K.NO, PACK.- K.NC, K.COM P.+, P.- PACK.-',
    },
    {
      title: 'a button that is read',
      mcu: 'uno-r3',
      parts: { B: 'button', R: { part: 'resistor', options: { ohms: 10_000 } } },
      wires: 'B.1 MCU.5V, B.2 MCU.D4, R.1 MCU.D4, R.2 MCU.GND',
    },
  ],
  invalid: [
    {
      title: 'a change-over switch with a supply at its pole and another at a throw',
      mcu: 'uno-r3',
      supplies: { A: { volts: 12 }, B: { volts: 9 } },
      parts: { S: 'slide-switch' },
      wires: 'S.C A.+, S.1 B.+, A.- MCU.GND, B.- MCU.GND',
      says: ['fault: S joins A.+ (12.0 V) with B.+ (9.0 V) when it closes.'],
    },
    {
      title: 'an output of a bridge on ground',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 6, limitMilliamps: 3000 } },
      parts: { U: 'drv8833', M: 'dc-motor' },
      wires:
        'U.VCC PACK.+, U.GND MCU.GND, PACK.- MCU.GND, U.IN1 MCU.5, U.IN2 MCU.6, U.EEP MCU.7, M.M1 U.AOUT1, M.M2 U.AOUT2, U.AOUT2 MCU.GND',
      says: ['fault: U.AOUT2 is joined with ground: when it switches to PACK.+ it shorts that supply.'],
      fix: 'Take out the wire U.AOUT2 to MCU.GND',
      changes: ['wire U.AOUT2 to MCU.GND removed'],
    },
    {
      title: 'a button between two supplies of a board',
      mcu: 'uno-r3',
      parts: { B: 'button' },
      wires: 'B.1 MCU.5V, B.2 MCU.3V3',
      says: ['fault: B joins MCU.5V (5.0 V) with MCU.3V3 (3.3 V) when it closes.'],
      fix: 'Take out the wire B.2 to MCU.3V3',
      changes: ['wire B.2 to MCU.3V3 removed'],
    },
    {
      title: 'a button between a pack and ground',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { B: 'button' },
      wires: 'B.1 PACK.+, B.2 PACK.-',
      says: ['fault: B joins PACK.+ (5.0 V) with ground when it closes.'],
    },
    {
      title: 'a relay with its common at ground and a throw at the supply',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { K: 'relay-1', P: 'pump' },
      wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.7, PACK.+ K.NO, PACK.- K.COM, PACK.+ P.+, P.- K.COM',
      says: ['fault: K joins PACK.+ (5.0 V) with ground when it closes.'],
    },
    {
      title: 'a pack on the 3.3 V rail',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      mcu: 'uno-r3',
      wires: 'PACK.+ MCU.3V3, PACK.- MCU.GND',
      says: ['fault: PACK.+ (5.0 V) and MCU.3V3 (3.3 V) are joined with each other.'],
      fix: 'Take out the wire PACK.+ to MCU.3V3',
      changes: ['wire PACK.+ to MCU.3V3 removed'],
    },
    {
      title: 'regulators of two boards joined',
      boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
      wires: 'A.GND B.GND, A.3V3 B.3V3',
      says: ['fault: A.3V3 (3.3 V) and B.3V3 (3.3 V) are joined with each other.'],
      fix: 'Take out the wire A.3V3 to B.3V3',
      changes: ['wire A.3V3 to B.3V3 removed'],
    },
    {
      title: 'a pack the wrong way round',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      wires: 'PACK.+ MCU.GND',
      says: ['fault: PACK.+ (5.0 V) is joined with ground.'],
      fix: 'Take out the wire PACK.+ to MCU.GND',
      changes: ['wire PACK.+ to MCU.GND removed'],
    },
  ],
})
