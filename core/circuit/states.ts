import type { Actor, Position } from './groundwork.ts'

/** Most states of one island that are all tried. */
const MOST_STATES = 256

/** The states to try. Of pins that take turns at most one drives in any of them. */
export function statesOf(actors: readonly Actor[]): { positions: Position[][]; enumerated: boolean } {
  const turns = actors.map(takesTurns)
  const resting = actors.map(restOf)
  const steady = (states: number, { positions }: Actor, index: number): number =>
    turns[index] ? states : states * positions.length
  const turning = actors.reduce((sum, { positions }, index) => (turns[index] ? sum + positions.length - 1 : sum), 1)
  if (actors.reduce(steady, 1) * turning <= MOST_STATES) {
    const all = combined(actors, turns, ({ positions }) => positions)
    // At reset the pins of boards have let go, and a finger may lie on a button all the same.
    const starts = combined(actors, turns, (one) => (one.rests && 'port' in one.what ? [restOf(one)] : one.positions))
    return { positions: [resting, ...starts, ...all], enumerated: true }
  }
  const legal = (chosen: readonly Position[]): boolean =>
    chosen.filter((one, index) => turns[index] && one.is !== 'off').length <= 1
  const base = actors.map(({ positions }) => positions[0] as Position)
  const all = (is: readonly Position['is'][]): Position[] =>
    actors.map(({ positions }, index) =>
      turns[index]
        ? (base[index] as Position)
        : (positions.find((one) => is.includes(one.is)) ?? (base[index] as Position)),
    )
  const grounds = [resting, base, all(['high', 'closed', 'least']), all(['low', 'open', 'most'])]
  const single = grounds
    .slice(1)
    .flatMap((ground) =>
      actors.flatMap(({ positions }, index) =>
        positions
          .filter((one) => one !== ground[index])
          .map((one) => ground.map((other, at) => (at === index ? one : other))),
      ),
    )
  return { positions: [...grounds, ...single].filter(legal), enumerated: false }
}

/** Every choice of one position for each actor, with at most one of those that take turns driving. */
function combined(
  actors: readonly Actor[],
  turns: readonly boolean[],
  choices: (actor: Actor) => readonly Position[],
): Position[][] {
  let all: { readonly chosen: Position[]; readonly taken: boolean }[] = [{ chosen: [], taken: false }]
  actors.forEach((actor, index) => {
    const positions = choices(actor)
    all = all.flatMap(({ chosen, taken }) =>
      positions.flatMap((one) => {
        const takes = turns[index] === true && one.is !== 'off'
        return takes && taken ? [] : [{ chosen: [...chosen, one], taken: taken || takes }]
      }),
    )
  })
  return all.map(({ chosen }) => chosen)
}

export const nothing: Position = { is: 'off', strands: [] }

/** An actor while the board starts. */
const restOf = ({ rests, positions }: Actor): Position =>
  rests ? (positions.find((one) => one.strands.length === 0) ?? nothing) : (positions[0] as Position)

const takesTurns = ({ what, positions }: Actor): boolean => 'port' in what && positions.some((one) => one.is === 'off')
