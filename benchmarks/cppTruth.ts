import { randomSketch } from '../core/rehearse/testing/randomSketch.ts'
import { rehearsedLines } from '../core/rehearse/testing/rehearsedLines.ts'
import { compiledByCpp } from './compiledByCpp.ts'

/**
 * Sketches of C++ made by chance, rehearsed and compiled by the compiler of this machine: how many write the same, and
 * the first line at which one does not. `npm run bench:cpp -- [HOW MANY] [FIRST SEED]`. Many are compiled at once, each
 * in a namespace of its own, and run in a process of its own.
 */
const [many = 10_000, first = 1] = process.argv.slice(2).map(Number)
const AT_ONCE = 100
const UNTIL = 200_000

function rehearsed(text: string): string {
  try {
    return rehearsedLines(text, { until: UNTIL }).join('\n')
  } catch (error) {
    return `ends: ${error}`
  }
}

let same = 0
for (let from = first; from < first + many; from += AT_ONCE) {
  const seeds = Array.from({ length: Math.min(AT_ONCE, first + many - from) }, (_, at) => from + at)
  const texts = seeds.map(randomSketch)
  const truths = compiledByCpp(texts, { until: UNTIL })
  seeds.forEach((seed, at) => {
    const ours = rehearsed(texts[at]!).trimEnd().split('\n')
    const truth = truths[at]!.split('\n')
    const wrong = Array.from({ length: Math.max(ours.length, truth.length) }).findIndex(
      (_, index) => ours[index] !== truth[index],
    )
    if (wrong < 0) same += 1
    else console.log(`seed ${seed}, line ${wrong + 1}\n  rehearsed ${ours[wrong]}\n  g++       ${truth[wrong]}`)
  })
}
console.log(`${same} of ${many} sketches write the same`)
