import { once } from 'node:events'
import type { ServeOptions } from '../server/listen.ts'
import { InputError, print, type Status } from './input.ts'

/** Serves until the process is told to stop. */
export async function serveCommand(options: ServeOptions): Promise<Status> {
  // Loaded only here, so that the other commands start without the server's packages.
  const { listen } = await import('../server/listen.ts')
  const { DataFolderError } = await import('../server/storeTrouble.ts')
  let running: Awaited<ReturnType<typeof listen>>
  try {
    running = await listen(options)
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException
    if (code === 'EADDRINUSE')
      throw new InputError([`port ${options.port} is taken by another program; choose one with --port`])
    if (error instanceof DataFolderError) throw new InputError([`the data folder cannot be used: ${message}`])
    if (
      code === 'EACCES' ||
      code === 'ENOTDIR' ||
      code === 'EEXIST' ||
      code === 'ENOSPC' ||
      code === 'EROFS' ||
      code?.startsWith('SQLITE')
    )
      throw new InputError([`the data folder cannot be used: ${message}`])
    throw error
  }
  print(`Mark Post is at ${running.address}`)
  await Promise.race([once(process, 'SIGINT'), once(process, 'SIGTERM')])
  await running.close()
  return 0
}
