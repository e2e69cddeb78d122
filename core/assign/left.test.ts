import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { assign } from './assign.ts'

const battery = (volts: number) => ({ part: 'battery-box', options: { volts } })
const left = (short: Short) => assign(resolve(planOf(short), catalog)).left

describe('what stays in the box is said', () => {
  it.each<[string, Short, string]>([
    [
      'more than a board takes',
      { mcu: 'pico', parts: { B: battery(9), O: 'ssd1306' } },
      '9.0 V suits no pin of MCU, which takes 1.8 V to 5.5 V at VSYS and 4.75 V to 5.25 V at VBUS; a converter between would help',
    ],
    ['less than a board takes', { mcu: 'uno-r3', parts: { B: battery(3), O: 'ssd1306' } }, 'suits no pin of MCU'],
    [
      'a second one where the first feeds the board',
      { mcu: 'uno-r3', parts: { A: battery(9), B: battery(9), O: 'ssd1306' } },
      'MCU is fed already, and nothing else asks for 9.0 V',
    ],
    [
      'a converter before which nothing gives enough',
      { mcu: 'pico', parts: { B: 'buck', O: 'ssd1306' } },
      'nothing feeds it, or nobody takes what it gives',
    ],
  ])('%s', (_, short, why) => {
    const [one, ...more] = left(short)
    expect(one?.ref).toBe('B')
    expect(one?.why).toContain(why)
    expect(more).toEqual([])
  })

  it('and nothing of what feeds the board, or has a wire already', () => {
    expect(left({ mcu: 'uno-r3', parts: { B: battery(9), O: 'ssd1306' } })).toEqual([])
    expect(left({ mcu: 'pico', parts: { B: battery(9), O: 'ssd1306' }, wires: 'B.- MCU.GND' })).toEqual([])
  })
})
