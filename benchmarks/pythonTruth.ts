import { printedRehearsed } from '../core/rehearse/testing/printedRehearsed.ts'
import { randomPython } from '../core/rehearse/testing/randomPython.ts'
import { printedByPython } from './printedByPython.ts'

/**
 * Programs of Python made by chance, rehearsed and under the Python of this machine: how many print the same, and the
 * first line at which one does not. `npm run bench:python -- [HOW MANY] [FIRST SEED]`.
 */
const [many = 10_000, first = 1] = process.argv.slice(2).map(Number)
const AT_ONCE = 1000
let same = 0
for (let from = first; from < first + many; from += AT_ONCE) {
  const seeds = Array.from({ length: Math.min(AT_ONCE, first + many - from) }, (_, at) => from + at)
  const texts = seeds.map(randomPython)
  const truths = printedByPython(texts)
  seeds.forEach((seed, at) => {
    let ours: string
    try {
      ours = printedRehearsed(texts[at]!)
    } catch (error) {
      ours = `ends: ${error}`
    }
    if (ours === truths[at]) {
      same += 1
      return
    }
    const lines = truths[at]!.split('\n')
    const wrong = ours.split('\n').findIndex((line, index) => line !== lines[index])
    console.log(`seed ${seed}\n  rehearsed ${ours.split('\n')[wrong]}\n  python3   ${lines[wrong]}`)
  })
}
console.log(`${same} of ${many} programs print the same`)
