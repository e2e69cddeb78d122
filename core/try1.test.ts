import { it } from 'vitest'
import { catalog, planOf } from './testing/plans.ts'
import { programCases } from './testing/programs.ts'
import { gather } from './firmware/guess/gather.ts'
import { guessParts } from './firmware/guess/guessParts.ts'
import { guessBoards } from './firmware/guess/guessBoards.ts'
import { planFrom } from './firmware/guess/planFrom.ts'
import { compareSource } from './firmware/source/compare.ts'
import { boardOf } from './catalog/variant.ts'
import { resolve } from './wiring/resolve.ts'
it('x', () => {
  for (const one of programCases) {
    const plan = planOf(one.plan)
    const board = boardOf(catalog, Object.values(plan.boards)[0]!)!
    const files = one.files.map(([name, text]) => ({ name, text }))
    const t0 = performance.now()
    const boards = guessBoards(catalog, files, one.language)
    const t1 = performance.now()
    const g = gather(catalog, board, files, one.language)
    const guesses = guessParts(g, files)
    const made = planFrom(catalog, 'x', board, g, guesses.flatMap((guess) => guess.candidates[0] ? [{ guess, part: guess.candidates[0].part, mode: guess.candidates[0].mode, pins: guess.candidates[0].fit.pins }] : []))
    const w = resolve(made, catalog)
    const truth = resolve(plan, catalog)
    const diff = compareSource(w, w.boards[0]!, files, one.language).differences.filter((d) => d.kind !== 'same')
    const missed = truth.signals.filter((s) => s.hosts[0]?.host.board && !w.signals.some((o) => o.part.part.id === s.part.part.id && o.facts.pin === s.facts.pin && o.hosts[0]?.host.pin === s.hosts[0]!.host.pin)).map((s) => s.part.part.id + ':' + s.end + '=' + s.hosts[0]!.host.pin)
    console.log('=== ' + one.title + ` ${(t1 - t0).toFixed(0)}ms ${board.id}: ${boards.slice(0, 3).map((b) => b.board.id + ' ' + b.score.toFixed(1) + JSON.stringify(b.reasons))}` + '\n' + JSON.stringify(made.wires) + JSON.stringify(made.names) + '\nDIFF ' + diff.map((d) => JSON.stringify([d.kind, d.data, d.ends])).join('\n') + '\nMISSED ' + missed)
  }
})
