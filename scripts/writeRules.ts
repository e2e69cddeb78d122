import { writeFileSync } from 'node:fs'
import { ruleReference } from '../core/testing/ruleReference.ts'

writeFileSync('docs/rules.md', ruleReference())
