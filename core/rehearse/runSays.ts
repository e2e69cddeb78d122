import type { BoardInstance } from '../wiring/model.ts'
import type { Waiting } from './expectations.ts'
import { overBudget, type Shown } from './overBudget.ts'
import { BEYOND, type Program } from './program.ts'
import type { Prepared } from './run.ts'
import type { StageBoard, Whereabouts } from './stage/board.ts'
import type { RunFindings } from './stage/findings.ts'

/** What is not understood, what the board lacks, and what is made up. */
export function sayBefore(
  program: Program,
  { board, ref }: BoardInstance,
  findings: RunFindings,
  where: Whereabouts,
): void {
  for (const { at, message } of program.refusals)
    findings.add(
      {
        kind: 'not-understood',
        message: `${message}.`,
        why: 'The program runs up to here and is ended when it comes to this line.',
        seconds: 0,
        at: [],
        ...where(at),
      },
      `refused ${at} ${message}`,
    )
  for (const { at, feature } of program.notices)
    if (feature !== undefined && !board.features.some(({ id }) => id === feature))
      findings.add({
        kind: 'not-able',
        message: `${board.title} has no ${feature}, which this library works with.`,
        why: 'On the board nothing is joined: the program waits for ever, or does not compile. Take a board that has it.',
        seconds: 0,
        at: [ref],
        ...where(at),
      })
  for (const { at, text } of program.notices)
    findings.add({ kind: 'made-up', message: text, why: BEYOND, seconds: 0, at: [], ...where(at) }, `made up ${text}`)
}

/** What is known only when the run is over. */
export function sayAfterwards(
  { wiring, language, machine, stage, program, findings, where }: Prepared,
  offset: number,
  expectations: readonly Waiting[],
  shown: ReadonlyMap<string, readonly Shown[]>,
): void {
  for (const [name, at] of program.unknown())
    findings.add({
      kind: 'unknown-class',
      message: language === 'cpp' ? `${name} is a class that is not described here.` : `${name} is not described here.`,
      why: answersWords(stage, name),
      seconds: 0,
      at: [],
      ...where(at),
    })
  stage.finish()
  stage.devices.sayNobody()
  const lineAt = (at: number): number => stage.waits.path.findLast((one) => one.at - offset <= at)?.place ?? 0
  overBudget(wiring, shown, (at) => where(lineAt(at)), findings)
  for (const { kind, at, now, message } of machine.notices)
    findings.add({
      kind: kind === 'bounds' || kind === 'null-pointer' ? 'wrong-place' : 'number-lost',
      message: `${message[0]!.toUpperCase()}${message.slice(1)}.`,
      why:
        kind === 'overflow' || kind === 'lost-value'
          ? 'On the board the number begins anew at the other end of its range. A suffix (1000UL), a wider type or another order of the calculation keeps it.'
          : 'The compiler does not warn of it, and the board does something, but not this.',
      seconds: (now - offset) / 1e6,
      at: [],
      ...where(at),
    })
  const ran = machine.now - offset
  // What the run did not live to see, its end explains.
  for (const one of expectations)
    if (!one.came && one.seconds * 1e6 <= ran)
      findings.add(
        {
          kind: 'missed',
          message: `Expected ${one.what} at ${one.seconds} s, and there was ${one.found}.`,
          why: one.why ?? 'The script of the rehearsal asks for it.',
          seconds: one.seconds,
          at: [one.end],
          ...where(0),
        },
        `missed ${one.seconds} ${one.what}`,
      )
}

/** How a person helps where a class is not described. */
export function answersWords(stage: StageBoard, name: string): string {
  const asked = [...stage.handles.keys()].filter((one) => one.startsWith(`${name}.`))
  return `What it does is not seen on the pins.${asked.length === 0 ? '' : ` What it answers is yours to set: ${asked.join(', ')}.`}`
}
