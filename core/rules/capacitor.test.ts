import { testRule } from '../testing/rules.ts'
import { capacitorRule } from './capacitor.ts'

const cap = (kind: string, volts: number) => ({ part: 'capacitor', options: { farads: 1e-4, kind, volts } })
const twelve = { PACK: { volts: 12 } }
const bridge =
  'PACK.- MCU.GND, D.VCC PACK.+, D.GND PACK.-, D.EEP MCU.5V, D.IN1 MCU.5, D.IN2 MCU.6, D.AOUT1 M.M1, D.AOUT2 M.M2'
const motor = { part: 'dc-motor', options: { milliamps: 200, stall: 800 } }

testRule(capacitorRule, {
  valid: [
    {
      title: 'plus on the supply, rated well above it',
      supplies: twelve,
      parts: { C: cap('electrolytic', 25) },
      wires: 'PACK.- MCU.GND, C.1 PACK.+, C.2 PACK.-',
    },
    {
      title: 'rated just what it gets',
      supplies: twelve,
      parts: { C: cap('electrolytic', 12) },
      wires: 'PACK.- MCU.GND, C.1 PACK.+, C.2 PACK.-',
    },
    {
      title: 'a ceramic one either way round',
      supplies: twelve,
      parts: { C: cap('ceramic', 25) },
      wires: 'PACK.- MCU.GND, C.2 PACK.+, C.1 PACK.-',
    },
    {
      title: 'a large one that is said to be ceramic',
      supplies: twelve,
      parts: { C: { part: 'capacitor', options: { farads: 0.0001, kind: 'ceramic' } } },
      wires: 'PACK.- MCU.GND, C.2 PACK.+, C.1 PACK.-',
    },
    {
      title: 'plus at a pin, minus on ground',
      mcu: 'uno-r3',
      parts: { C: cap('electrolytic', 16) },
      wires: 'C.1 MCU.A0, C.2 MCU.GND',
    },
    {
      title: 'plus on the supply, minus at a pin behind a resistor',
      mcu: 'uno-r3',
      parts: { C: cap('electrolytic', 16), R: { part: 'resistor', options: { ohms: 1000 } } },
      wires: 'C.1 MCU.5V, C.2 R.1, R.2 MCU.D5',
    },
    {
      title: 'between two pins, of which either may be the higher one',
      mcu: 'uno-r3',
      parts: { C: cap('electrolytic', 16) },
      wires: 'C.1 MCU.D4, C.2 MCU.D5',
    },
    {
      title: 'the same with a button at one of them',
      mcu: 'uno-r3',
      parts: { C: cap('electrolytic', 16), B: 'button' },
      wires: 'C.1 MCU.D4, C.2 MCU.D5, B.1 MCU.D4, B.2 MCU.GND',
    },
    {
      title: 'before an amplifier, whose input lies somewhere in between',
      mcu: 'uno-r3',
      parts: { C: cap('electrolytic', 16), A: 'pam8403' },
      wires: 'C.1 A.L, C.2 MCU.D5, A.VCC MCU.5V, A.GND MCU.GND',
    },
    {
      title: 'one leg that nothing holds',
      supplies: twelve,
      parts: { C: cap('electrolytic', 10) },
      wires: 'PACK.- MCU.GND, C.1 PACK.+',
    },
    {
      title: 'a ceramic one across a motor on a bridge',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 6 } },
      parts: { D: 'drv8833', M: motor, C: cap('ceramic', 50) },
      wires: `${bridge}, C.1 M.M1, C.2 M.M2`,
    },
  ],
  invalid: [
    {
      title: 'turned, of a kind that nobody has said: from 10 µF on they are electrolytic',
      supplies: twelve,
      parts: { C: { part: 'capacitor', options: { farads: 0.0001 } } },
      wires: 'PACK.- MCU.GND, C.2 PACK.+, C.1 PACK.-',
      says: ['fault: C is the wrong way round: its minus C.2 lies 12.0 V above its plus C.1.'],
    },
    {
      title: 'turned',
      supplies: twelve,
      parts: { C: cap('electrolytic', 25) },
      wires: 'PACK.- MCU.GND, C.2 PACK.+, C.1 PACK.-',
      says: ['fault: C is the wrong way round: its minus C.2 lies 12.0 V above its plus C.1.'],
      fix: 'Swap the wires of C.1 and C.2',
      changes: [
        'wire C.2 to PACK.+ removed',
        'wire C.1 to PACK.- removed',
        'wire C.1 to PACK.+ added',
        'wire C.2 to PACK.- added',
      ],
    },
    {
      title: 'plus on ground, minus at a pin behind a resistor, and another pin held low',
      mcu: 'uno-r3',
      parts: {
        C: cap('electrolytic', 16),
        R: { part: 'resistor', options: { ohms: 1000 } },
        S: { part: 'resistor', options: { ohms: 10_000 } },
      },
      wires: 'C.1 MCU.GND, C.2 R.1, R.2 MCU.D5, S.1 MCU.D6, S.2 MCU.GND',
      says: ['fault: C is the wrong way round: its minus C.2 lies 5.0 V above its plus C.1.'],
    },
    {
      title: 'plus on ground, minus at a pin, beside another pin that a resistor holds low',
      mcu: 'uno-r3',
      parts: { C: cap('electrolytic', 16), S: { part: 'resistor', options: { ohms: 10_000 } } },
      wires: 'C.1 MCU.GND, C.2 MCU.D5, S.1 MCU.D6, S.2 MCU.GND',
      says: ['fault: C is the wrong way round: its minus C.2 lies 5.0 V above its plus C.1.'],
    },
    {
      title: 'minus on the supply, plus at a pin',
      parts: { C: cap('electrolytic', 16) },
      wires: 'C.2 MCU.3V3, C.1 MCU.27',
      says: ['fault: C is the wrong way round: its minus C.2 lies 3.3 V above its plus C.1.'],
    },
    {
      title: 'plus on ground, minus at the post that resets',
      parts: { C: cap('electrolytic', 16) },
      wires: 'C.2 MCU.EN, C.1 MCU.GND',
      says: ['fault: C is the wrong way round: its minus C.2 lies 3.3 V above its plus C.1.'],
    },
    {
      title: 'plus where a loudspeaker leads to ground',
      mcu: 'uno-r3',
      parts: { C: cap('electrolytic', 16), S: 'speaker', R: { part: 'resistor', options: { ohms: 100 } } },
      wires: 'MCU.D9 R.1, R.2 C.2, C.1 S.+, S.- MCU.GND',
      says: ['fault: C is the wrong way round: its minus C.2 lies 5.0 V above its plus C.1.'],
    },
    {
      title: 'rated less than it gets',
      supplies: twelve,
      parts: { C: cap('electrolytic', 10) },
      wires: 'PACK.- MCU.GND, C.1 PACK.+, C.2 PACK.-',
      says: ['fault: C gets 12.0 V and is rated 10.0 V.'],
      fix: 'Take a 16 V one for C',
      changes: [
        'C: options farads 0.0001, kind electrolytic, volts 10 becomes farads 0.0001, kind electrolytic, volts 16',
      ],
    },
    {
      title: 'across a motor that turns both ways',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 6 } },
      parts: { D: 'drv8833', M: motor, C: cap('electrolytic', 25) },
      wires: `${bridge}, C.1 M.M1, C.2 M.M2`,
      says: ['fault: The volts of C turn round: C.2 lies up to 6.0 V above C.1.'],
    },
    {
      title: 'a regulator without the one that it needs',
      parts: { G: 'regulator-3v3' },
      wires: 'G.IN MCU.VIN, G.GND MCU.GND',
      says: ['caution: G lacks its capacitor: 10 µF at the output keeps the regulator from oscillating.'],
    },
  ],
  edges: [
    {
      says: 'turned',
      because: 'below 10 µF ceramic ones are usual',
      at: (microfarads) => ({
        supplies: { P: { volts: 5 } },
        parts: { C: { part: 'capacitor', options: { farads: microfarads * 1e-6 } } },
        wires: 'C.1 P.-, C.2 P.+, P.- MCU.GND',
      }),
      said: 10.1,
      quiet: 9.9,
    },
    {
      says: 'overRated',
      because: 'rated 16 V',
      at: (volts) => ({
        supplies: { P: { volts } },
        parts: { C: { part: 'capacitor', options: { kind: 'electrolytic', volts: 16 } } },
        wires: 'C.1 P.+, C.2 P.-, P.- MCU.GND',
      }),
      said: 16.1,
      quiet: 16,
    },
  ],
})
