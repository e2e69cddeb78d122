import type { Status } from './input.ts'
import { run, sayError } from './run.ts'

export const main = (args: readonly string[]): Promise<Status> => run(args)

/** The process around a command line: what ends it, and what it does when nobody reads any more. */

for (const event of ['uncaughtException', 'unhandledRejection'] as const)
  process.on(event, (error) => {
    sayError(error)
    process.exit(2)
  })

process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  // A reader such as `head` may close early; that is no failure of ours.
  if (error.code === 'EPIPE') process.exit(0)
  process.stderr.write(`the output cannot be written (${error.code ?? error.message})\n`)
  process.exit(2)
})
