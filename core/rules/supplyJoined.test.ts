import { testRule } from '../testing/rules.ts'
import { supplyJoined } from './supplyJoined.ts'

testRule(supplyJoined, {
  valid: [
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
  ],
  invalid: [
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
