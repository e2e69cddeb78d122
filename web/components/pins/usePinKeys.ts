import { type RefObject, useEffect, useRef } from 'react'
import type { Candidate } from '../../../core/assign/candidates.ts'
import type { Host, SignalUse } from '../../../core/wiring/model.ts'
import { isTyping, keysAreOn } from '../../store/keys.ts'

/** What the keys of Pins do. */
export interface PinActions {
  /** The picked signal. */
  readonly use: SignalUse | undefined
  /** Its candidates that have a key, and those keys. */
  readonly best: readonly Candidate[]
  readonly keys: readonly string[]
  readonly put: (signal: SignalUse, host: Host) => void
  /** Picks the next signal, or the one before. */
  readonly step: (by: 1 | -1) => void
  readonly letGo: () => void
  readonly placeRest: () => void
  readonly lock: () => void
  readonly clear: () => void
  readonly leaveOpen: () => void
}

/** Milliseconds after a signal was put on a pin in which a letter is taken for the rest of a pin's name. */
const STILL_TYPING = 2000

/**
 * The keys of Pins; letters go to the field for the name of a pin. `placedAt` holds when a signal was last put on a pin,
 * in milliseconds: who has placed the last one may still be typing, and no place may open by that.
 */
export function usePinKeys(
  field: RefObject<HTMLInputElement | null>,
  placedAt: RefObject<number>,
  actions: PinActions,
): void {
  const latest = useRef(actions)
  latest.current = actions
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey) return
      const now = latest.current
      const inField = isTyping(event)
      if (event.key === 'Escape') {
        if (event.target === field.current) field.current?.blur()
        else if (!inField) now.letGo()
        return
      }
      if (inField || (event.key.length === 1 && !keysAreOn())) return
      // On the button of a menu an arrow opens that.
      const onMenu = event.target instanceof Element && event.target.closest('.dropdown-toggle') !== null
      if (onMenu && event.key.startsWith('Arrow')) return
      const isName = /^[a-zA-Z0-9#]$/.test(event.key)
      const isChoice = now.use !== undefined && now.keys.includes(event.key) && now.best.length > 0
      if (isName && now.use && !isChoice) {
        field.current?.focus()
        return
      }
      const isLetter = /^[a-zA-Z#]$/.test(event.key) && !isChoice
      if (isLetter && Date.now() - placedAt.current >= STILL_TYPING) return
      const act = isLetter ? () => {} : actionOf(event.key, now)
      if (!act) return
      event.preventDefault()
      if (event.key === '*') placedAt.current = 0
      act()
    }
    // Before the frame's own keys: a letter typed while a signal is picked is a pin's name.
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [field, placedAt])
}

/** What a key does now; undefined when it does nothing here. */
function actionOf(key: string, now: PinActions): (() => void) | undefined {
  if (key === 'ArrowDown') return () => now.step(1)
  if (key === 'ArrowUp') return () => now.step(-1)
  if (key === '*') return now.placeRest
  const { use } = now
  if (!use) return undefined
  const choice = now.best[now.keys.indexOf(key)]
  if (choice) return () => now.put(use, choice.host)
  const keys: Readonly<Record<string, () => void>> = {
    '!': now.lock,
    Delete: now.clear,
    Backspace: now.clear,
    '-': now.leaveOpen,
  }
  return Object.hasOwn(keys, key) ? keys[key] : undefined
}
