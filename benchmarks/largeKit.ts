import type { Catalog } from '../core/catalog/catalog.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { addParts } from '../core/plan/kit.ts'
import { emptyPlan, type Plan } from '../core/plan/planSchema.ts'

/** Forty parts on one board, or sixty: expanders carry the many buttons and lamps, two buses the rest. */
export function largeKit(catalog: Catalog, size: 40 | 60 = 40): Plan {
  const more = size === 60
  let plan: Plan = {
    ...emptyPlan(`${size} parts`),
    boards: { MCU: { board: 'esp32-devkit-30', uses: ['usb-serial'] } },
    supplies: { PACK: { volts: 5, limitMilliamps: 4000 } },
  }
  const add = (id: string, count: number): void => {
    const part = catalog.parts.get(id)
    if (!part) throw new Error(`the catalogue has no ${id}`)
    plan = applyEdits(plan, addParts(plan, catalog, part, count))
  }
  add('mcp23017', more ? 4 : 2)
  add('bme280', 2)
  add('ds3231', 1)
  add('ssd1306', 1)
  add('sx1276', 1)
  add('hx711', 1)
  add('potentiometer', 2)
  add('servo-sg90', 2)
  add('hall-a3144', 1)
  add('nmos', 1)
  add('fan', 1)
  add('led', more ? 16 : 6)
  add('button', more ? 20 : 13)
  if (more) {
    add('tca9548a', 1)
    add('pca9685', 1)
    add('ads1115', 1)
    add('74hc595', 1)
  }
  return plan
}
