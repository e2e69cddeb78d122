import { basename } from 'node:path'
import type { Language } from '../core/catalog/boardSchema.ts'
import { languagesOf } from '../core/firmware/pinNames.ts'
import { compareSource } from '../core/firmware/source/compare.ts'
import {
  type Comparison,
  type Difference,
  type DifferenceKind,
  differenceKinds,
} from '../core/firmware/source/differences.ts'
import { languageOfFiles } from '../core/firmware/source/guessLanguage.ts'
import type { SourceFile } from '../core/firmware/source/ir.ts'
import type { Severity } from '../core/rules/finding.ts'
import { junitOf } from '../core/rules/junit.ts'
import { type Reported, type ReportedFinding, type ReportedRule, sarifOf } from '../core/rules/sarif.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { boardFor } from './firmware.ts'
import { InputError, print, printJson, readPlanFile, readTextFile, type Status, theCatalog, version } from './input.ts'

interface Options {
  readonly json?: boolean
  readonly as?: 'sarif' | 'junit'
  readonly board?: string
  readonly language?: Language
}

/** The files of a program and the language that it is in. */
export function readSources(
  sources: readonly string[],
  given: Language | undefined,
): { readonly files: SourceFile[]; readonly language: Language } {
  const files = sources.map((name): SourceFile => ({ name, text: readTextFile(name, 'a program in C++ or Python') }))
  const language = given ?? languageOfFiles(files)
  if (!language)
    throw new InputError([
      `${sources.join(', ')}: no program that is known; expected files ending in .ino, .cpp, .h or .py, of one language`,
    ])
  return { files, language }
}

/** Compares a program with a plan: 0 they agree, 1 they differ, 2 one of them cannot be read. */
export function compareSourceCommand(file: string, sources: readonly string[], options: Options): Status {
  const wiring = resolve(readPlanFile(file).plan, theCatalog())
  const { files, language } = readSources(sources, options.language)
  const speaks = (one: { board: Parameters<typeof languagesOf>[0] }): boolean =>
    languagesOf(one.board).includes(language)
  const board = boardFor(
    wiring,
    file,
    options.board,
    speaks,
    `has no programs in ${language}; expected --language with one of ${[...new Set(wiring.boards.flatMap(({ board: one }) => languagesOf(one)))].join(', ')}`,
  )
  const compared = compareSource(wiring, board, files, language)
  if (options.as === 'sarif') printJson(sarifOf(reportsOf(file, sources, compared), version(), reportedRules))
  else if (options.as === 'junit') print(junitOf(reportsOf(file, sources, compared), reportedRules))
  else if (options.json) printJson(compared)
  else print(asText(file, compared))
  return compared.agrees ? 0 : 1
}

const severityOf = (kind: DifferenceKind): Severity | undefined => {
  const { severity } = differenceKinds[kind]
  return severity === 'same' ? undefined : severity === 'note' ? 'tip' : severity
}

const reportedRules: readonly ReportedRule[] = (Object.keys(differenceKinds) as DifferenceKind[]).flatMap((id) => {
  const severity = severityOf(id)
  return severity ? [{ id, about: differenceKinds[id].about, severities: [severity] }] : []
})

/** Differences by the file in which they stand; what stands in none belongs to the plan. */
function reportsOf(plan: string, sources: readonly string[], { differences }: Comparison): Reported[] {
  return [...sources, plan].map(
    (file): Reported => ({
      file,
      findings: differences.flatMap((one): ReportedFinding[] => {
        const severity = severityOf(one.kind)
        if (!severity || (one.place?.file ?? plan) !== file) return []
        const place = { line: one.place?.line ?? 1, column: one.place?.column ?? 1 }
        return [{ rule: one.kind, severity, message: one.message, why: '', at: one.ends, place }]
      }),
    }),
  )
}

function asText(file: string, { differences, board, agrees }: Comparison): string {
  const line = ({ kind, message, place }: Difference): string => {
    const at = place ? `${basename(place.file)}:${place.line}:${place.column}: ` : ''
    const text = place && kind !== 'same' ? `\n      ${place.text}` : ''
    return `  ${kind.padEnd(9)} ${at}${message}${text}`
  }
  const same = differences.filter(({ kind }) => kind === 'same').length
  const rest = differences.filter(({ kind }) => kind !== 'same')
  return [
    ...rest.map(line),
    `${file}, board ${board}: ${same} the same, ${rest.length === 0 ? 'nothing else' : `${rest.length} to look at`}; ${agrees ? 'program and plan agree' : 'program and plan differ'}`,
  ].join('\n')
}
