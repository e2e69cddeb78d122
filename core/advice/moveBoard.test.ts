import { expect, it } from 'vitest'
import { assignChoosing } from '../assign/choosing.ts'
import { applyEdits } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { check } from '../rules/index.ts'
import { kits } from '../testing/kits.ts'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { moveBoard } from './moveBoard.ts'

const placed = (short: Short): Plan => {
  const plan = planOf(short)
  return applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits)
}

const onPico = kits.filter(({ mcu }) => mcu === 'pico')
it.each(onPico.flatMap((kit) => ['pico-w', 'pico-2'].map((board) => [kit.title, board, kit] as const)))(
  '%s: no wire moves to %s, whose pins have the same names',
  (_, board, kit) => {
    const { replug } = moveBoard(placed(kit), catalog, 'MCU', board)
    expect([replug.move, replug.come, replug.go]).toEqual([[], [], []])
  },
)

it('keeps what has its name on the new board, and moves the rest', () => {
  const plan = placed({ mcu: 'uno-r3', parts: { B: 'button', K: 'potentiometer', S: 'servo-sg90' } })
  const { replug, unplaced } = moveBoard(plan, catalog, 'MCU', 'nano-v3')
  expect(unplaced).toEqual([])
  expect(replug.move).toEqual([])
})

it('lets go of a wire that brings a fault on the new board', () => {
  // A1 is there as well, and does not bear the 5 V of the echo.
  const plan = planOf({
    mcu: 'uno-r3',
    parts: { E: 'hc-sr04' },
    wires: 'E.VCC MCU.5V, E.GND MCU.GND, E.TRIG MCU.A0, E.ECHO MCU.A1',
  })
  const moved = applyEdits(plan, moveBoard(plan, catalog, 'MCU', 'nrf52840-feather').edits)
  expect(check(resolve(moved, catalog)).filter(({ severity }) => severity === 'fault')).toEqual([])
})

it('finds a pin again for an optional signal that had one', () => {
  const plan = planOf({
    mcu: 'uno-r3',
    parts: { M: 'mpu6050' },
    wires: 'M.VCC MCU.5V, M.GND MCU.GND, M.SDA MCU.A4, M.SCL MCU.A5, M.INT MCU.2',
  })
  const moved = resolve(applyEdits(plan, moveBoard(plan, catalog, 'MCU', 'pico').edits), catalog)
  expect(moved.signal('M.INT')?.hosts).toHaveLength(1)
})
