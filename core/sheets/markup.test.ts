import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { formatProblem } from '../base/problem.ts'
import { stepsOf } from '../bringup/steps.ts'
import { planFromValue } from '../plan/readPlan.ts'
import { catalog } from '../testing/plans.ts'
import { samplePlans } from '../testing/samples.ts'
import { resolve } from '../wiring/resolve.ts'
import { Markup, markup } from './markup.ts'
import { writeSheet } from './output.ts'
import { pageNames } from './pages.ts'

describe('markup', () => {
  it('escapes text, leaves markup, and writes lists and nothing', () => {
    const bold = markup`<b>${'<i> & "\''}</b>`
    expect(bold.text).toBe('<b>&#60;i&#62; &#38; &#34;&#39;</b>')
    expect(markup`<p title="${'"'}">${[bold, ' ', 7, undefined]}</p>`.text).toBe(`<p title="&#34;">${bold.text} 7</p>`)
  })
  it('is not joined as text', () => {
    expect(() => `${new Markup('<b>') as unknown as string}`).toThrow(/used as text/)
  })
})

/** Keys under which a maker writes freely. */
const free = new Set([
  'title',
  'summary',
  'text',
  'why',
  'note',
  'check',
  'open',
  'because',
  'colour',
  'label',
  'remark',
])

interface Poisoned {
  readonly value: unknown
  readonly fields: string[]
}

/** A value with a tag of its own in each free text, which also tries to leave an attribute. */
function poisoned(value: unknown): Poisoned {
  const fields: string[] = []
  const walk = (one: unknown, key: string): unknown => {
    if (typeof one === 'string' && free.has(key)) {
      fields.push(key)
      return `${one.slice(0, 12)}<q${fields.length} a='"&`
    }
    if (Array.isArray(one)) return one.map((inner) => walk(inner, key === 'options' ? 'option' : key))
    // The values that a maker chose for a part's options are words of its entry.
    if (one === null || typeof one !== 'object' || key === 'options' || key === 'sets') return one
    return Object.fromEntries(Object.entries(one).map(([name, inner]) => [name, walk(inner, name)]))
  }
  return { value: walk(value, ''), fields }
}

/** An entry that ships, as one of the maker's own. */
function own(kind: 'boards' | 'parts', id: string): unknown {
  const raw = parse(readFileSync(`catalog/${kind}/${id}.yaml`, 'utf8')) as object
  return { ...raw, id: `own-${id}` }
}

/** Samples with entries of the maker's own in place of those that ship, and a note at each wire. */
const plans = samplePlans.map(({ plan }) => {
  const boards = [...new Set(Object.values(plan.boards).map(({ board }) => board))]
  const parts = [...new Set(Object.values(plan.parts).map(({ part }) => part))]
  const renamed = <T extends object>(entries: Record<string, T>, key: 'board' | 'part') =>
    Object.fromEntries(
      Object.entries(entries).map(([ref, one]) => [
        ref,
        { title: ref, ...one, [key]: `own-${(one as Record<string, string>)[key]}` },
      ]),
    )
  return {
    ...plan,
    boards: renamed(plan.boards, 'board'),
    parts: renamed(plan.parts, 'part'),
    wires: plan.wires.map(([from, to, facts]) => [from, to, { ...facts, note: 'here', colour: 'green' }]),
    // Something was seen at the first step, whatever it is.
    bringup: {
      done: Object.fromEntries(
        stepsOf(resolve(plan, catalog))
          .slice(0, 1)
          .map(({ id }) => [id, { at: '2026-11-27T18:40:00Z', remark: 'so it was' }]),
      ),
    },
    accepted: [{ rule: 'pin-shared', at: [Object.keys(plan.boards)[0]], because: 'it is so' }],
    own: {
      boards: Object.fromEntries(boards.map((id) => [`own-${id}`, own('boards', id)])),
      parts: Object.fromEntries(parts.map((id) => [`own-${id}`, own('parts', id)])),
    },
  }
})

describe('markup in every text of a plan and of its own entries', () => {
  it.each(plans.map((plan) => [plan.title, plan] as const))('%s: no page and no picture lets it through', (_, plan) => {
    const { value, fields } = poisoned(plan)
    const read = planFromValue(value, catalog)
    if (!read.ok) throw new Error(read.problems.map(formatProblem).join('\n'))
    const wiring = resolve(read.value, catalog)
    const html = writeSheet(wiring, 'html', { only: pageNames })
    const pictures = ['chart', 'strips', ...(plan.bench ? ['drawing' as const] : [])] as const
    const svgs = pictures.map((only) => writeSheet(wiring, 'svg', { only: [only] }))
    // The title stands in the footer of each page as a string of the style, which has no way out but this sign.
    const pages = html.replace(/<style>[^<]*<\/style>/, '')
    expect(pages.length).toBeLessThan(html.length)
    for (const text of [pages, ...svgs]) expect(text.match(/<q\d+|a='/g)).toBeNull()
    // They do stand there, escaped, so that the test says something.
    const shown = new Set([...html.matchAll(/&#60;q(\d+)/g)].map(([, number]) => fields[Number(number) - 1]))
    for (const field of ['title', 'because', 'note', 'colour']) expect([...shown], field).toContain(field)
    expect(svgs[0]).toContain('&#60;q')
  })
  it.each(plans.map((plan) => [plan.title, plan] as const))('%s: the page lets in its own style alone', (_, plan) => {
    const read = planFromValue(poisoned(plan).value, catalog)
    if (!read.ok) throw new Error(read.problems.map(formatProblem).join('\n'))
    const html = writeSheet(resolve(read.value, catalog), 'html', { only: pageNames })
    expect(html).not.toMatch(/\sstyle=|<script|\son\w+=/)
    const style = /<style>([^<]*)<\/style>/.exec(html)?.[1] ?? ''
    const hash = createHash('sha256').update(style).digest('base64')
    expect(html).toContain(`content="default-src &#39;none&#39;; style-src &#39;sha256-${hash}&#39;"`)
  })
})
