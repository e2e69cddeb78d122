import { writeFileSync } from 'node:fs'
import { schemaTexts } from './schemaTexts.ts'

for (const [name, text] of Object.entries(schemaTexts())) writeFileSync(`docs/${name}.schema.json`, text)
