import type { Plan, Preference } from '../plan/planSchema.ts'

/** What a maker can ask the search to weigh differently, and what each means in words. */
export const preferences: Readonly<Record<Preference, string>> = {
  analog: 'keep analog pins free',
  interrupt: 'keep edge interrupt pins free',
  pwm: 'keep PWM pins free',
  buses: 'keep the usual bus pins free',
  straps: 'keep off pins that are read at reset',
  console: 'keep off USB and console pins',
  onboard: 'keep off pins with an LED or button of the board',
  expanders: 'keep off expander pins',
}
export const preferenceNames = Object.keys(preferences) as Preference[]

export const weights = { less: 1 / 3, usual: 1, more: 3 } as const
export type Weight = keyof typeof weights

/** By how much the usual points of a reason are multiplied in a plan. */
export const weightOf = (plan: Plan, name: Preference): number => weights[plan.settings?.prefer?.[name] ?? 'usual']
