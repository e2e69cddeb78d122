import { expect, it } from 'vitest'
import { catalog } from '../testing/plans.ts'
import { boardRows } from './boardRows.ts'

const row = (board: string, title: string): string | undefined =>
  boardRows(catalog.boards.get(board)!).find((one) => one.title === title)?.text

it('has the same rows for every board, each with something in it', () => {
  const [first, ...others] = [...catalog.boards.values()].map(boardRows)
  for (const rows of others) expect(rows.map(({ title }) => title)).toEqual(first!.map(({ title }) => title))
  for (const rows of [first!, ...others]) expect(rows.filter(({ text }) => text === '')).toEqual([])
})

it('says what a board gives, through which of its rails, and what it takes itself', () => {
  expect(row('pico', 'Gives')).toBe(
    '3.3 V at 3V3, up to 300 mA, through VSYS; 5.0 V at VBUS, up to 400 mA; 5.0 V at VSYS, up to 400 mA, through VBUS',
  )
  expect(row('uno-r3', 'Takes itself')).toBe('50 mA as a rule')
  expect(row('esp32-devkit-30', 'Takes itself')).toBe('80 mA as a rule, up to 100 mA at peaks, up to 500 mA with WiFi')
})
