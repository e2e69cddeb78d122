import type { Plan, PlanWire } from './planSchema.ts'
import type { ScriptStep } from './rehearsalSchema.ts'
import { withRehearsal } from './sections.ts'

/** Gives a board, supply or part another name, everywhere; that the name is free is known. */
export function renamed(plan: Plan, ref: string, to: string): Plan {
  const key = <T>(entries: Record<string, T>): Record<string, T> =>
    Object.fromEntries(Object.entries(entries).map(([one, entry]) => [one === ref ? to : one, entry]))
  const end = (one: string): string =>
    one === ref ? to : one.startsWith(`${ref}.`) ? `${to}${one.slice(ref.length)}` : one
  return {
    ...plan,
    boards: key(plan.boards),
    supplies: key(plan.supplies),
    parts: Object.fromEntries(
      Object.entries(key(plan.parts)).map(([one, part]) => [one, part.on === ref ? { ...part, on: to } : part]),
    ),
    wires: plan.wires.map(
      (wire): PlanWire => (wire[2] ? [end(wire[0]), end(wire[1]), wire[2]] : [end(wire[0]), end(wire[1])]),
    ),
    unused: plan.unused.map(end),
    accepted: plan.accepted.map((one) => ({ ...one, at: one.at.map(end) })),
    ...(plan.names
      ? { names: Object.fromEntries(Object.entries(plan.names).map(([one, name]) => [end(one), name])) }
      : {}),
    ...(plan.comments
      ? {
          comments: Object.fromEntries(
            Object.entries(plan.comments).map(([id, one]) => [id, { ...one, at: one.at.map(end) }]),
          ),
        }
      : {}),
    ...(plan.rehearsal
      ? {
          rehearsal: {
            ...plan.rehearsal,
            ...(plan.rehearsal.programs ? { programs: key(plan.rehearsal.programs) } : {}),
            ...(plan.rehearsal.steps
              ? { steps: plan.rehearsal.steps.map((step) => stepWith(step, (name) => [end(name)])) }
              : {}),
          },
        }
      : {}),
    ...(plan.bench
      ? {
          bench: {
            ...plan.bench,
            breadboards: Object.fromEntries(
              Object.entries(plan.bench.breadboards).map(([one, entry]) => [
                one,
                entry.for === ref ? { ...entry, for: to } : entry,
              ]),
            ),
            places: key(plan.bench.places),
            ...(plan.bench.via
              ? { via: Object.fromEntries(Object.entries(plan.bench.via).map(([one, hole]) => [end(one), hole])) }
              : {}),
            done: plan.bench.done.map((wire) => wire.split(' ').map(end).join(' ')),
          },
        }
      : {}),
  }
}

/** Takes a board, supply or part out, with all that hangs on it. */
export function removed(plan: Plan, ref: string): Plan {
  const without = <T>(entries: Record<string, T>): Record<string, T> =>
    Object.fromEntries(Object.entries(entries).filter(([one]) => one !== ref))
  const touches = (end: string): boolean => end === ref || end.startsWith(`${ref}.`)
  const steps = plan.rehearsal?.steps
    ?.map((step) => stepWith(step, (name) => (touches(name) ? [] : [name])))
    .filter(({ set, expect, type }) => set ?? expect ?? type)
  // What was said of a thing that is gone still holds: whoever said it sees that it is gone.
  const rest = plan.rehearsal
    ? withRehearsal(plan, {
        ...(plan.rehearsal.programs ? { programs: without(plan.rehearsal.programs) } : {}),
        ...(steps ? { steps } : {}),
      })
    : plan
  return {
    ...rest,
    boards: without(plan.boards),
    supplies: without(plan.supplies),
    parts: Object.fromEntries(
      Object.entries(without(plan.parts)).map(([one, part]) => {
        const { on, ...rest } = part
        return [one, on === ref ? rest : part]
      }),
    ),
    wires: plan.wires.filter((wire) => !touches(wire[0]) && !touches(wire[1])),
    unused: plan.unused.filter((end) => !touches(end)),
    accepted: plan.accepted.filter((one) => !one.at.some(touches)),
    ...(plan.names ? { names: Object.fromEntries(Object.entries(plan.names).filter(([one]) => !touches(one))) } : {}),
    ...(plan.bench
      ? {
          bench: {
            ...plan.bench,
            breadboards: Object.fromEntries(
              Object.entries(plan.bench.breadboards).map(([one, { for: home, ...entry }]) => [
                one,
                home === undefined || home === ref ? entry : { ...entry, for: home },
              ]),
            ),
            places: without(plan.bench.places),
            ...(plan.bench.via
              ? { via: Object.fromEntries(Object.entries(plan.bench.via).filter(([one]) => !touches(one))) }
              : {}),
            done: plan.bench.done.filter((wire) => !wire.split(' ').some(touches)),
          },
        }
      : {}),
  }
}

/** A step of a rehearsal with its names changed; what is left without a name is left out. */
function stepWith({ set, expect, ...rest }: ScriptStep, name: (one: string) => readonly string[]): ScriptStep {
  type Values = NonNullable<ScriptStep['set']>
  const mapped = (values: Values | undefined): Values | undefined => {
    const entries = Object.entries(values ?? {}).flatMap(([one, value]) => name(one).map((to) => [to, value] as const))
    return entries.length === 0 ? undefined : Object.fromEntries(entries)
  }
  const [before, after] = [mapped(set), mapped(expect)]
  return { ...rest, ...(before ? { set: before } : {}), ...(after ? { expect: after } : {}) }
}
