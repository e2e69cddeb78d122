import type { Wiring } from '../wiring/model.ts'
import { Grid } from './grid.ts'
import type { Placer } from './placing.ts'
import { laidOn, roughlyLaid } from './refine.ts'
import { unitsOf } from './units.ts'
import { type Layout, priceOf, Workbench } from './workbench.ts'

/** A layout without what can be made anew from the plan: plain data that crosses from one thread to another. */
export type LayoutData = Omit<Layout, 'grid' | 'units'>

const layouts = new WeakMap<Wiring, Layout>()

/** Takes over a layout that another thread has worked out for the same plan. */
export function adoptLayout(wiring: Wiring, data: LayoutData): Layout {
  const layout = { ...data, grid: new Grid(wiring.plan.bench?.breadboards ?? {}), units: unitsOf(wiring) }
  layouts.set(wiring, layout)
  return layout
}

export function layoutData(layout: Layout): LayoutData {
  const { grid: _, units: __, ...data } = layout
  return data
}

/** The layout of a plan with a bench; undefined for one without breadboards. The same wiring gives the same object. */
export function layoutOf(wiring: Wiring): Layout | undefined {
  const { bench } = wiring.plan
  if (!bench || Object.keys(bench.breadboards).length === 0) return undefined
  let layout = layouts.get(wiring)
  if (!layout) {
    layout = layOut(wiring)
    layouts.set(wiring, layout)
  }
  return layout
}

/** Lays a bench out, with another placer only once. The same wiring always gives the same layout. */
export function layOut(wiring: Wiring, placer?: Placer, watch?: (share: number) => void): Layout {
  const bench = new Workbench(wiring)
  if (placer) return bench.complete(placer)
  const layout = laidOn(bench, wiring, watch)
  // Where a module over the rails takes the room that something needs, it lies beside.
  if (!bench.plugs || layout.stray.length + layout.blocked.length === 0) return layout
  const other = laidOn(new Workbench(wiring, false), wiring, watch)
  return priceOf(other) < priceOf(layout) ? other : layout
}

/** A layout on which everything has its place and every wire its holes, not yet a good one; the best try where there is none. */
export const roughLayout = (wiring: Wiring): Layout => roughlyLaid(new Workbench(wiring), wiring)
