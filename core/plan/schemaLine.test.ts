import { describe, expect, it } from 'vitest'
import { catalog, planOf } from '../testing/plans.ts'
import { applyEdit } from './edit.ts'
import { readPlan } from './readPlan.ts'
import { withSchemaLine } from './schemaLine.ts'
import { writePlan } from './writePlan.ts'

const LINE = '# yaml-language-server: $schema=./plan.schema.json\n'

describe('the line that names the schema', () => {
  const plan = planOf({ parts: { LAMP: 'led' } })
  const text = writePlan(plan, catalog)
  const named = withSchemaLine(text, './plan.schema.json')

  it('stands first, once, and takes the place of another', () => {
    expect(named).toBe(`${LINE}${text}`)
    expect(withSchemaLine(named, 'http://localhost:4680/plan.schema.json')).toBe(
      `# yaml-language-server: $schema=http://localhost:4680/plan.schema.json\n${text}`,
    )
    expect(withSchemaLine(named.replace('\n', '\r\n'), './plan.schema.json')).toBe(named)
  })
  it('leaves other comments, and plans in JSON, alone', () => {
    expect(withSchemaLine(`# of the shed\n${text}`, './plan.schema.json')).toBe(`${LINE}# of the shed\n${text}`)
    expect(withSchemaLine(' {"markpost": 1}', './plan.schema.json')).toBe(' {"markpost": 1}')
  })
  it('says nothing of the plan, and stays when it is saved', () => {
    const read = readPlan(named, 'p', catalog)
    expect(read.ok && read.value).toEqual(plan)
    const changed = applyEdit(plan, { do: 'set-title', title: 'Other' })
    expect(writePlan(changed, catalog, named)).toBe(named.replace(`title: ${plan.title}`, 'title: Other'))
  })
})
