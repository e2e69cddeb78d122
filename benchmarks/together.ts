/**
 * Wires kits of two or three parts chosen at random on some boards, with 12 V and 5 V at hand, and lists what is said of
 * them together and not of any of the parts alone: to be read through for answers that no maker would give.
 * `npm run bench:together -- COUNT SEED [BOARD]`; the same numbers give the same kits.
 */
import { seeded } from '../core/base/random.ts'
import { catalog, planOf } from '../core/testing/plans.ts'
import { answered } from '../core/testing/wiredKits.ts'

const BOARDS = [
  'uno-r3',
  'esp32-devkit-30',
  'pico',
  'esp8266-d1-mini',
  'pi-40',
  'nano-v3',
  'pro-mini-3v3',
  'stm32f103-bluepill',
  'xiao-samd21',
]
const AT_HAND = { PACK: { volts: 12, limitMilliamps: 5000 }, FIVE: { volts: 5, limitMilliamps: 3000 } }
/** For boards that bear neither of the two. */
const CELL = { CELL: { volts: 3.7, limitMilliamps: 1000 } }
/** At most so many lines of a kind are shown. */
const SHOWN = 14

const [count = '300', seed = '1', only] = process.argv.slice(2)
const random = seeded(Number(seed))
const below = (limit: number): number => Math.floor(random() * limit)
const pick = <T>(all: readonly T[]): T => all[below(all.length)] as T

/** What is said of a kit, by part and rule. */
function saidOf(mcu: string, parts: Readonly<Record<string, string>>): Map<string, string> {
  const supplies = mcu === 'pro-mini-3v3' ? { ...AT_HAND, ...CELL } : AT_HAND
  const { result, found } = answered(planOf({ mcu, parts, supplies }))
  const said = new Map<string, string>()
  for (const { rule, severity, at, message } of found) {
    if (severity === 'tip') continue
    const about = Object.keys(parts).filter((ref) => at.some((end) => end === ref || end.startsWith(`${ref}.`)))
    for (const ref of about.length > 0 ? about : ['board']) said.set(`${ref} ${rule}`, `${severity} ${message}`)
  }
  for (const { end, reasons } of result.unplaced) said.set(`${end} unplaced`, `${end}: ${reasons.join(', ')}`)
  return said
}

const alone = new Map<string, ReadonlySet<string>>()
function saidAlone(mcu: string, ref: string, part: string): ReadonlySet<string> {
  const key = `${mcu} ${ref} ${part}`
  const known = alone.get(key) ?? new Set(saidOf(mcu, { [ref]: part }).keys())
  alone.set(key, known)
  return known
}

const byRule = new Map<string, string[]>()
const ids = [...catalog.parts.keys()]
for (let kit = 0; kit < Number(count); kit += 1) {
  const mcu = only ?? pick(BOARDS)
  const parts = Object.fromEntries(['A', 'B', 'C'].slice(0, 2 + below(2)).map((ref) => [ref, pick(ids)]))
  const known = new Set(Object.entries(parts).flatMap(([ref, part]) => [...saidAlone(mcu, ref, part)]))
  const words = Object.entries(parts).map(([ref, part]) => `${ref} ${part}`)
  for (const [what, says] of saidOf(mcu, parts)) {
    if (known.has(what)) continue
    const rule = what.slice(what.indexOf(' ') + 1)
    byRule.set(rule, [...(byRule.get(rule) ?? []), `${mcu}, ${words.join(', ')}: ${says}`])
  }
}
for (const [rule, lines] of [...byRule].sort(([a], [b]) => (a < b ? -1 : 1))) {
  console.log(`\n${rule}: ${lines.length}`)
  for (const line of lines.slice(0, SHOWN)) console.log(`  ${line}`)
}
