import type { Board, Language } from '../catalog/boardSchema.ts'
import type { Driver } from '../catalog/driverSchema.ts'
import { languagesOf } from '../firmware/pinNames.ts'
import { languageOfFiles } from '../firmware/source/guessLanguage.ts'
import { compileCpp } from './cpp/compile.ts'
import { Halt, type Machine } from './cpp/machine.ts'
import type { SourceFile } from './cpp/preprocess.ts'
import type { Refusal } from './cpp/program.ts'
import { lineAt } from './cpp/tokens.ts'
import { libraryFiles } from './platform/libraryFiles.ts'
import type { Costs, Platform } from './platform/platform.ts'
import { sketchLibrary } from './platform/sketch.ts'
import { boardModules } from './python/boardModules.ts'
import { builtinNames } from './python/builtins.ts'
import { compilePython } from './python/compile.ts'
import { driverModules } from './python/driverModules.ts'
import { files as filesOf } from './python/files.ts'
import type { PythonBoard } from './python/native.ts'
import { plainModules } from './python/plainModules.ts'
import { strOf } from './python/text.ts'
import { PyError, PyFunction } from './python/values.ts'
import type { StageBoard } from './stage/board.ts'

/** Why something is made up. */
export const BEYOND = 'What hangs on the board is rehearsed; what lies beyond it is not in the plan.'

/**
 * The language in which a board takes a program: the one that its files tell, or, where those only tell that it is
 * Python, the Python of the board. Undefined where the board has none.
 */
export function dialectOf(board: Board, files: readonly SourceFile[]): Language | undefined {
  const told = languageOfFiles(files) ?? 'cpp'
  const own = languagesOf(board)
  if (own.includes(told)) return told
  return told === 'python' ? own.find((one) => one !== 'cpp') : undefined
}

/** A program of any language, ready to be run. */
export interface Program {
  readonly refusals: readonly Refusal[]
  /** What must be known of the texts that stand for its libraries. */
  readonly notices: readonly { readonly at: number; readonly text: string; readonly feature: string | undefined }[]
  /** What it names and nobody has described, with its place; looked at after the run. */
  readonly unknown: () => readonly (readonly [name: string, at: number])[]
  /** Everything up to the first round: all of it where a program has no rounds. */
  readonly begin: () => void
  /** One round of what the platform repeats. */
  readonly round: (() => void) | undefined
}

/**
 * @throws SourceError for a text whose syntax cannot be read.
 */
export function readProgram(
  language: Language,
  files: readonly SourceFile[],
  stage: StageBoard,
  machine: Machine,
  platform: Platform,
  drivers: readonly Driver[],
): Program {
  if (language === 'cpp') return sketch(files, stage, machine, platform, drivers)
  const own = drivers.filter(({ python: of }) => of?.in.includes(language))
  return python(files, stage, machine, platform.costs, own, language)
}

function sketch(
  files: readonly SourceFile[],
  stage: StageBoard,
  machine: Machine,
  platform: Platform,
  drivers: readonly Driver[],
): Program {
  machine.ownBelow = lineAt(files.length, 0)
  const libraries = libraryFiles(drivers, files)
  const library = sketchLibrary(platform, stage, machine)
  const program = compileCpp([...files, ...libraries], library, machine)
  library.chip?.attach(program.entry)
  const [setup, loop] = [program.entry('setup') ?? program.entry('main'), program.entry('loop')]
  return {
    refusals: program.refusals,
    notices: libraries.flatMap(({ at, notice, feature }) =>
      at === undefined || notice === undefined ? [] : [{ at, text: notice, feature }],
    ),
    unknown: () => [...program.unknown],
    begin: () => {
      library.chip?.begin()
      library.tasks?.forget()
      program.begin()
      if (!setup) throw new Halt('the program has no setup(); expected a sketch with setup() and loop()', 0)
      setup()
    },
    round: loop,
  }
}

/**
 * Microseconds by which clocks of seconds go on: `time.time` of MicroPython counts whole seconds, `time.monotonic` of
 * CircuitPython comes from a counter of milliseconds (documentation of both, module `time`).
 */
const STEPS: { readonly [language in Language]?: PythonBoard['steps'] } = {
  micropython: { time: 1e6, monotonic: 1 },
  circuitpython: { time: 1e6, monotonic: 1000 },
}

function python(
  files: readonly SourceFile[],
  stage: StageBoard,
  machine: Machine,
  costs: Costs,
  drivers: readonly Driver[],
  language: Language,
): Program {
  const write = (text: string): void => {
    const bytes = Array.from(new TextEncoder().encode(text), (byte) => String.fromCharCode(byte)).join('')
    stage.serial('Serial').write(bytes, machine.at)
    stage.wait(costs.serialByte * bytes.length, machine.at)
  }
  const disk = filesOf()
  const modules = new Map([
    ...plainModules(disk.os),
    ...driverModules(drivers, stage, machine, stage.standIns),
    ...boardModules({
      hardware: stage,
      machine,
      pinOf: (value, isSymbol) => stage.pins.meant(value, isSymbol),
      channel: (number) =>
        [...stage.pins.all].find(({ facts }) => facts.analog === `ADC${number}` || facts.analog === `A${number}`)
          ?.number,
      madeUp: (text) => stage.say('made-up', machine.at, [], text, BEYOND),
      oneWire: (pin) => stage.standIns.line(pin),
      noPin: (written) => stage.sayNoPin(written, machine.at),
      later: (microseconds, run) => stage.afterwards(microseconds, run),
      steps: STEPS[language] ?? { time: 1, monotonic: 1 },
      costs: { call: costs.digital, analog: costs.analog, bus: costs.busByte },
    }),
  ])
  // Authors put a word of theirs before the name of a module.
  for (const { text } of files)
    for (const [name] of text.matchAll(/\b[a-z]+_motor\b/g)) modules.set(name, () => modules.get('motor')!())
  const builtins = builtinNames(write).set('open', disk.open)
  builtins.set(
    'input',
    new PyFunction('input', ([prompt]) => {
      write(prompt === undefined ? '' : strOf(prompt))
      const { waiting } = stage.serial('Serial')
      while (!waiting.includes(10)) stage.wait(1000, machine.at)
      const line = waiting.splice(0, waiting.indexOf(10) + 1)
      return new TextDecoder().decode(Uint8Array.from(line.slice(0, -1)))
    }),
  )
  const program = compilePython(files, { builtins, modules }, machine)
  return {
    refusals: program.refusals,
    notices: [],
    unknown: () => program.headers.map(({ name, at }) => [name, at] as const),
    begin: () => {
      try {
        program.begin()
      } catch (error) {
        if (!(error instanceof PyError)) throw error
        const { name } = error.value.cls
        if (name === 'SystemExit') return
        const said = strOf(error.value)
        throw new Halt(`${name}${said === '' ? '' : `: ${said}`}, and nothing in the program takes it`, machine.at)
      }
    },
    round: undefined,
  }
}
