/** Takes what a board says of a plan, as it comes in by the server. */
export type OnAnswers = (plan: string, lines: readonly string[]) => void

const listeners = new Set<OnAnswers>()

/** Hears what boards say, until the answer is called. */
export function hearAnswers(hear: OnAnswers): () => void {
  listeners.add(hear)
  return () => void listeners.delete(hear)
}

export const tellAnswers: OnAnswers = (plan, lines) => {
  for (const hear of listeners) hear(plan, lines)
}
