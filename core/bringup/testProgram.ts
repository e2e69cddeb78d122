import type { Language } from '../catalog/boardSchema.ts'
import { mustTakeReference } from '../circuit/analog.ts'
import { readingsOf } from '../firmware/drives.ts'
import { type Line, linesOf, pinOf } from '../firmware/lines.ts'
import { programPin } from '../firmware/pinNames.ts'
import { busPins } from '../wiring/buses.ts'
import type { BoardInstance, Wiring } from '../wiring/model.ts'
import { boardSteps, echoOf, scanId } from './signalSteps.ts'
import type { Step } from './step.ts'
import { cppProgram } from './testProgramCpp.ts'
import { microProgram, systemProgram } from './testProgramPython.ts'

/** Languages in which a test program can be had. */
export const testLanguages = ['cpp', 'micropython', 'python'] as const
export type TestLanguage = (typeof testLanguages)[number]

/** What the test program of a board can do, one entry a step. */
export interface TestStep {
  readonly id: string
  /** `out` a level, `move` a level for a moment, `servo` pulses, `in` and `adc` a reading, `echo`, `scan`. */
  readonly kind: 'out' | 'move' | 'servo' | 'in' | 'adc' | 'echo' | 'scan'
  /** Pins as the language writes them; of an echo trigger and echo, of a scan SDA and SCL. */
  readonly pins: readonly string[]
  /** Of an output the level that moves nothing; of an input the pull to switch on. */
  readonly rest: 'high' | 'low'
  readonly pull: 'up' | 'down' | undefined
  /** Number of the bus, for systems that count them. */
  readonly bus: number | undefined
  /** Bits of the converter. */
  readonly bits: number | undefined
}

/** Steps that a board's own program does, as one language writes them. */
export function testSteps(wiring: Wiring, board: BoardInstance, language: Language): TestStep[] {
  const lines = linesOf(wiring).filter((line) => line.host.board === board)
  const readings = readingsOf(wiring)
  const text = (line: Line | undefined): string | undefined => {
    const pin = line && pinOf(line.host)
    return pin && programPin(board.board, pin, language)
  }
  const step = (one: Step): TestStep | undefined => {
    const [kind = '', rest = ''] = [one.id.slice(0, one.id.indexOf(':')), one.id.slice(one.id.indexOf(':') + 1)]
    const base = { id: one.id, rest: 'low' as const, pull: undefined, bus: undefined, bits: undefined }
    if (kind === 'i2c') {
      const bus = wiring.buses.find(
        (two) =>
          two.board === board && two.controller !== undefined && scanId(wiring, board.ref, two.controller) === one.id,
      )
      const pins = bus && busPins(bus)
      const [sda, scl] = ['sda', 'scl'].map((signal) => {
        const id = [...(pins?.get(signal) ?? [])][0]
        const pin = id === undefined ? undefined : board.facts.pin(id)
        return pin && programPin(board.board, pin, language)
      })
      if (sda === undefined || scl === undefined) return undefined
      return { ...base, kind: 'scan', pins: [sda, scl], bus: Number(/\d+$/.exec(bus?.controller ?? '')?.[0] ?? 0) }
    }
    if (kind === 'echo') {
      const part = wiring.parts.find(({ ref }) => ref === rest)
      const pins = (part && echoOf(part)) ?? []
      const found = pins.map((pin) => text(lines.find((line) => line.use.end === `${rest}.${pin}`)))
      return found.every((pin) => pin !== undefined) ? { ...base, kind: 'echo', pins: found as string[] } : undefined
    }
    const line = lines.find(({ use }) => use.end === rest)
    const pin = text(line)
    if (!line || pin === undefined) return undefined
    const { facts } = line.use
    if (kind === 'adc') return { ...base, kind: 'adc', pins: [pin], bits: pinOf(line.host)?.analogUnit?.bits }
    if (kind === 'in') {
      const { pull } = readings.find(({ use }) => use === line.use) ?? {}
      return { ...base, kind: 'in', pins: [pin], pull }
    }
    if (kind !== 'out') return undefined
    if (facts.hertz !== undefined && facts.actuator) return { ...base, kind: 'servo', pins: [pin] }
    const level = facts.activeLevel === 'low' ? 'high' : 'low'
    return { ...base, kind: facts.actuator ? 'move' : 'out', pins: [pin], rest: level }
  }
  return boardSteps(wiring)
    .filter((one) => one.board === board.ref)
    .flatMap((one) => step(one) ?? [])
}

/** The test program of a board. Throws {@link RangeError} for a language in which the board has none. */
export function testProgram(wiring: Wiring, ref: string, language: TestLanguage): string {
  const board = wiring.boards.find((one) => one.ref === ref)
  const program = board?.board.programs.find((one) => one.as === language)
  if (!board || !program) throw new RangeError(`${ref} has no test program in ${language}`)
  const steps = testSteps(wiring, board, language)
  const about = [
    `Test program for board ${ref} of a plan: one step at a time, asked over the serial line at 115200 baud.`,
    'It drives nothing on its own: a pin is an input until its step is asked for, and what moves goes back to rest.',
    'Ask with lines such as {"do":"out:LAMP.A","level":"high"}, {"do":"read:GATE.1"}, {"do":"scan:i2c0"}, {"do":"all"}.',
  ]
  const hello = `{"hello":"markpost","plan":"${planId(wiring)}","steps":${steps.length}}`
  if (language === 'cpp') return cppProgram(about, hello, steps, board, mustTakeReference(wiring, board))
  return language === 'python' ? systemProgram(about, hello, steps) : microProgram(about, hello, steps, program.needs)
}

/** A short word for a plan that fits into a line: its title in plain letters. */
const planId = (wiring: Wiring): string =>
  wiring.plan.title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60)
