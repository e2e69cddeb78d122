import { pagesNamed, SheetError, type SheetFormat, writeSheet } from '../core/sheets/output.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { InputError, print, readPlanFile, type Status, theCatalog } from './input.ts'

export interface SheetArguments {
  readonly as: SheetFormat
  readonly only?: string
  readonly paper?: 'A4' | 'Letter'
}

export function sheetCommand(file: string, { as, only, paper }: SheetArguments): Status {
  const { plan } = readPlanFile(file)
  try {
    const pages = only === undefined ? undefined : pagesNamed(only)
    print(writeSheet(resolve(plan, theCatalog()), as, { only: pages, paper }))
  } catch (error) {
    if (error instanceof SheetError) throw new InputError([`--only ${error.message}`])
    throw error
  }
  return 0
}
