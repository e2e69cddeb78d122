import { writeFileSync } from 'node:fs'
import { toJsonSchema } from '@valibot/to-json-schema'
import { Plan } from '../core/plan/planSchema.ts'

// Patterns and lengths survive; the plan's own checks (known parts, free references) are beyond JSON Schema.
const schema = toJsonSchema(Plan, { typeMode: 'input', errorMode: 'ignore' })
writeFileSync(
  'docs/plan.schema.json',
  `${JSON.stringify({ ...schema, title: 'Mark Post plan, format version 1' }, null, 2)}\n`,
)
