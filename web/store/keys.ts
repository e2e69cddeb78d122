import { useSyncExternalStore } from 'react'

/**
 * Keys of one letter or sign without Ctrl or Alt. Who dictates, or whose hand trembles, can switch them off for this
 * browser (WCAG 2.1.4, character key shortcuts); arrows, Tab, Enter, Escape and Delete always work.
 */
const KEY = 'markpost.keys'
const listeners = new Set<() => void>()

export const keysAreOn = (): boolean => localStorage.getItem(KEY) !== 'off'

export function switchKeys(on: boolean): void {
  if (on) localStorage.removeItem(KEY)
  else localStorage.setItem(KEY, 'off')
  for (const one of listeners) one()
}

export const useKeysAreOn = (): boolean =>
  useSyncExternalStore((listener) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }, keysAreOn)

/** True while what is typed goes into a field, a menu or a dialog: no key of the page may answer then. */
export const isTyping = ({ target }: Event): boolean =>
  target instanceof HTMLElement && target.closest('input, textarea, select, [role=dialog], .dropdown-menu') !== null
