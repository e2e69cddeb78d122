import { chromium } from '@playwright/test'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium' })
const A='http://127.0.0.1:4177'
const plan=`markpost: 1
title: Gate
boards: { MCU: { board: uno-r3 } }
parts:
  KEY: { part: button, title: Gate key }
  LAMP: { part: led }
  R1: { part: resistor, options: { ohms: 330 } }
wires:
  - [KEY.1, MCU.D0]
  - [KEY.2, MCU.GND]
comments:
  a1: { at: [KEY.1], text: "What else speaks on D0?", by: The teacher, said: 2026-11-27T17:00:00Z }
  a2: { at: [LAMP], text: "Which side of the lamp goes to ground? Look at the flat.", by: The teacher }
  a3: { text: "Well begun.", settled: true }
settings: { hints: false }
`
const p = await b.newPage({ viewport: { width: 1280, height: 800 } })
const r = await (await fetch(A+'/api/plans',{method:'POST',headers:{'content-type':'application/json'},body:JSON.stringify({text:plan})})).json()
await p.goto(A+`/plan/${r.id}/pins`); await p.waitForTimeout(1500)
await p.locator('[data-signal="LAMP.A"]').click(); await p.getByRole('button',{name:'Comment …'}).first().click(); await p.waitForTimeout(400)
await p.screenshot({path:'/tmp/a.png'})
const l=(await (await fetch(A+'/api/plans')).json()).find(x=>x.title.startsWith('Mended'));await p.goto(A+`/plan/${l.id}/pins`);await p.waitForTimeout(1500)

await p.screenshot({path:'/tmp/b.png'})
await b.close()
