import { it } from 'vitest'
import { catalog } from '../testing/plans.ts'
import { recordOf } from '../testing/record.ts'
import { samplePlans } from '../testing/samples.ts'
import { resolve } from '../wiring/resolve.ts'
import { writeSheet } from './output.ts'

const tables = recordOf('tables.txt')
it.each(samplePlans)('the tables of $plan.title, on record', ({ plan }) => {
  tables(plan.title, writeSheet(resolve(plan, catalog), 'markdown').split('\n'))
})

const pages = recordOf('pages.txt')
it('the pages of a small sample, on record', () => {
  const [{ plan }] = samplePlans.toSorted((a, b) => a.text.length - b.text.length) as [(typeof samplePlans)[number]]
  // One element a line, so that a difference shows what changed.
  pages(plan.title, writeSheet(resolve(plan, catalog), 'html').replaceAll('><', '>\n<').split('\n'))
})
