import { toJsonSchema } from '@valibot/to-json-schema'
import { Board } from '../core/catalog/boardSchema.ts'
import { Driver } from '../core/catalog/driverSchema.ts'
import { Part } from '../core/catalog/partSchema.ts'
import { Plan } from '../core/plan/planSchema.ts'

const published = {
  plan: [Plan, 'Mark Post plan, format version 1'],
  board: [Board, 'Mark Post catalogue: a board'],
  part: [Part, 'Mark Post catalogue: a part'],
  driver: [Driver, 'Mark Post catalogue: classes and calls of programs'],
} as const

/**
 * Texts of the published JSON Schemas (2020-12) by name. Patterns and lengths survive; checks over several fields (known
 * parts, free references) are beyond JSON Schema.
 */
export const schemaTexts = (): Record<keyof typeof published, string> =>
  Object.fromEntries(
    Object.entries(published).map(([name, [schema, title]]) => [
      name,
      `${JSON.stringify(
        {
          $schema: 'https://json-schema.org/draft/2020-12/schema',
          ...toJsonSchema(schema, { typeMode: 'input', errorMode: 'ignore', target: 'draft-2020-12' }),
          title,
        },
        null,
        2,
      )}\n`,
    ]),
  ) as Record<keyof typeof published, string>
