import type { SourceFile } from '../rehearse/cpp/preprocess.ts'
import { type RunResult, rehearse } from '../rehearse/run.ts'
import { readScript } from '../rehearse/script.ts'
import { type Short, wiringOf } from './plans.ts'

/** A lamp, a button to ground and a knob at pins 5, 2 and an analog one. */
export const bench = (mcu: string, pin: (n: number) => string, knob: string, supply: string): Short => ({
  mcu,
  parts: {
    LAMP: { part: 'led', options: { colour: 'red' } },
    R1: { part: 'resistor', options: { ohms: 470 } },
    KEY: 'button',
    KNOB: 'potentiometer',
  },
  wires: `R1.1 MCU.${pin(5)}, R1.2 LAMP.A, LAMP.K MCU.GND, KEY.1 MCU.${pin(2)}, KEY.2 MCU.GND, KNOB.3 MCU.${supply}, KNOB.1 MCU.GND, KNOB.W MCU.${knob}`,
})
const script = readScript(
  `rehearsal: 1
steps:
  - { at: 0.1003, set: { KEY: pressed, KNOB: 20 % } }
  - { at: 0.1711, set: { KEY: released } }
  - { at: 0.2, type: go }
  - { at: 0.3217, set: { KNOB: 80 %, KEY: pressed } }
  - { at: 0.33, set: { KEY: released } }
`,
  'x',
)
if (!script.ok) throw new Error('the script cannot be read')

/** A run in which somebody presses, turns and types; with each round run where asked for. */
export const once = (
  short: Short,
  text: string,
  everyRound: boolean,
  seconds = 0.45,
  name = 'a.ino',
  others: readonly SourceFile[] = [],
): RunResult => {
  const wiring = wiringOf(short)
  return rehearse(wiring, wiring.boards[0]!, [{ name, text }, ...others], {
    script: script.value,
    seconds,
    everyRound,
  })
}
const rounded = (at: number): number => Math.round(at * 100) / 100
/** All of a run that somebody can see; times to a hundredth of a microsecond. */
export const seen = ({ trace, printed, findings, loops, statements, shows, shown, rounds, longest }: RunResult) => ({
  trace: [...trace.lines].map(([end, changes]) => [
    end,
    changes.map(({ at, ...rest }) => ({ at: rounded(at), ...rest })),
  ]),
  printed: printed.map(({ at, text }) => `${rounded(at)} ${text}`),
  findings: findings.map(({ kind, line, seconds }) => `${kind} ${line} ${rounded(seconds * 1e6)}`),
  loops,
  statements,
  shows,
  shown: Object.entries(shown).map(([ref, all]) => [ref, all.map(({ at, words }) => `${rounded(at)} ${words}`)]),
  rounds: rounds.map(rounded),
  longest,
})
