import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { counted } from '../core/base/counted.ts'
import { projectFolder } from '../node/builtCatalog.ts'
import { usualData } from '../node/usualData.ts'
import { columns, InputError, print, printJson, type Status, theCatalog, writeOut } from './input.ts'

interface Data {
  readonly data?: string
}
const folderOf = ({ data }: Data): string => data ?? usualData()
const migrations = (): string => join(projectFolder(), 'server/migrations')

/** Does something with a data folder; what stands in its way is said in one sentence. */
async function said(work: (modules: typeof import('../server/backup.ts')) => Promise<Status>): Promise<Status> {
  const modules = await import('../server/backup.ts')
  try {
    return await work(modules)
  } catch (error) {
    if (error instanceof modules.BackupError) throw new InputError([error.message])
    throw error
  }
}

/** Everything of a data folder into one file. */
export async function backupCommand(options: Data & { readonly out: string }): Promise<Status> {
  return said(async ({ backup }) => {
    const { plans, entries, files } = await backup(folderOf(options), options.out)
    print(
      `${options.out}: ${counted(plans, 'plan')}, ${counted(entries + files, 'own entry', 'own entries')}, read back and sound`,
    )
    return 0
  })
}

/** A backup into a data folder. */
export async function restoreCommand(file: string, options: Data & { readonly over?: boolean }): Promise<Status> {
  return said(async ({ restore }) => {
    const { plans, made, aside } = restore(file, folderOf(options), { over: options.over ?? false })
    print(`${folderOf(options)}: ${counted(plans, 'plan')} as of ${made}`)
    if (aside !== undefined) print(`what was there before lies in ${aside}`)
    return 0
  })
}

/** What is wrong with the installation or a data folder: 0 sound, 1 something is wrong and said, 2 it cannot be looked at. */
export async function doctorCommand(
  options: Data & { readonly mend?: boolean; readonly json?: boolean },
): Promise<Status> {
  const { examineData, examineInstallation } = await import('../server/doctor.ts')
  return said(async () => {
    const all = [
      ...examineInstallation(projectFolder()),
      ...examineData(folderOf(options), theCatalog(), migrations(), options.mend ?? false),
    ]
    if (options.json) printJson(all)
    else print(columns(all.map(({ what, is, said }) => [is === 'sound' ? 'ok' : is, what, said])))
    return all.some(({ is }) => is === 'wrong') ? 1 : 0
  })
}

/** Everything of a data folder as one archive of plain text. */
export async function exportCommand(
  options: Data & { readonly all?: boolean; readonly out: string; readonly history?: boolean },
): Promise<Status> {
  if (!options.all)
    throw new InputError(['export: expected --all; a single plan is saved as a file in the application'])
  const { entryFiles, sizeOf } = await import('../server/backup.ts')
  const { archiveOf, proveArchive } = await import('../server/archive.ts')
  const { PlanStore } = await import('../server/store.ts')
  const data = folderOf(options)
  if (!existsSync(data) || sizeOf(join(data, 'markpost.db')) === 0)
    throw new InputError([`${data} holds no plans; expected the data folder of a server`])
  const store = new PlanStore(data, migrations())
  try {
    const files = entryFiles(data).map(({ path, bytes }) => ({ path: path.replace('catalog/', 'entries/'), bytes }))
    const archive = archiveOf(store, { history: options.history ?? false, entryFiles: files })
    writeOut(options.out, Buffer.from(archive))
    // What lies on the disk is what counts.
    const { plans, entries } = proveArchive(readFileSync(options.out))
    print(`${options.out}: ${counted(plans, 'plan')}, ${counted(entries, 'own entry', 'own entries')}`)
    return 0
  } finally {
    store.close()
  }
}
