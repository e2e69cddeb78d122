import { it } from 'vitest'
import { catalog, planOf } from './testing/plans.ts'
import { programCases } from './testing/programs.ts'
import { gather } from './firmware/guess/gather.ts'
import { guessParts } from './firmware/guess/guessParts.ts'
import { boardOf } from './catalog/variant.ts'
it('x', () => {
  for (const one of programCases) {
    const plan = planOf(one.plan)
    const board = boardOf(catalog, Object.values(plan.boards)[0]!)!
    const files = one.files.map(([name, text]) => ({ name, text }))
    const t0 = performance.now()
    const g = gather(catalog, board, files, one.language)
    const guesses = guessParts(g, files)
    console.log('=== ' + one.title + ' ' + (performance.now() - t0).toFixed(0) + 'ms\n' + guesses.map((x) => `${x.sure ? '!' : '?'} ${x.title} [${x.pins.map((p) => p.pin.id)}] ${x.addresses.map((a) => a.toString(16))} bus=${x.bus?.object ?? ''} :: ${x.candidates.map((c) => `${c.part.id} ${c.score.toFixed(1)} {${[...c.fit.pins].map(([s, p]) => `${s}=${p.pin.id}`)}}`).slice(0,3).join(' | ')}`).join('\n'))
  }
})
