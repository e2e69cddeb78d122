import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import { Ptr, type Value } from '../cpp/values.ts'
import type { Hardware } from './hardware.ts'

/** Microseconds between two looks at the keys where the program says none. */
const LOOK = 10_000

interface Keys {
  readonly map: readonly number[]
  readonly rows: readonly number[]
  readonly columns: readonly number[]
  pressed: Set<number>
  last: number
  each: number
  /** Keys that were pressed and that nobody has asked for. */
  fresh: number[]
  begun: boolean
}

/** All numbers that lie at and behind a place, arrays in arrays one after the other. */
function flat(value: Value): number[] {
  if (value instanceof Ptr) return value.base.slice(value.at).flatMap(flat)
  return Array.isArray(value) ? value.flatMap(flat) : [Number(value)]
}

/** A matrix of keys that is looked at through the pins: each column is pulled low in turn, and the rows are read. */
export function keypadClass(
  hardware: Hardware,
  now: () => number,
  { types }: { readonly types: ReadonlyMap<string, Type> },
): [string, NativeClass] {
  const [char, bool] = [types.get('char')!, types.get('bool')!]
  const number = types.get('unsigned int')!
  const look = (self: Keys, at: number): void => {
    if (self.begun && now() - self.last < self.each) return
    self.last = now()
    if (!self.begun) {
      for (const row of self.rows) hardware.setting(row, 'pull-up', at)
      for (const column of self.columns) hardware.setting(column, 'in', at)
      self.begun = true
    }
    const pressed = new Set<number>()
    self.columns.forEach((column, x) => {
      hardware.setting(column, 'out', at)
      hardware.write(column, false, at)
      self.rows.forEach((row, y) => {
        if (hardware.read(row, at)) return
        const key = self.map[y * self.columns.length + x] ?? 0
        pressed.add(key)
        if (!self.pressed.has(key)) self.fresh.push(key)
      })
      hardware.write(column, true, at)
      hardware.setting(column, 'in', at)
    })
    self.pressed = pressed
  }
  const take = (self: Keys): number => self.fresh.shift() ?? 0
  const method = (
    params: readonly Type[],
    returns: Type,
    run: (self: Keys, args: readonly number[], at: number) => unknown,
  ): NativeFunction<never> => ({
    params,
    returns,
    run: (self: Keys, args, _types, at) => run(self, args.map(Number), at),
  })
  return [
    'Keypad',
    {
      make: ([map, rows, columns, height, width]): Keys => ({
        map: flat(map).slice(0, Number(height) * Number(width)),
        rows: flat(rows).slice(0, Number(height)),
        columns: flat(columns).slice(0, Number(width)),
        pressed: new Set(),
        last: 0,
        each: LOOK,
        fresh: [],
        begun: false,
      }),
      methods: {
        getKey: method([], char, (self, _, at) => {
          look(self, at)
          return take(self)
        }),
        getKeys: method([], bool, (self, _, at) => {
          look(self, at)
          return self.fresh.length > 0 ? 1 : 0
        }),
        waitForKey: method([], char, (self, _, at) => {
          for (;;) {
            look(self, at)
            if (self.fresh.length > 0) return take(self)
            hardware.wait(self.each, at)
          }
        }),
        isPressed: method([char], bool, (self, [key = 0]) => (self.pressed.has(key) ? 1 : 0)),
        setDebounceTime: method([number], VOID, (self, [milliseconds = 10]) => {
          self.each = milliseconds * 1000
        }),
        setHoldTime: method([number], VOID, () => undefined),
      },
    },
  ]
}
