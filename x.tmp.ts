import { readFileSync } from 'node:fs'
import { catalog } from './core/testing/plans.ts'
import { samplePlans } from './core/testing/samples.ts'
import { resolve } from './core/wiring/resolve.ts'
import { writeConstants } from './core/firmware/constants.ts'
import { languagesOf } from './core/firmware/pinNames.ts'
import { asksOf } from './core/firmware/asks.ts'
for (const [name, plan] of Object.entries(samplePlans as any).slice(0,9) as any) {
  const w = resolve(plan.plan ?? plan, catalog)
  for (const b of w.boards) { console.log('#####', name, b.ref); console.log(writeConstants(w, b.ref, languagesOf(b.board)[0]!)); for (const a of asksOf(w,b)) { console.log('==',a.ref,a.title); for (const r of a.rows) console.log('   ',r.what,'|',r.give) } }
}
