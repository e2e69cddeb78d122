import { readdirSync, readFileSync } from 'node:fs'
import Ajv from 'ajv/dist/2020.js'
import { describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { schemaTexts } from './schemaTexts.ts'

const texts = schemaTexts()
const ajv = new Ajv({ strict: false, allErrors: true, validateFormats: false })
const files = { plan: 'demo', board: 'catalog/boards', part: 'catalog/parts', driver: 'catalog/drivers' } as const

describe.each(['plan', 'board', 'part', 'driver'] as const)('the published schema of a %s', (name) => {
  const holds = ajv.compile(JSON.parse(texts[name]))
  const all = readdirSync(files[name])
    .filter((file) => file.endsWith('.yaml'))
    .map((file) => [file, parse(readFileSync(`${files[name]}/${file}`, 'utf8')) as Record<string, unknown>] as const)

  it('is the one that the program reads by', () => {
    expect(readFileSync(`docs/${name}.schema.json`, 'utf8'), 'run npm run schema').toBe(texts[name])
  })
  it('lets everything in that ships, and nothing with a field too many', () => {
    expect(all.length).toBeGreaterThan(3)
    for (const [file, value] of all) {
      holds(value)
      expect(holds.errors, file).toBe(null)
      expect(holds({ ...value, colourOfTheSky: 'blue' }), file).toBe(false)
    }
  })
})
