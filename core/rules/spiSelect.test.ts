import { fed } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { spiSelect } from './spiSelect.ts'

const lines = (ref: string): string => `${ref}.SCK MCU.D18, ${ref}.MOSI MCU.D23`

testRule(spiSelect, {
  valid: [
    {
      title: 'a select line each',
      parts: { A: 'sx1276', P: 'epaper-2in9' },
      wires: `${lines('A')}, ${lines('P')}, A.NSS MCU.D4, P.CS MCU.D16`,
    },
    {
      title: 'a select line still open',
      parts: { A: 'sx1276', P: 'epaper-2in9' },
      wires: `${lines('A')}, ${lines('P')}, A.NSS MCU.D4`,
    },
    { title: 'tied low, alone on its bus', parts: { P: 'epaper-2in9' }, wires: `${lines('P')}, P.CS MCU.GND` },
    {
      title: 'a select line on an expander',
      parts: { X: 'mcp23017', P: 'epaper-2in9' },
      wires: `${lines('P')}, P.CS X.GPA0`,
    },
  ],
  invalid: [
    {
      title: 'one select for two',
      parts: { A: 'sx1276', P: 'epaper-2in9' },
      wires: `${fed('A', 'P')}, ${lines('A')}, ${lines('P')}, A.NSS MCU.D16, P.CS MCU.D16`,
      says: ['fault: A.NSS and P.CS share the chip select MCU.GPIO16.'],
      fix: 'Move P.CS to MCU.GPIO32',
      changes: ['wire P.CS to MCU.GPIO16 removed', 'wire P.CS to MCU.GPIO32 added'],
    },
    {
      title: 'tied low on a shared bus',
      parts: { A: 'sx1276', P: 'epaper-2in9' },
      wires: `${fed('A', 'P')}, ${lines('A')}, ${lines('P')}, A.NSS MCU.D16, P.CS MCU.GND`,
      says: ['fault: P.CS is tied low: P has no chip select of its own.'],
      fix: 'Free P.CS for a select line',
      changes: ['wire P.CS to MCU.GND removed'],
    },
    {
      title: 'tied low, alone, where its edges count',
      parts: { A: 'sx1276' },
      wires: `${fed('A')}, ${lines('A')}, A.MISO MCU.D19, A.NSS MCU.GND`,
      says: ['fault: A.NSS is tied low: A never learns where a message begins and ends.'],
      fix: 'Free A.NSS for a select line',
      changes: ['wire A.NSS to MCU.GND removed'],
    },
    {
      title: 'left open on purpose',
      parts: { A: 'sx1276' },
      wires: `${fed('A')}, ${lines('A')}`,
      unused: ['A.NSS'],
      says: ['fault: A.NSS is left open: A has no chip select of its own.'],
      fix: 'Take A.NSS into use',
      changes: ['A.NSS is no longer left open on purpose'],
    },
  ],
})
