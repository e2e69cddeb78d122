import { fn, type GivenModule, module, type PythonBoard } from './native.ts'
import { compare } from './operators.ts'
import { asIndex, asNumber, isTrue } from './protocols.ts'
import { Float, objectClass, type Py, PyClass, PyFunction, PyObject, PyProperty, PyTuple, raise } from './values.ts'

const DAY = 86_400
const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October']
MONTHS.push('November', 'December')
const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
/** Days from the first day of year 1 to the first of 2026, on which each rehearsal begins at midnight. */
const FIRST_DAY = daysOf(2026, 1, 1)

/** A moment in parts: seconds may have a fraction. */
interface Moment {
  readonly year: number
  readonly month: number
  readonly day: number
  readonly seconds: number
}

/** Days from the first day of year 1 in the calendar of today, leap years as they fall (proleptic Gregorian). */
function daysOf(year: number, month: number, day: number): number {
  const before = year - 1
  const leaps = Math.floor(before / 4) - Math.floor(before / 100) + Math.floor(before / 400)
  let days = before * 365 + leaps + day - 1
  for (let one = 1; one < month; one += 1) days += lengthOf(year, one)
  return days
}

const isLeap = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0
const lengthOf = (year: number, month: number): number =>
  month === 2 ? (isLeap(year) ? 29 : 28) : [4, 6, 9, 11].includes(month) ? 30 : 31

function momentAt(total: number): Moment {
  let days = Math.floor(total / DAY)
  const seconds = total - days * DAY
  let year = Math.floor(days / 365.2425) + 1
  while (daysOf(year + 1, 1, 1) <= days) year += 1
  while (daysOf(year, 1, 1) > days) year -= 1
  days -= daysOf(year, 1, 1)
  let month = 1
  while (days >= lengthOf(year, month)) {
    days -= lengthOf(year, month)
    month += 1
  }
  return { year, month, day: days + 1, seconds }
}

const two = (value: number): string => `${Math.floor(value)}`.padStart(2, '0')
const clockOf = (seconds: number): string => `${two(seconds / 3600)}:${two((seconds / 60) % 60)}:${two(seconds % 60)}`
const microsOf = (seconds: number): number => Math.round((seconds - Math.floor(seconds)) * 1e6)

/** What each letter behind a `%` writes (Python library reference, datetime, format codes). */
function written(format: string, total: number): string {
  const { year, month, day, seconds } = momentAt(total)
  const weekday = Math.floor(total / DAY) % 7
  const hour = Math.floor(seconds / 3600)
  const codes: Readonly<Record<string, string>> = {
    Y: `${year}`.padStart(4, '0'),
    y: two(year % 100),
    m: two(month),
    d: two(day),
    H: two(hour),
    I: two(hour % 12 || 12),
    M: two((seconds / 60) % 60),
    S: two(seconds % 60),
    f: `${microsOf(seconds)}`.padStart(6, '0'),
    p: hour < 12 ? 'AM' : 'PM',
    A: DAYS[weekday] as string,
    a: (DAYS[weekday] as string).slice(0, 3),
    B: MONTHS[month - 1] as string,
    b: (MONTHS[month - 1] as string).slice(0, 3),
    j: `${daysOf(year, month, day) - daysOf(year, 1, 1) + 1}`.padStart(3, '0'),
    w: `${(weekday + 1) % 7}`,
    F: `${year}-${two(month)}-${two(day)}`,
    T: clockOf(seconds),
    X: clockOf(seconds),
    x: `${two(month)}/${two(day)}/${two(year % 100)}`,
    '%': '%',
  }
  return format.replaceAll(/%(.)/g, (whole, code: string) => codes[code] ?? whole)
}

/** `datetime`, and how `time` writes a moment: the rehearsal's own clock, which begins at midnight of 2026-01-01. */
export function dateModules({ machine }: PythonBoard): { modules: GivenModule[]; time: [string, Py][] } {
  const now = (): number => FIRST_DAY * DAY + machine.now / 1e6
  const of = new WeakMap<PyObject, number>()
  const total = (self: Py): number => of.get(self) as number
  const own = (cls: PyClass, value: number): PyObject => {
    const made = new PyObject(cls)
    of.set(made, value)
    return made
  }
  const method = (
    cls: PyClass,
    name: string,
    call: (args: readonly Py[], named: ReadonlyMap<string, Py>) => Py,
  ): void => void cls.attrs.set(name, new PyFunction(name, call))
  const onClass = (cls: PyClass, name: string, call: (args: readonly Py[]) => Py): void =>
    void cls.attrs.set(name, new PyFunction(name, call, 'class'))
  const part = (cls: PyClass, name: string, get: (value: number) => Py): void =>
    void cls.attrs.set(name, new PyProperty(fn(name, ([self]) => get(total(self)))))

  const span: PyClass = new PyClass('timedelta', [objectClass], ([days, seconds, micros], named) => {
    const given = (name: string, value: Py = 0): number => asNumber(named.get(name) ?? value)
    return own(
      span,
      given('weeks') * 7 * DAY +
        given('days', days) * DAY +
        given('hours') * 3600 +
        given('minutes') * 60 +
        given('seconds', seconds) +
        given('milliseconds') / 1000 +
        given('microseconds', micros) / 1e6,
    )
  })
  part(span, 'days', (value) => Math.floor(value / DAY))
  part(span, 'seconds', (value) => Math.floor(value - Math.floor(value / DAY) * DAY))
  part(span, 'microseconds', microsOf)
  method(span, 'total_seconds', ([self]) => new Float(total(self)))
  method(span, '__str__', ([self]) => {
    const days = Math.floor(total(self) / DAY)
    const rest = total(self) - days * DAY
    const micros = microsOf(rest)
    const clock = `${Math.floor(rest / 3600)}${clockOf(rest).slice(2)}${micros > 0 ? `.${`${micros}`.padStart(6, '0')}` : ''}`
    return days === 0 ? clock : `${days} day${Math.abs(days) === 1 ? '' : 's'}, ${clock}`
  })
  method(span, '__add__', ([a, b]) => own(b.cls === span ? span : b.cls, total(a) + total(b)))
  method(span, '__sub__', ([a, b]) => own(span, total(a) - total(b)))
  method(span, '__mul__', ([a, b]) => own(span, total(a) * asNumber(b)))
  method(span, '__truediv__', ([a, b]) =>
    b instanceof PyObject ? new Float(total(a) / total(b)) : own(span, total(a) / asNumber(b)),
  )

  const date: PyClass = new PyClass('date', [objectClass], (args) => own(date, dayOf(args) * DAY))
  const dayOf = ([year, month, day]: readonly Py[]): number => {
    const [y, m, d] = [asIndex(year), asIndex(month), asIndex(day)]
    if (m < 1 || m > 12) raise('ValueError', 'month must be in 1..12')
    if (d < 1 || d > lengthOf(y, m)) raise('ValueError', 'day is out of range for month')
    return daysOf(y, m, d)
  }
  const moment: PyClass = new PyClass('datetime', [date], (args, named) => {
    const at = (index: number, name: string): number => asNumber(args[index] ?? named.get(name) ?? 0)
    const clock = at(3, 'hour') * 3600 + at(4, 'minute') * 60 + at(5, 'second') + at(6, 'microsecond') / 1e6
    return own(moment, dayOf(args) * DAY + clock)
  })
  part(date, 'year', (value) => momentAt(value).year)
  part(date, 'month', (value) => momentAt(value).month)
  part(date, 'day', (value) => momentAt(value).day)
  part(moment, 'hour', (value) => Math.floor(momentAt(value).seconds / 3600))
  part(moment, 'minute', (value) => Math.floor(momentAt(value).seconds / 60) % 60)
  part(moment, 'second', (value) => Math.floor(momentAt(value).seconds) % 60)
  part(moment, 'microsecond', microsOf)
  method(date, 'weekday', ([self]) => Math.floor(total(self) / DAY) % 7)
  method(date, 'isoweekday', ([self]) => (Math.floor(total(self) / DAY) % 7) + 1)
  method(date, 'strftime', ([self, format]) => written(format, total(self)))
  method(date, '__str__', ([self]) => written('%F', total(self)))
  method(date, 'isoformat', ([self]) => written('%F', total(self)))
  const fraction = (value: number): string => (microsOf(value) > 0 ? '.%f' : '')
  method(moment, '__str__', ([self]) => written(`%F %T${fraction(total(self))}`, total(self)))
  method(moment, 'isoformat', ([self, between = 'T']) => written(`%F${between}%T${fraction(total(self))}`, total(self)))
  method(moment, 'timestamp', ([self]) => new Float(total(self) - FIRST_DAY * DAY))
  method(moment, 'date', ([self]) => own(date, Math.floor(total(self) / DAY) * DAY))
  method(moment, 'replace', ([self], named) => {
    const { year, month, day, seconds } = momentAt(total(self))
    const given = (name: string, value: number): number => asNumber(named.get(name) ?? value)
    const clock =
      given('hour', Math.floor(seconds / 3600)) * 3600 +
      given('minute', Math.floor(seconds / 60) % 60) * 60 +
      given('second', Math.floor(seconds) % 60) +
      given('microsecond', microsOf(seconds)) / 1e6
    return own(moment, dayOf([given('year', year), given('month', month), given('day', day)]) * DAY + clock)
  })
  for (const cls of [date, moment]) {
    method(cls, '__add__', ([a, b]) => own(cls, total(a) + total(b)))
    method(cls, '__sub__', ([a, b]) => own(b.cls === span ? cls : span, total(a) - total(b)))
  }
  for (const cls of [span, date]) {
    const by = { __lt__: '<', __le__: '<=', __gt__: '>', __ge__: '>=', __eq__: '==' } as const
    for (const [name, op] of Object.entries(by))
      method(cls, name, ([a, b]) => of.has(b) && isTrue(compare(op, new Float(total(a)), new Float(total(b)))))
    method(cls, '__hash__', ([self]) => Math.floor(total(self)))
  }
  onClass(date, 'today', ([cls]) => own(cls, cls === date ? Math.floor(now() / DAY) * DAY : now()))
  for (const name of ['now', 'utcnow']) onClass(moment, name, () => own(moment, now()))
  onClass(moment, 'fromtimestamp', ([, seconds]) => own(moment, FIRST_DAY * DAY + asNumber(seconds)))
  const parts = (value: number): PyTuple => {
    const { year, month, day, seconds } = momentAt(value)
    return new PyTuple(
      [
        ...[year, month, day, Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, Math.floor(seconds) % 60],
        ...[Math.floor(value / DAY) % 7, daysOf(year, month, day) - daysOf(year, 1, 1) + 1],
      ],
      ['tm_year', 'tm_mon', 'tm_mday', 'tm_hour', 'tm_min', 'tm_sec', 'tm_wday', 'tm_yday'],
    )
  }
  const local = (name: string): [string, Py] => [
    name,
    fn(name, ([seconds]) => parts(seconds === undefined ? now() : FIRST_DAY * DAY + asNumber(seconds))),
  ]
  return {
    modules: [
      module('datetime', [
        ['datetime', moment],
        ['date', date],
        ['timedelta', span],
      ]),
    ],
    time: [
      local('localtime'),
      local('gmtime'),
      [
        'strftime',
        fn('strftime', ([format, at]) => {
          if (at === undefined) return written(format, now())
          const [year, month, day, hour, minute, second] = at.items as number[]
          return written(format, daysOf(year!, month!, day!) * DAY + hour! * 3600 + minute! * 60 + second!)
        }),
      ],
    ],
  }
}
