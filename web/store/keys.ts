import { choiceOf } from './choice.ts'

/**
 * Keys of one letter or sign without Ctrl or Alt. Who dictates, or whose hand trembles, can switch them off for this
 * browser (WCAG 2.1.4, character key shortcuts); arrows, Tab, Enter, Escape and Delete always work.
 */
export const singleKeys = choiceOf('markpost.keys')
export const keysAreOn = singleKeys.isOn

/** True while what is typed goes into a field, a menu or a dialog: no key of the page may answer then. */
export const isTyping = ({ target }: Event): boolean =>
  target instanceof HTMLElement && target.closest('input, textarea, select, [role=dialog], .dropdown-menu') !== null
