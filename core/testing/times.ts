/**
 * How many cases a property tries that takes long: the few of every run, which are always the same, or with
 * MARKPOST_TIMES=10 ten times as many.
 */
export const times = (few: number): number => few * Number(process.env.MARKPOST_TIMES ?? 1)

/** One in so many of a list, each time another; all of them when asked for more times. */
export const oneIn = <T>(many: number, all: readonly T[], turn = 0): readonly T[] =>
  times(1) > 1 ? all : all.filter((_, at) => (at + turn) % many === 0)
