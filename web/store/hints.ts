import { usePlan } from './derived.ts'

/** Whether the tool may help with this plan; not in a task that is to be solved by oneself. */
export const useHints = (): boolean => usePlan().settings?.hints !== false
