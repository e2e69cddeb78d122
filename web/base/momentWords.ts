/** A moment in the words of the reader's own country: day and time to the minute. */
export const momentWords = (moment: string | number): string =>
  new Date(moment).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })
