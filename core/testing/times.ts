/**
 * How many cases a property tries that takes long: the few of every run, which are always the same, or with
 * MARKPOST_TIMES=10 ten times as many.
 */
export const times = (few: number): number => few * Number(process.env.MARKPOST_TIMES ?? 1)
