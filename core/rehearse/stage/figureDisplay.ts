import type { Behaviour } from '../../catalog/behaviourSchema.ts'
import type { PartInstance } from '../../wiring/model.ts'
import type { Chip, ChipStage } from './chips.ts'

/** Segments a to g of the figures 0 to 9 and A to F, from the lowest bit. */
const FORMS = [0x3f, 0x06, 0x5b, 0x4f, 0x66, 0x6d, 0x7d, 0x07, 0x7f, 0x6f, 0x77, 0x7c, 0x39, 0x5e, 0x79, 0x71]
const POINT = 0x80
const FIGURES = 4
/** Ohms with which it says that it has taken a byte: enough against the pull-up of its line, too much against an output. */
const TAKEN_OHMS = 1000

/** What segments look like; those of no figure are a star. */
function figureOf(segments: number): string {
  const form = segments & ~POINT
  const at = FORMS.indexOf(form)
  if (at >= 0) return at.toString(16).toUpperCase()
  return form === 0 ? ' ' : form === 0x40 ? '-' : '*'
}

/**
 * Four figures on a clock and a data line: it begins when the data falls and ends when it rises while the clock is high;
 * between, bits are taken at each rise, the lowest first, and it answers each byte. Source: data sheet of the TM1637,
 * interface and instructions.
 */
export function figures(
  part: PartInstance,
  { clock, data }: Extract<Behaviour, { as: 'figures' }>,
  { wiring, live, shows }: ChipStage,
): Chip['follow'] {
  const segments = new Array<number>(6).fill(0)
  let isOn = false
  let isFixed = false
  let was = { clock: true, data: true }
  let bits: boolean[] | undefined
  let bytes: number[] = []
  const end = `${part.ref}.${data}`
  const net = wiring.netOf(end).index
  let answers = false
  const answer = (now: boolean): boolean => {
    if (now === answers) return false
    answers = now
    live.drive(end, net, now ? { volts: 0, ohms: TAKEN_OHMS } : undefined)
    return true
  }
  const tell = (): void => {
    const all = segments.slice(0, FIGURES).map(figureOf)
    if ((segments[1] ?? 0) & POINT) all.splice(2, 0, ':')
    shows(part.ref, isOn ? `"${all.join('').trimEnd()}"` : 'off')
  }
  const obey = ([command = 0, ...rest]: readonly number[]): void => {
    if (command >= 0xc0) {
      const from = command & 0x07
      for (const [index, value] of rest.entries()) {
        const at = isFixed ? from : from + index
        if (at < segments.length) segments[at] = value
      }
    } else if (command >= 0x80) isOn = (command & 0x08) !== 0
    else if (command >= 0x40) isFixed = (command & 0x04) !== 0
    tell()
  }
  return (seen) => {
    // The data line sees its own answer: it counts again when the clock has fallen.
    const now = { clock: seen.get(clock) !== false, data: seen.get(data) !== false }
    const before = was
    was = now
    if (before.clock && now.clock && !answers && before.data !== now.data) {
      if (now.data && bits) obey(bytes)
      bits = now.data ? undefined : []
      bytes = []
      return false
    }
    if (!bits) return false
    if (!before.clock && now.clock) {
      if (bits.length < 8) bits.push(now.data)
      else bits = [...bits, false]
      return false
    }
    if (!before.clock || now.clock) return false
    if (bits.length === 8 && !answers) {
      bytes.push(bits.reduce((sum, bit, at) => sum + (bit ? 2 ** at : 0), 0))
      return answer(true)
    }
    if (bits.length > 8) {
      bits = []
      return answer(false)
    }
    return false
  }
}
