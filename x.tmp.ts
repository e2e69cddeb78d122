import fc from 'fast-check'
import { assignChoosing } from './core/assign/choosing.ts'
import { applyEdits } from './core/plan/edit.ts'
import { catalog } from './core/testing/plans.ts'
import { randomKit } from './core/testing/randomPlans.ts'
import { resolve } from './core/wiring/resolve.ts'
import { Diagnoser } from './core/bringup/diagnose.ts'
import { faultsOf, builtWith } from './core/bringup/faults.ts'
import { outcomesOf } from './core/bringup/predict.ts'
const plans = fc.sample(randomKit, { numRuns: Number(process.argv[2] ?? 20), seed: 7 })
let first = 0, three = 0, n = 0; const counts: number[] = []; const by: any = {}; let pick = 12345
const t0 = Date.now()
for (const kit of plans) {
  const w = resolve(applyEdits(kit, assignChoosing(resolve(kit, catalog)).edits), catalog)
  const faults = faultsOf(w); if (faults.length < 5) continue
  const d = new Diagnoser(w)
  const kinds = [...new Set(faults.map((f) => f.kind))]
  for (let round = 0; round < 3; round++) {
    pick = (pick * 1103515245 + 12345) % 2147483648
    const kind = kinds[pick % kinds.length]!
    const own = faults.filter((f) => f.kind === kind)
    const fault = own[(pick >> 8) % own.length]!
    const shows = outcomesOf(w, resolve(builtWith(w.plan, [fault])!, catalog))
    if (d.measurements.every((m) => shows.get(m.id) === d.planned(m.id))) { by[kind] ??= [0,0,0,0]; by[kind][3]++; continue }
    n++
    const obs: any[] = []
    let r = d.diagnose(obs)
    while (r.next && obs.length < 20 && (r.causes[0]?.odds ?? 0) < 0.9) { obs.push({ step: r.next.id, saw: { outcome: shows.get(r.next.id)! } }); r = d.diagnose(obs) }
    const at = r.causes.findIndex((c) => c.faults.length === 1 && c.faults[0]!.id === fault.id)
    by[kind] ??= [0,0,0,0]; by[kind][0]++
    if (at === 0) { first++; by[kind][1]++ } ; if (at >= 0 && at < 3) { three++; by[kind][2]++ } else if (process.argv[3]) console.log(fault.id, '| got', r.causes.slice(0,3).map((c)=>c.words+' '+c.odds.toFixed(2)).join(' / '), '| after', obs.length)
    counts.push(obs.length)
  }
}
counts.sort((a,b)=>a-b)
console.log({ n, first: first/n, three: three/n, median: counts[counts.length>>1], ms: Date.now()-t0 }, by)
