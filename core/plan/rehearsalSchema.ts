import * as v from 'valibot'

const Word = v.union([v.string(), v.number(), v.boolean()])
export const ScriptSeconds = v.pipe(v.number(), v.minValue(0, 'expected seconds from power-on'), v.maxValue(10_000_000))

export const ScriptStep = v.strictObject({
  at: ScriptSeconds,
  /** Moves handles: `{ GATE: closed, EYE: 30 cm, KNOB: 40 % }`. */
  set: v.optional(v.record(v.string(), Word)),
  /** Types into the serial line, an end of line behind it. */
  type: v.optional(v.string()),
  /** What must be so: `{ LAMP: on, MCU.D5: high, serial: "open" }`. */
  expect: v.optional(v.record(v.string(), Word)),
  /** Seconds within which it may still become so. */
  within: v.optional(ScriptSeconds),
  /** Said where it does not come. */
  why: v.optional(v.string()),
})
export type ScriptStep = v.InferOutput<typeof ScriptStep>

/** Seconds that a board has been on when a run begins: 4294960 lets `millis()` begin again soon. */
export const ScriptFrom = v.pipe(v.number(), v.minValue(0), v.maxValue(5_000_000))

/** Most characters of one file of a program. */
export const MOST_PROGRAM = 200_000
const FileName = v.pipe(
  v.string(),
  v.maxLength(120, 'expected at most 120 characters'),
  // biome-ignore lint/suspicious/noControlCharactersInRegex: names of files hold none
  v.regex(/^[^\\\u0000-\u001f]+\.[A-Za-z]+$/, 'expected the name of a file, such as gate.ino'),
)
const ProgramText = v.pipe(
  v.string(),
  v.maxLength(MOST_PROGRAM, `expected at most ${MOST_PROGRAM.toLocaleString('en')} characters`),
)
/** Texts of a program by their file names, in the order in which they are read. */
export const ProgramFiles = v.record(FileName, ProgramText)
export type ProgramFiles = v.InferOutput<typeof ProgramFiles>

/** A rehearsal as it is kept in a plan: programs by board, and what is done and expected while they run. */
export const KeptRehearsal = <K extends v.GenericSchema<string, string>>(ref: K) =>
  v.strictObject({
    programs: v.optional(v.record(ref, ProgramFiles)),
    seconds: v.optional(ScriptSeconds),
    from: v.optional(ScriptFrom),
    steps: v.optional(v.pipe(v.array(ScriptStep), v.maxLength(2000, 'expected at most 2000 steps'))),
  })
