import { expect, it } from 'vitest'
import { catalog } from '../testing/plans.ts'
import { recorded } from '../testing/record.ts'
import { samplePlans } from '../testing/samples.ts'
import { resolve } from '../wiring/resolve.ts'
import { writeSheet } from './output.ts'

/** One element a line, so that a difference shows what changed. */
const byElement = (text: string): string => text.replaceAll('><', '>\n<')

it.each(samplePlans)('the tables of $plan.title', async ({ plan }) => {
  await expect(writeSheet(resolve(plan, catalog), 'markdown')).toMatchFileSnapshot(
    recorded(`${plan.title.toLowerCase().replaceAll(' ', '-')}.md`),
  )
})

it('the pages of a small sample, and its drawings', async () => {
  const [{ plan }] = samplePlans.toSorted((a, b) => a.text.length - b.text.length) as [(typeof samplePlans)[number]]
  const wiring = resolve(plan, catalog)
  const drawings = (['chart', 'strips', 'drawing'] as const).map((only) => writeSheet(wiring, 'svg', { only: [only] }))
  await expect(byElement(writeSheet(wiring, 'html'))).toMatchFileSnapshot(recorded('pages.html'))
  await expect(byElement(drawings.join('\n'))).toMatchFileSnapshot(recorded('drawings.svg'))
})
