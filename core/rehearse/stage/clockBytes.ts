import { calendarDay, daysSinceEpoch } from '../../base/calendar.ts'

/** What a register of a clock holds, each as two decimal digits (BCD). */
export type ClockField = 'seconds' | 'minutes' | 'hours' | 'weekday' | 'day' | 'month' | 'year'

interface Fields {
  seconds: number
  minutes: number
  hours: number
  day: number
  /** 1 to 12. */
  month: number
  /** 0 to 99 of the century. */
  year: number
}

const DAY_SECONDS = 86_400
const CENTURY = 2000
/** Midnight of the first of January 2026, in seconds of POSIX time: what a clock shows until it is set. */
const FIRST_DAY = 1_767_225_600
/** Bits of the register of hours: counted to twelve, and then the second half of the day. */
const TWELVE = 0x40
const AFTERNOON = 0x20
/** Bit that is no digit: of seconds a halt or a doubt, of months the century. */
const FLAG = 0x80

const toDigits = (value: number): number => (Math.floor(value / 10) << 4) | (value % 10)
const fromDigits = (byte: number): number => (byte >> 4) * 10 + (byte & 15)

/**
 * A clock of which single registers are read and set. The hour of the day is what its handle says, whenever that is moved;
 * from there it goes on by itself. Sources: data sheets of the DS3231, DS1307 and PCF8523, timekeeping registers.
 */
export class ClockBytes {
  readonly #first: number
  #base = FIRST_DAY
  #from = 0
  #hours: number | undefined
  #isTwelve = false
  /** Days by which the count of the week was set off, and where it begins. */
  #weekday: number

  /** `first` is the number of the first day of the week in its register, 0 or 1 for Sunday. */
  constructor(first: number) {
    this.#first = first
    this.#weekday = 0
  }

  /** Takes the hour of its handle where that was moved. `now` in seconds from power-on. */
  look(hours: number, now: number): void {
    if (hours === this.#hours) return
    this.#hours = hours
    const today = Math.floor(this.#time(now) / DAY_SECONDS) * DAY_SECONDS
    this.#base = today + Math.round(hours * 3600)
    this.#from = now
  }

  read(field: ClockField, now: number): number {
    const time = this.#time(now)
    const fields = this.#fields(time)
    if (field === 'weekday') return this.#first + ((this.#dayOfWeek(time) + this.#weekday) % 7)
    if (field !== 'hours' || !this.#isTwelve) return toDigits(fields[field])
    return TWELVE | (fields.hours >= 12 ? AFTERNOON : 0) | toDigits(fields.hours % 12 || 12)
  }

  /** Sets what one message writes, all at once: half a date is none. */
  write(written: ReadonlyMap<ClockField, number>, now: number): void {
    const fields = this.#fields(this.#time(now))
    for (const [field, byte] of written) {
      if (field === 'weekday') continue
      if (field === 'hours') {
        this.#isTwelve = (byte & TWELVE) !== 0
        fields.hours = this.#isTwelve
          ? (fromDigits(byte & 0x1f) % 12) + (byte & AFTERNOON ? 12 : 0)
          : fromDigits(byte & 0x3f)
      } else fields[field] = fromDigits(field === 'seconds' || field === 'month' ? byte & ~FLAG : byte)
    }
    const { year, month, day, hours, minutes, seconds } = fields
    const days = daysSinceEpoch({ year: CENTURY + year, month, day })
    this.#base = days * DAY_SECONDS + hours * 3600 + minutes * 60 + seconds
    this.#from = now
    const set = written.get('weekday')
    if (set !== undefined) this.#weekday = (((set - this.#first - this.#dayOfWeek(this.#base)) % 7) + 7) % 7
  }

  #time(now: number): number {
    return this.#base + Math.floor(now - this.#from)
  }

  #dayOfWeek(time: number): number {
    // The first of January 1970 was a Thursday.
    return (Math.floor(time / DAY_SECONDS) + 4) % 7
  }

  #fields(time: number): Fields {
    const { year, month, day } = calendarDay(Math.floor(time / DAY_SECONDS))
    const second = time % DAY_SECONDS
    return {
      seconds: second % 60,
      minutes: Math.floor(second / 60) % 60,
      hours: Math.floor(second / 3600),
      day,
      month,
      year: year % 100,
    }
  }
}
