import { layOut } from '../core/breadboard/layout.ts'
import { applyEdits } from '../core/plan/edit.ts'
import { assign } from '../core/assign/assign.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { catalog } from '../core/testing/plans.ts'
import { makeSheet } from '../core/sheets/sheet.ts'
const kit={"markpost":1,"title":"random","boards":{"MCU":{"board":"mega-2560-r3"}},"supplies":{},"parts":{"DRIVERD":{"part":"drv8833"},"REED":{"part":"reed-switch"},"AMPS":{"part":"current-acs712"},"BUFFER":{"part":"74ahct125"}},"wires":[],"unused":[],"accepted":[]} as any
const plan = {...applyEdits(kit, assign(resolve(kit,catalog)).edits), bench: {"breadboards":{"BB1":{"kind":"mini"},"BB2":{"kind":"full"}},"places":{},"spareRows":2,"done":[]}} as any
const w = resolve(plan, catalog)
const l = layOut(w)
console.log(plan.wires.map((x: any) => x.join(' ')).join('\n'))
const s = makeSheet(w, l)
for (const r of s.wiring) console.log(r.step, r.from, r.to.ref, r.to.pin, r.to.hole, r.net)
for (const r of s.legs) console.log(r.ref, r.pin, r.hole)
console.log(l.blocked, l.stray)
if (0) for (const x of l.wires) console.log(w.nets[x.net]!.ends.join(' '), x)
