import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { wireTable } from './wireTable.ts'

const plan = planOf({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 5 } },
  parts: { S: 'hc-sr04', LAMP: 'led', R1: { part: 'resistor', options: { ohms: 330 } }, RGB: 'rgb-led' },
  wires: 'LAMP.A R1.1, LAMP.K MCU.GND',
})
const enter = (text: string, from = plan) => {
  const { edits, lines } = wireTable(resolve(from, catalog), text)
  const after = applyEdits(from, edits)
  return {
    wires: after.wires
      .filter((wire) => !from.wires.some((one) => JSON.stringify(one) === JSON.stringify(wire)))
      .map(([a, b, facts]) => [a, b, ...(facts?.colour ? [facts.colour] : [])].join(' ')),
    lines: lines.map(({ line, is, from: end, to, message }) => [line, is, end, to, message].filter(Boolean).join(' ')),
    after,
  }
}

describe('a table of from, to, colour', () => {
  it.each<[string, string]>([
    ['commas', 'from,to,colour\nS.TRIG,MCU.D10,yellow\nMCU.9,S.ECHO,Green\nS.VCC,5V,red\n'],
    [
      'semicolons and other columns',
      'no;from;to;length;color\n1;S.TRIG;D10;10 cm;Yellow\n2;9;S ECHO;;GREEN\n\n3;S VCC;MCU 5V;;red',
    ],
    [
      'tabs and quotes',
      '"From"\t"To"\t"Wire colour"\r\n"S.TRIG"\t"10"\t"yellow"\r\nS.ECHO\tD9\tgreen\r\n"S.VCC"\t5V\tred\r\n',
    ],
    [
      'a title above',
      'Wires of the shed\nfrom,to,colour,note\nS.TRIG,10,yellow,"to the eye, upper"\nS.ECHO,9,green,\nS.VCC,5V,red,',
    ],
    ['no heading', 'S,TRIG,10,yellow\nS.ECHO,9,green\n5V S.VCC red'],
  ])('with %s', (_, text) => {
    const { wires, lines } = enter(text)
    expect(wires).toEqual(['S.TRIG MCU.D10 yellow', 'S.ECHO MCU.D9 green', 'S.VCC MCU.5V red'])
    expect(lines.map((line) => line.replace(/^\d+ /, ''))).toEqual([
      'new S.TRIG MCU.D10',
      'new S.ECHO MCU.D9',
      'new S.VCC MCU.5V',
    ])
  })

  it('says line by line what is there already, and what was not understood', () => {
    const text =
      'from,to,colour\nLAMP.K,GND,\nLAMP.K,GND,black\nHORN.+,3,red\nS.TRIG,99,blue\nS.ECHO,,\nS.GND,GND,beige'
    const { wires, lines } = enter(text)
    expect(lines).toEqual([
      '2 there LAMP.K MCU.GND',
      '3 new LAMP.K MCU.GND',
      '4 wrong this plan has nothing called "HORN"',
      expect.stringContaining('5 wrong "MCU.99": uno-r3 has no pin "99"'),
      '6 wrong expected a pin and where it goes, such as "TRIG 10"',
      '7 new S.GND MCU.GND "beige" is no colour that wires are sold in; it was left out',
    ])
    expect(wires).toEqual(['LAMP.K MCU.GND black', 'S.GND MCU.GND'])
  })

  it('joins boards and supplies, and leaves a colour that is a pin a pin', () => {
    expect(enter('from,to,colour\nMCU.Vin,PACK.+,red\nPACK.-,MCU.GND,black').wires).toEqual([
      'MCU.VIN PACK.+ red',
      'PACK.- MCU.GND black',
    ])
    expect(enter('from,to\nMCU.Vin,MCU.VIN').lines).toEqual(['2 wrong the wire joins MCU.Vin with itself'])
    expect(enter('RGB RED 9\n10 RGB GREEN\nRGB BLUE 11 blue').wires).toEqual([
      'RGB.R MCU.D9',
      'RGB.G MCU.D10',
      'RGB.B MCU.D11 blue',
    ])
  })

  it('colours the wire of a part in series where it leaves for the board, and a locked wire not at all', () => {
    expect(enter('from,to,colour\nLAMP.A,D5,orange').wires).toEqual(['R1.2 MCU.D5 orange'])
    const locked = planOf({ mcu: 'uno-r3', parts: { S: 'hc-sr04' }, wires: '!S.TRIG MCU.D9' })
    expect(enter('from,to,colour\nS.TRIG,D10,red', locked).lines).toEqual([
      '2 wrong the wire of S.TRIG is locked; unlock it first',
    ])
  })

  it('once taken in says nothing new', () => {
    const text = 'from,to,colour\nS.TRIG,D10,yellow\nLAMP.A,D5,orange\nS.GND,GND,gray\nS.VCC,5V,violet'
    const { after, wires } = enter(text)
    expect(wires.map((wire) => wire.split(' ')[2])).toEqual(['yellow', 'orange', 'grey', 'purple'])
    expect(enter(text, after).wires).toEqual([])
  })
})
