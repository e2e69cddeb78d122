import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import type { Part } from '../catalog/partSchema.ts'
import type { BoardInstance, Host, PartInstance } from './model.ts'

export function need<T>(value: T | undefined, what: string): T {
  if (value === undefined) throw new Error(`resolve: ${what} is missing; the plan was not bound to this catalogue`)
  return value
}

export function hostOfBoard(hosts: Map<string, Host>, owner: BoardInstance, net: string): Host {
  const end = `${owner.ref}.${net}`
  const known = hosts.get(end)
  if (known) return known
  const first = need(owner.facts.pin(net), end)
  const host: Host = {
    end,
    ref: owner.ref,
    pin: net,
    functions: first.functions,
    cautions: first.cautions,
    levels: first.levels,
    current: first.current,
    board: owner,
    provider: undefined,
    note: first.note,
    starts: undefined,
    logicVolts: owner.board.logicVolts,
  }
  hosts.set(end, host)
  return host
}

type Given = Pick<Host, 'functions' | 'levels' | 'current' | 'note' | 'starts'> & { readonly pin: string }

/** Pins that a part gives to others, its `provides` and the pins of its bus controllers; the same for all of a kind. */
const givenPins = memo((part: Part): readonly Given[] => {
  const buses = new Map<string, string[]>()
  for (const controller of part.controllers)
    for (const [signal, pin] of Object.entries(controller.pins))
      buses.set(pin, [...(buses.get(pin) ?? []), `${controller.id}.${signal}`])
  const given = new Map(part.provides.flatMap((one) => one.pins.map((pin) => [pin, one] as const)))
  return [...new Set([...given.keys(), ...buses.keys()])].map((pin): Given => {
    const facts = given.get(pin)
    return {
      pin,
      functions: new Set<string>([...(facts?.does ?? []), ...(buses.get(pin) ?? [])]),
      levels: entryOf(part.levels, facts?.levels ?? 'logic') ?? {},
      current: facts?.current,
      note: facts?.note,
      starts: facts?.starts,
    }
  })
})

/** What a pin can do that a part gives to others; undefined for a pin that it keeps. */
export const functionsOf = (part: Part, pin: string): ReadonlySet<string> | undefined =>
  givenPins(part).find((one) => one.pin === pin)?.functions

const none: readonly never[] = []

// Written out name by name: this runs for every pin of every expander at every change, and spreading costs a fifth of it.
export const hostsOfPart = (owner: PartInstance): Host[] =>
  givenPins(owner.part).map((given) => ({
    end: `${owner.ref}.${given.pin}`,
    ref: owner.ref,
    pin: given.pin,
    functions: given.functions,
    cautions: none,
    levels: given.levels,
    current: given.current,
    board: undefined,
    provider: owner,
    note: given.note,
    starts: given.starts,
    logicVolts: owner.logicVolts,
  }))
