/** A day of the Gregorian calendar; months and days count from 1. */
export interface CalendarDay {
  readonly year: number
  readonly month: number
  readonly day: number
}

/** Years of four centuries, after which the calendar repeats, and their days. */
const AGE_YEARS = 400
const AGE_DAYS = 146_097
/** Days from the first of March of the year 0 to the first of January 1970. */
const EPOCH = 719_468
/** Five months from March on have 153 days between them, whatever month one begins with. */
const FIVE_MONTHS = 153

/**
 * Days from the first of January 1970. A day past the end of its month counts on into the next. Years begin in March
 * here, so that the day of a leap year is the last. Source: rules of the Gregorian calendar (ISO 8601).
 */
export function daysSinceEpoch({ year, month, day }: CalendarDay): number {
  const from = month <= 2 ? year - 1 : year
  const age = Math.floor(from / AGE_YEARS)
  const ofAge = from - age * AGE_YEARS
  const ofYear = Math.floor((FIVE_MONTHS * ((month + 9) % 12) + 2) / 5) + day - 1
  return age * AGE_DAYS + ofAge * 365 + Math.floor(ofAge / 4) - Math.floor(ofAge / 100) + ofYear - EPOCH
}

/** The day that lies so many days after the first of January 1970. */
export function calendarDay(days: number): CalendarDay {
  const all = days + EPOCH
  const age = Math.floor(all / AGE_DAYS)
  const left = all - age * AGE_DAYS
  // Leap days of the years gone by are taken out, so that all years are alike.
  const ofAge = Math.floor(
    (left - Math.floor(left / 1460) + Math.floor(left / 36_524) - Math.floor(left / 146_096)) / 365,
  )
  const ofYear = left - (ofAge * 365 + Math.floor(ofAge / 4) - Math.floor(ofAge / 100))
  const fromMarch = Math.floor((5 * ofYear + 2) / FIVE_MONTHS)
  const month = ((fromMarch + 2) % 12) + 1
  return {
    year: age * AGE_YEARS + ofAge + (month <= 2 ? 1 : 0),
    month,
    day: ofYear - Math.floor((FIVE_MONTHS * fromMarch + 2) / 5) + 1,
  }
}
