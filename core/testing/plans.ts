import { readCatalogFolder } from '../../node/catalogFolder.ts'
import { formatProblem } from '../base/problem.ts'
import type { Catalog } from '../catalog/catalog.ts'
import type { Bench, Plan, PlanPart, PlanWire } from '../plan/planSchema.ts'
import { bindPlan } from '../plan/readPlan.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'

const read = readCatalogFolder(new URL('../../catalog', import.meta.url).pathname)
if (!read.ok) throw new Error(read.problems.map(formatProblem).join('\n'))
export const catalog: Catalog = read.value

/** A plan in short form: `wires` is `A.X B.Y, C.Z D.W`; a `!` before a wire locks it. */
export interface Short {
  readonly mcu?: string
  readonly uses?: string[]
  readonly boards?: Plan['boards']
  readonly supplies?: Plan['supplies']
  readonly parts?: Record<string, string | PlanPart>
  readonly wires?: string
  readonly unused?: string[]
  readonly accepted?: Plan['accepted']
  readonly bench?: Partial<Bench>
  readonly own?: Plan['own']
}

export function planOf(short: Short): Plan {
  const boards = short.boards ?? {
    MCU: { board: short.mcu ?? 'esp32-devkit-30', ...(short.uses ? { uses: short.uses } : {}) },
  }
  const parts = Object.fromEntries(
    Object.entries(short.parts ?? {}).map(([ref, part]) => [ref, typeof part === 'string' ? { part } : part]),
  )
  const wires = (short.wires ?? '')
    .split(',')
    .map((wire) => wire.trim())
    .filter((wire) => wire !== '')
    .map((wire): PlanWire => {
      const locked = wire.startsWith('!')
      const [from, to] = wire.replace('!', '').trim().split(/\s+/) as [string, string]
      return locked ? [from, to, { locked }] : [from, to]
    })
  const plan: Plan = {
    markpost: 1,
    title: 'test',
    boards,
    supplies: short.supplies ?? {},
    parts,
    wires,
    unused: short.unused ?? [],
    accepted: short.accepted ?? [],
    ...(short.own ? { own: short.own } : {}),
    ...(short.bench ? { bench: { breadboards: {}, places: {}, done: [], ...short.bench } } : {}),
  }
  const bound = bindPlan(plan, catalog)
  if (!bound.ok) throw new Error(bound.problems.map(formatProblem).join('\n'))
  return bound.value
}

export const wiringOf = (short: Short): Wiring => resolve(planOf(short), catalog)

/** Supply and ground wires for 3.3 V parts, in the short form. */
export const fed = (...refs: string[]): string => refs.map((ref) => `${ref}.VCC MCU.3V3, ${ref}.GND MCU.GND`).join(', ')
