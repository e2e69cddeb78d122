import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, expect } from 'vitest'

const folder = join(import.meta.dirname, 'record')
/** `npm run record` writes the files anew. */
const isWriting = process.env.RECORD === 'anew'

/**
 * What the program says, word for word, as a file in `core/testing/record`: nothing of it may change without being seen.
 * Whether it is right is for the other tests. When a change is meant, `npm run record` writes the files anew, and the
 * difference is read line by line before it is committed. A file has a heading for each case, with its lines indented
 * under it; call this where tests are declared, and what it gives back in each of them.
 */
export function recordOf(file: string): (heading: string, lines: readonly string[]) => void {
  const path = join(folder, file)
  const known = existsSync(path) ? sectionsOf(readFileSync(path, 'utf8')) : new Map<string, string>()
  const now = new Map<string, string>()
  if (isWriting)
    afterAll(() => {
      mkdirSync(folder, { recursive: true })
      writeFileSync(path, [...now].map(([heading, text]) => `${heading}\n${text}`).join(''))
    })
  return (heading, lines) => {
    const text = lines.map((line) => `  ${line}\n`).join('')
    expect(now.has(heading), `"${heading}" stands twice; expected a heading for each case`).toBe(false)
    now.set(heading, text)
    if (!isWriting) expect(text, `${heading}, in ${file}`).toBe(known.get(heading))
  }
}

function sectionsOf(text: string): Map<string, string> {
  const sections = new Map<string, string>()
  let heading = ''
  for (const line of text.split('\n').slice(0, -1)) {
    if (!line.startsWith('  ')) heading = line
    sections.set(heading, line === heading ? '' : `${sections.get(heading)}${line}\n`)
  }
  return sections
}
