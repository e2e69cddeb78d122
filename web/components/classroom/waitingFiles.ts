let waiting: readonly File[] = []

/** Files that were dropped where they do not belong, on their way to the class. */
export const leaveFiles = (files: readonly File[]): void => {
  waiting = files
}

/** Takes what waits. */
export function waitingFiles(): readonly File[] {
  const files = waiting
  waiting = []
  return files
}
