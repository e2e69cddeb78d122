import { writeCsv } from '../core/sheets/csv.ts'
import { writeHtml } from '../core/sheets/html.ts'
import { writeMarkdown } from '../core/sheets/markdown.ts'
import { makeSheet } from '../core/sheets/sheet.ts'
import { writeSvg } from '../core/sheets/svg.ts'
import { type TableName, tableNames } from '../core/sheets/tables.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { InputError, print, printJson, readPlanFile, type Status, theCatalog } from './input.ts'

export const sheetFormats = ['csv', 'markdown', 'html', 'svg', 'json'] as const
type Format = (typeof sheetFormats)[number]

export function sheetCommand(file: string, options: { as: Format; only?: TableName }): Status {
  const { plan } = readPlanFile(file)
  const wiring = resolve(plan, theCatalog())
  const sheet = makeSheet(wiring)
  const only = options.only === undefined ? undefined : [options.only]
  switch (options.as) {
    case 'csv':
      print(writeCsv(sheet, options.only))
      break
    case 'markdown':
      print(writeMarkdown(sheet, only ?? tableNames))
      break
    case 'html':
      print(writeHtml(sheet, { only, accepted: plan.accepted }))
      break
    case 'svg':
      if (options.only !== undefined && options.only !== 'pins')
        throw new InputError([`--only ${options.only}: an SVG holds the pin chart; expected --only pins or nothing`])
      print(writeSvg(wiring))
      break
    case 'json':
      printJson(options.only === undefined ? sheet : { [options.only]: sheet[options.only] })
  }
  return 0
}
