import { catalog } from '../../testing/plans.ts'
import { compileCpp } from '../cpp/compile.ts'
import { Halt, Machine } from '../cpp/machine.ts'
import { lineAt } from '../cpp/tokens.ts'
import { libraryFiles } from '../platform/libraryFiles.ts'
import type { Platform } from '../platform/platform.ts'
import { sketchLibrary } from '../platform/sketch.ts'
import { type LevelChange, Recorder, stubPlatform } from './recorder.ts'

/**
 * Lines that a sketch writes on the stand-in of a platform, until a moment in microseconds.
 * @throws Error for a sketch of which something is not understood.
 */
export function rehearsedLines(
  text: string,
  {
    until,
    changes = [],
    platform = stubPlatform,
  }: { until: number; changes?: readonly LevelChange[]; platform?: Platform },
): string[] {
  const machine = new Machine()
  const recorder = new Recorder(machine, changes, until)
  const files = [{ name: 'sketch.ino', text }]
  const libraries = libraryFiles(catalog.drivers, files)
  machine.ownBelow = lineAt(files.length, 0)
  const program = compileCpp([...files, ...libraries], sketchLibrary(platform, recorder, machine), machine)
  const [refusal] = program.refusals
  if (refusal) throw new Error(`not understood: ${refusal.message}`)
  const [unknown] = program.unknown
  if (unknown) throw new Error(`not described: ${unknown[0]}`)
  try {
    program.begin()
    program.entry('setup')?.()
    const loop = program.entry('loop')!
    for (;;) {
      recorder.wait(1, 0)
      loop()
    }
  } catch (error) {
    if (!(error instanceof Halt) || error.message !== 'the end') throw error
  }
  recorder.flush()
  return recorder.lines
}
