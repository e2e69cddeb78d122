import { describe, expect, it } from 'vitest'
import { fixesFor } from '../advice/fixes.ts'
import { describeDifference } from '../plan/difference.ts'
import { applyEdits } from '../plan/edit.ts'
import type { Rule, Severity } from '../rules/finding.ts'
import { allRules, check } from '../rules/index.ts'
import { resolve } from '../wiring/resolve.ts'
import { catalog, type Short, wiringOf } from './plans.ts'
import { expectBound, expectSound } from './soundFinding.ts'
import { mistaken } from './wiringSuite.ts'

interface Invalid extends Short {
  readonly title: string
  /** Exact messages, severity before the colon: `fault: …`. */
  readonly says: readonly string[]
  /** Title of a fix of the first finding, and what it changes, in words. */
  readonly fix?: string
  readonly changes?: readonly string[]
}

/** A figure that decides: just on one side of it the rule says something, just on the other it does not. */
interface Edge {
  /** Id of the message, and its severity where the figure decides between two. */
  readonly says: string
  readonly severity?: Severity
  /** The arithmetic behind the limit. */
  readonly because: string
  readonly at: (figure: number) => Short
  readonly said: number
  readonly quiet: number
}

/** Sides of a limit lie at most so far apart, as a share of it. */
const CLOSE = 0.1

/** Runs a rule over tables of valid and invalid wirings; every fix offered must mend and bring no new fault. */
export function testRule(
  rule: Rule,
  tables: {
    readonly valid: readonly (Short & { title: string })[]
    readonly invalid: readonly Invalid[]
    /** Both sides of every limit that the rule names. */
    readonly edges?: readonly Edge[]
  },
): void {
  describe(rule.meta.id, () => {
    it('has tables that could fail', () => {
      const titles = [...tables.valid, ...tables.invalid].map(({ title }) => title)
      expect(titles.filter((title, at) => titles.indexOf(title) < at)).toEqual([])
      for (const { title, says } of tables.invalid) expect(says, title).not.toEqual([])
      const shown = new Set(tables.invalid.flatMap(({ says }) => says.map((one) => one.split(':')[0])))
      expect(rule.meta.severities.filter((severity) => !shown.has(severity))).toEqual([])
      // A rule that says it can mend shows a mend, and one that cannot shows none.
      expect(tables.invalid.some(({ fix }) => fix !== undefined)).toBe(rule.meta.fixable)
    })
    it('shows every message that it has', () => {
      const edges = (tables.edges ?? []).map(({ at, said }) => at(said))
      const cases = [...tables.invalid, ...edges, ...mistaken.filter((one) => one.rule === rule.meta.id)]
      const said = new Set(cases.flatMap((short) => check(wiringOf(short), [rule]).map((one) => one.says)))
      expect(Object.keys(rule.meta.messages).filter((id) => !said.has(id))).toEqual([])
    })
    it('has both sides of every limit', () => {
      const shown = new Set((tables.edges ?? []).map(({ says }) => says))
      expect([...shown].sort()).toEqual([...(rule.meta.limits ?? [])].sort())
      for (const { said, quiet, because } of tables.edges ?? [])
        expect(Math.abs(said - quiet) / Math.max(said, quiet), because).toBeLessThan(CLOSE)
    })
    it.each(tables.edges ?? [])('$says: $because', ({ says, severity, at, said, quiet }) => {
      const isSaid = (figure: number): boolean =>
        check(wiringOf(at(figure)), [rule]).some(
          (one) => one.says === says && (severity === undefined || one.severity === severity),
        )
      expect([isSaid(said), isSaid(quiet)]).toEqual([true, false])
    })
    describe('valid', () => {
      it.each(tables.valid)('$title', (short) => {
        expect(check(wiringOf(short), [rule]).map((one) => one.message)).toEqual([])
      })
    })
    describe('invalid', () => {
      it.each(tables.invalid)('$title', ({ says, fix, changes, ...short }) => {
        const wiring = wiringOf(short)
        const findings = check(wiring, [rule])
        expect(findings.map((one) => `${one.severity}: ${one.message}`)).toEqual(says)
        for (const finding of findings) {
          expect(rule.meta.severities).toContain(finding.severity)
          expect(finding.why).not.toBe('')
          expectSound(wiring, finding)
        }
        const all = check(wiring, allRules)
        const first = all.find((one) => one.rule === rule.meta.id)
        const fixes = first ? fixesFor(wiring, first, all) : []
        for (const one of fixes) expectBound(wiring, one)
        if (fix === undefined) return
        const chosen = fixes.find((one) => one.title === fix)
        expect(fixes.map((one) => one.title)).toContain(fix)
        if (!chosen) return
        const plan = applyEdits(wiring.plan, chosen.edits)
        expect(describeDifference(wiring.plan, plan, catalog)).toEqual(changes)
        const left = check(resolve(plan, catalog), [rule]).map((one) => one.message)
        expect(left).not.toContain(findings[0]?.message)
      })
    })
  })
}
