import { once } from 'node:events'
import type { Sharing } from '../server/access.ts'
import type { ServeOptions } from '../server/listen.ts'
import { InputError, print, type Status } from './input.ts'

/** Serves until the process is told to stop. */
export async function serveCommand(options: ServeOptions): Promise<Status> {
  // Loaded only here, so that the other commands start without the server's packages.
  const { listen, TlsError } = await import('../server/listen.ts')
  const { DataFolderError } = await import('../server/storeTrouble.ts')
  let running: Awaited<ReturnType<typeof listen>>
  try {
    running = await listen(options)
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException
    if (code === 'EADDRINUSE')
      throw new InputError([`port ${options.port} is taken by another program; choose one with --port`])
    if (error instanceof TlsError) throw new InputError([message])
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
  if (running.sharing) print(await sharedWords(running.sharing))
  await Promise.race([once(process, 'SIGINT'), once(process, 'SIGTERM')])
  await running.close()
  return 0
}

/** How others come: the address as a QR code, and the phrases. */
async function sharedWords({ addresses, phrases }: Sharing): Promise<string> {
  const { renderUnicodeCompact } = await import('uqr')
  const [first] = addresses
  return [
    ...(first === undefined
      ? ['This machine is on no network: nobody else reaches it.']
      : [renderUnicodeCompact(first), `Others reach it at ${addresses.join(' or ')}`]),
    `to change plans they say:  ${phrases.editor}`,
    `to look only they say:     ${phrases.viewer}`,
  ].join('\n')
}
