/** This page among the pages of the same browser: its name, and which others live. */

/** A name that no other page has; also where the page is not in a secure context, which has no `randomUUID`. */
export const newToken = (): string =>
  [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => byte.toString(16).padStart(2, '0')).join('')

export const thisPage = newToken()

const lockOf = (page: string): string => `markpost.page.${page}`
const never = (): Promise<void> => new Promise(() => undefined)
const locks: LockManager | undefined = navigator.locks

/** Held as long as the page lives; the browser lets go of it, however the page ends. */
export function announcePage(): void {
  void locks?.request(lockOf(thisPage), never)
}

/** True for other pages that live. Where the browser cannot say, none is taken for alive. */
export async function livingPages(): Promise<(page: string) => boolean> {
  const held = new Set((await locks?.query())?.held?.map((one) => one.name))
  return (page) => page !== thisPage && held.has(lockOf(page))
}

/** Does something that only one page may do at a time. */
export const alone = <T>(what: () => Promise<T>): Promise<T> =>
  locks ? (locks.request('markpost.drafts', what) as Promise<T>) : what()

/** Calls once, in one living page only; in another when that page is gone. */
export function inOnePage(what: () => void): void {
  if (!locks) {
    what()
    return
  }
  void locks.request('markpost.events', () => {
    what()
    return never()
  })
}
