import type { Driver } from '../../catalog/driverSchema.ts'
import { type Ptr, Struct, type Value } from '../cpp/values.ts'
import type { OneWireLine } from '../stage/oneWire.ts'

/** What a program says of a part when it makes the object that drives it. */
export interface Said {
  readonly className: string
  address: number | undefined
  /** Numbers of pins, by the part's own pin. */
  pins: Record<string, number>
}

export interface StandIn {
  readonly driver: Driver
  readonly said: Said
  /** Undefined until it was looked for, null where none fits. */
  ref: string | null | undefined
  columns: number
  rows: number
  cells: string[]
  x: number
  y: number
  light: boolean
  colours: number[]
  /** Of what is shown, from 0 to 1. */
  brightness: number
  count: number
  line: OneWireLine | undefined
  /** When the part had something new, and what each sense was then. */
  renewedAt: number
  values: Map<string, number | undefined>
}

export function said(
  to: Said,
  pins: Readonly<Record<string, string>> | undefined,
  address: number | undefined,
  args: readonly Value[],
): void {
  // Below nought no pin is meant; an object that stands there is the bus.
  for (const [index, pin] of Object.entries(pins ?? {}))
    if (Number(args[Number(index)]) >= 0) to.pins[pin] = Number(args[Number(index)])
  if (address !== undefined && args[address] !== undefined) to.address = Number(args[address])
}

/** Puts letters where the cursor stands; text that runs over the end of a row is not seen, as on the part. */
export function print(self: StandIn, text: string): void {
  for (const letter of text) {
    if (letter === '\r') continue
    if (letter === '\n') {
      self.x = 0
      self.y += self.driver.prints === 'rows' ? 1 : 8
      continue
    }
    const row = self.driver.prints === 'rows' ? self.y : Math.floor(self.y / 8)
    const column = self.driver.prints === 'rows' ? self.x : Math.floor(self.x / 6)
    if (self.driver.prints !== 'rows' || (column < self.columns && row < self.rows))
      self.cells[row] =
        (self.cells[row] ?? '').padEnd(column).slice(0, column) + letter + (self.cells[row] ?? '').slice(column + 1)
    self.x += self.driver.prints === 'rows' ? 1 : 6
  }
}

export function wordsOf({ driver, cells, light, colours }: StandIn): string {
  if (driver.prints) {
    const rows = Array.from(cells, (row) => (row ?? '').trimEnd())
    const text = rows.join(' ⏎ ').replace(/( ⏎ )+$/, '')
    return `${light ? '' : 'dark: '}"${text}"`
  }
  if (driver.calls.show) {
    const lit = colours.flatMap((colour, at) =>
      colour === 0 ? [] : [`${at} #${colour.toString(16).padStart(6, '0')}`],
    )
    return lit.length === 0 ? 'off' : `${lit.length} lit: ${lit.slice(0, 4).join(', ')}${lit.length > 4 ? ' …' : ''}`
  }
  return ''
}

/** Share of its most current that a strip takes: its colours, each of three lights from 0 to 255; none of other parts. */
export function shareOf({ colours, brightness }: StandIn): number | undefined {
  if (colours.length === 0) return undefined
  const all = colours.reduce((sum, one) => sum + ((one >>> 16) & 255) + ((one >>> 8) & 255) + (one & 255), 0)
  return (all / (3 * 255 * colours.length)) * brightness
}

/** So many values from a place on, with those inside them: what goes through the air is no object of this program. */
export function plainOf({ base, at }: Ptr, length: number): unknown[] {
  const plain = (value: Value): unknown =>
    value instanceof Struct ? value.f.map(plain) : Array.isArray(value) ? value.map(plain) : value
  const first = base[at]
  const isMany = typeof first === 'number' && base.length > 1
  return (isMany ? base.slice(at, at + length) : [first]).map(plain)
}

/** Puts such values at a place, as far as it reaches. */
export function putPlain({ base, at }: Ptr, values: readonly unknown[]): void {
  const put = (to: Value[], index: number, value: unknown): void => {
    const now = to[index]
    const inside = now instanceof Struct ? now.f : Array.isArray(now) ? now : undefined
    if (!inside) to[index] = value
    else for (const [item, one] of (value as unknown[]).entries()) put(inside, item, one)
  }
  values.forEach((value, index) => {
    if (at + index < base.length) put(base, at + index, value)
  })
}
