import { useSyncExternalStore } from 'react'

/** Something that is on in this browser unless it was switched off there. */
export interface Choice {
  readonly isOn: () => boolean
  readonly set: (on: boolean) => void
  readonly useIsOn: () => boolean
}

/** A choice kept in this browser under a key. */
export function choiceOf(key: string): Choice {
  const listeners = new Set<() => void>()
  const isOn = (): boolean => localStorage.getItem(key) !== 'off'
  const listen = (listener: () => void): (() => void) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }
  return {
    isOn,
    set: (on) => {
      if (on) localStorage.removeItem(key)
      else localStorage.setItem(key, 'off')
      for (const one of listeners) one()
    },
    useIsOn: () => useSyncExternalStore(listen, isOn),
  }
}

/** What to do next stands above every place. */
export const led = choiceOf('markpost.led')
/** Findings stand open beside every place; on a narrow screen, where the bench wants the room, there by another choice. */
export const findingsOpen = choiceOf('markpost.findings')
export const roomForBench = choiceOf('markpost.bench-room')
export const benchTools = choiceOf('markpost.bench-tools')
