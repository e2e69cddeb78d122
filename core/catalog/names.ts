/**
 * Names of pins. People mix printed labels, GPIO numbers, port names and positions; all of them are accepted,
 * without regard to case, and a name that fits two pins is never guessed at.
 */

/** Brings a name to the form in which names are compared: capitals, no blanks, no marks such as `~`. */
export function normaliseName(name: string): string {
  return name.toUpperCase().replace(/[\s~]/g, '')
}

/** Names to ids, for the pins of one board or part. */
export interface NameIndex {
  /** Ids of all pins that a name fits, in catalogue order; an exact id comes alone. */
  readonly find: (name: string) => readonly string[]
  /** Ids whose nearest name differs from the given one by a slip or two, best first. */
  readonly suggest: (name: string) => readonly string[]
}

export function buildNameIndex(
  pins: readonly { readonly id: string; readonly names: readonly string[]; readonly net: string }[],
): NameIndex {
  const ids = new Map<string, string>()
  const byName = new Map<string, string[]>()
  const netOf = new Map(pins.map((pin) => [pin.id, pin.net]))
  for (const pin of pins) {
    ids.set(normaliseName(pin.id), pin.id)
    for (const name of new Set([pin.id, ...pin.names].map(normaliseName))) {
      const fits = byName.get(name)
      if (fits) fits.push(pin.id)
      else byName.set(name, [pin.id])
    }
  }
  const find = (name: string): readonly string[] => {
    const key = normaliseName(name)
    const exact = ids.get(key)
    if (exact !== undefined) return [exact]
    const fits = byName.get(key) ?? []
    const oneNet = new Set(fits.map((id) => netOf.get(id))).size === 1
    return oneNet ? fits.slice(0, 1) : fits
  }
  const suggest = (name: string): readonly string[] => {
    const key = normaliseName(name)
    return [...byName]
      .map(([known, fits]) => ({ id: fits[0] as string, distance: editDistance(key, known) }))
      .filter(({ distance }) => distance <= Math.max(1, Math.floor(key.length / 3)))
      .sort((a, b) => a.distance - b.distance)
      .map(({ id }) => id)
      .filter((id, index, all) => all.indexOf(id) === index)
      .slice(0, 3)
  }
  return { find, suggest }
}

/** Bare numbers that stand for a name such as `GPIO4`, `D4` or `BCM4`. */
export function bareNumber(name: string): string | undefined {
  return /^(?:GPIO|D|BCM)(\d+)$/.exec(normaliseName(name))?.[1]
}

/** Longest text, in letters, of which the distance to others is worked out. */
const LONGEST_NAME = 120

/**
 * Fewest insertions, deletions, replacements and swaps of neighbours that turn one text into the other; something above
 * `most` where it is more than that.
 */
export function editDistance(a: string, b: string, most = Number.POSITIVE_INFINITY): number {
  // The work grows with the product of the lengths, and no name is that long: nothing is near such a text.
  if (a.length > LONGEST_NAME || b.length > LONGEST_NAME) return Math.max(a.length, b.length)
  let before: number[] = []
  let previous = Array.from({ length: b.length + 1 }, (_, index) => index)
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i]
    for (let j = 1; j <= b.length; j += 1) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1
      let least = Math.min(row[j - 1]! + 1, previous[j]! + 1, previous[j - 1]! + same)
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) least = Math.min(least, before[j - 2]! + 1)
      row.push(least)
    }
    // A swap reaches back two rows: when both are past the bound, so is everything after them.
    if (Math.min(...row) > most && Math.min(...previous) > most) return most + 1
    before = previous
    previous = row
  }
  return previous[b.length]!
}
