import { seeded } from '../core/base/random.ts'
import type { Catalog } from '../core/catalog/catalog.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { addParts } from '../core/plan/kit.ts'
import { emptyPlan, type Plan } from '../core/plan/planSchema.ts'

const singles = [
  'led',
  'button',
  'button',
  'led',
  'potentiometer',
  'servo-sg90',
  'hall-a3144',
  'hx711',
  'relay-1',
  'ldr',
]
const buses = ['bme280', 'ssd1306', 'bh1750', 'max31855', 'max7219', 'mcp3008', 'gps-uart', 'hc-12', 'ds3231', 'tmp117']

/**
 * A kit of about so many open signals. Loose kits hold few bus parts and leave room on expanders; tight ones leave
 * little; impossible ones ask for more UARTs or addresses than there can be.
 */
export function generatedKit(
  catalog: Catalog,
  board: string,
  signals: number,
  kind: 'loose' | 'tight' | 'impossible',
  seed: number,
): Plan {
  const random = seeded(seed)
  let plan: Plan = {
    ...emptyPlan(`${kind} ${signals} on ${board}`),
    boards: { MCU: { board } },
    supplies: { PACK: { volts: 5, limitMilliamps: 5000 } },
  }
  const add = (id: string): void => {
    const part = catalog.parts.get(id)
    if (!part) throw new Error(`the catalogue has no ${id}`)
    plan = applyEdits(plan, addParts(plan, catalog, part, 1))
  }
  const pins = catalog.boards.get(board)!.pins.filter((pin) => pin.kind === 'io').length
  const expanders =
    kind === 'loose'
      ? Math.ceil(Math.max(0, signals - pins / 2) / 14)
      : Math.ceil(Math.max(0, signals - pins * 0.7) / 16)
  for (let count = 0; count < Math.min(8, expanders); count += 1) add('mcp23017')
  if (kind === 'impossible') for (let count = 0; count < 6; count += 1) add('gps-uart')
  let size = expanders * 2 + (kind === 'impossible' ? 6 : 0)
  while (size < signals) {
    const list = random() < (kind === 'loose' ? 0.12 : 0.3) ? buses : singles
    const id = list[Math.floor(random() * list.length)] as string
    add(id)
    size +=
      { hx711: 2, max31855: 3, mcp3008: 4, max7219: 3, 'gps-uart': 1, 'hc-12': 2 }[id] ?? (buses.includes(id) ? 2 : 1)
  }
  return plan
}
