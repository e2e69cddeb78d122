import { counted } from '../base/counted.ts'
import { entryOf } from '../base/entryOf.ts'
import { quoteValue } from '../base/yamlSource.ts'
import type { Catalog } from '../catalog/catalog.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { catalogFor } from './carried.ts'
import type { Bench, BenchPlace, Plan, PlanPart, PlanWire, Rehearsal } from './planSchema.ts'

/** What changed from one plan to another, a sentence each, in the order of the plan file; addresses in hexadecimal. */
export function describeDifference(before: Plan, after: Plan, base: Catalog): string[] {
  const catalog = catalogFor(after, catalogFor(before, base))
  const said: string[] = []
  if (before.title !== after.title) said.push(`title "${before.title}" becomes "${after.title}"`)
  if ((before.notes ?? '') !== (after.notes ?? '')) said.push('notes changed')
  for (const [section, one] of [
    ['boards', 'board'],
    ['supplies', 'supply'],
    ['parts', 'part'],
  ] as const) {
    const old: Record<string, object> = readable(before[section], catalog)
    const now: Record<string, object> = readable(after[section], catalog)
    for (const ref of Object.keys(old)) if (!Object.hasOwn(now, ref)) said.push(`${one} ${ref} removed`)
    for (const [ref, entry] of Object.entries(now)) {
      const was = entryOf(old, ref)
      if (!was) said.push(`${one} ${ref} added (${kindOf(entry)})`)
      else
        for (const key of changedKeys(was, entry))
          said.push(`${ref}: ${key} ${show(was, key)} becomes ${show(entry, key)}`)
    }
  }
  const oldWires = new Map(before.wires.map((wire) => [wireKey(wire), wire]))
  const newWires = new Map(after.wires.map((wire) => [wireKey(wire), wire]))
  for (const [key, wire] of oldWires) if (!newWires.has(key)) said.push(`wire ${wire[0]} to ${wire[1]} removed`)
  for (const [key, wire] of newWires) {
    const was = oldWires.get(key)
    if (!was) said.push(`wire ${wire[0]} to ${wire[1]} added`)
    else
      for (const fact of changedKeys(was[2] ?? {}, wire[2] ?? {}))
        said.push(
          `wire ${wire[0]} to ${wire[1]}: ${fact} ${show(was[2] ?? {}, fact)} becomes ${show(wire[2] ?? {}, fact)}`,
        )
  }
  for (const end of before.unused)
    if (!after.unused.includes(end)) said.push(`${end} is no longer left open on purpose`)
  for (const end of after.unused) if (!before.unused.includes(end)) said.push(`${end} left open on purpose`)
  const accepted = (plan: Plan): Map<string, string> =>
    new Map(plan.accepted.map((one) => [`${one.rule} at ${one.at.join(', ')}`, one.because]))
  const oldAccepted = accepted(before)
  const newAccepted = accepted(after)
  for (const key of oldAccepted.keys()) if (!newAccepted.has(key)) said.push(`${key} is no longer accepted`)
  for (const [key, because] of newAccepted)
    if (oldAccepted.get(key) !== because) said.push(`${key} accepted: ${because}`)
  for (const kind of ['boards', 'parts'] as const) {
    const [was, now] = [before.own?.[kind] ?? {}, after.own?.[kind] ?? {}]
    for (const id of Object.keys(was)) if (!Object.hasOwn(now, id)) said.push(`own entry ${id} no longer carried`)
    for (const [id, entry] of Object.entries(now))
      if (JSON.stringify(entryOf(was, id)) !== JSON.stringify(entry))
        said.push(`own entry ${id} ${Object.hasOwn(was, id) ? 'changed' : 'carried along'}`)
  }
  const pieces = (plan: Plan): string[] => (plan.aside ?? []).map((one) => JSON.stringify([one.at, one.value]))
  const [oldPieces, newPieces] = [pieces(before), pieces(after)]
  const gone = oldPieces.filter((one) => !newPieces.includes(one)).length
  const come = newPieces.filter((one) => !oldPieces.includes(one)).length
  if (gone > 0) said.push(`${gone} of the pieces set aside taken out`)
  if (come > 0) said.push(`${counted(come, 'more piece')} set aside, which the catalogue does not know`)
  const [oldPrefer, newPrefer] = [before.settings?.prefer ?? {}, after.settings?.prefer ?? {}]
  for (const what of changedKeys(oldPrefer, newPrefer))
    said.push(`search: ${what} ${show(oldPrefer, what)} becomes ${show(newPrefer, what)}`)
  const [oldColours, newColours] = [before.settings?.colours ?? {}, after.settings?.colours ?? {}]
  for (const what of changedKeys(oldColours, newColours))
    said.push(`wires for ${what}: ${entryOf(newColours, what) ?? 'the usual colour'}`)
  const old = new Set(before.settings?.asked)
  for (const question of after.settings?.asked ?? [])
    if (!old.has(question)) said.push(`question answered: ${question}`)
  const [oldNames, newNames] = [before.names ?? {}, after.names ?? {}]
  for (const end of changedKeys(oldNames, newNames))
    said.push(`${end} is called ${entryOf(newNames, end) ?? 'as usual'} in the program`)
  const [oldProofs, newProofs] = [before.bringup?.done ?? {}, after.bringup?.done ?? {}]
  const proofs = changedKeys(oldProofs, newProofs).length
  if (proofs > 0) said.push(`${counted(proofs, 'step')} of bring-up written down or taken back`)
  if ((before.settings?.hints ?? true) !== (after.settings?.hints ?? true))
    said.push(after.settings?.hints === false ? 'a task to be solved without hints' : 'hints are given')
  said.push(...commentDifference(before.comments ?? {}, after.comments ?? {}))
  said.push(...rehearsalDifference(before.rehearsal ?? {}, after.rehearsal ?? {}))
  if (before.bringup?.stage !== after.bringup?.stage) said.push(`the build is ${after.bringup?.stage ?? 'planned'}`)
  return [...said, ...benchDifference(before.bench, after.bench)]
}

function commentDifference(before: NonNullable<Plan['comments']>, after: NonNullable<Plan['comments']>): string[] {
  return changedKeys(before, after).map((id) => {
    const [was, now] = [entryOf(before, id), entryOf(after, id)]
    const one = (now ?? was)!
    const on = one.rule ?? (one.at[0] || 'the plan')
    const text = one.text.length > 60 ? `${one.text.slice(0, 58).trimEnd()} …` : one.text
    if (!now) return `comment on ${on} taken away: ${text}`
    if (!was) return `comment on ${on}: ${text}`
    return `comment on ${on} ${was.settled === now.settled ? 'changed' : now.settled ? 'settled' : 'open again'}: ${text}`
  })
}

function rehearsalDifference(before: Rehearsal, after: Rehearsal): string[] {
  const { programs: was = {}, ...oldScript } = before
  const { programs: now = {}, ...newScript } = after
  const said = changedKeys(was, now).map((ref) => {
    const [old, files] = [entryOf(was, ref), entryOf(now, ref)]
    if (!files) return `program of ${ref} put away`
    return `program of ${ref} ${old ? 'changed' : 'taken in'} (${changedKeys(old ?? {}, files).join(', ')})`
  })
  return changedKeys(oldScript, newScript).length === 0 ? said : [...said, 'script of the rehearsal changed']
}

function benchDifference(before: Bench | undefined, after: Bench | undefined): string[] {
  const said: string[] = []
  const [was, now] = [before?.breadboards ?? {}, after?.breadboards ?? {}]
  for (const ref of Object.keys(was)) if (!Object.hasOwn(now, ref)) said.push(`breadboard ${ref} removed`)
  for (const [ref, entry] of Object.entries(now)) {
    const old = entryOf(was, ref)
    if (!old) said.push(`breadboard ${ref} added (${entry.kind}${entry.joined ? ', clipped to the one before' : ''})`)
    else
      for (const key of changedKeys(old, entry))
        said.push(
          key === 'reserved'
            ? `${ref}: rows kept free: ${entry.reserved?.map((rows) => rows.join('-')).join(', ') ?? 'none'}`
            : `${ref}: ${key} ${show(old, key)} becomes ${show(entry, key)}`,
        )
  }
  const [oldPlaces, newPlaces] = [before?.places ?? {}, after?.places ?? {}]
  for (const ref of new Set([...Object.keys(oldPlaces), ...Object.keys(newPlaces)])) {
    const [old, place] = [entryOf(oldPlaces, ref), entryOf(newPlaces, ref)]
    if (JSON.stringify(old) === JSON.stringify(place)) continue
    said.push(place ? `${ref} ${placeWords(place)}` : `${ref} stands where the program puts it`)
  }
  const [oldVia, newVia] = [before?.via ?? {}, after?.via ?? {}]
  for (const end of changedKeys(oldVia, newVia))
    said.push(
      `the wire of ${end} is led ${Object.hasOwn(newVia, end) ? `over ${entryOf(newVia, end)}` : 'as the program likes'}`,
    )
  const [oldOrder, newOrder] = [was, now].map((all) => Object.keys(all).join(' '))
  if (oldOrder !== newOrder && oldOrder?.split(' ').sort().join(' ') === newOrder?.split(' ').sort().join(' '))
    said.push(`breadboards from the left: ${Object.keys(now).join(', ')}`)
  if (before?.spareRows !== after?.spareRows) said.push(`rows left free between parts: ${after?.spareRows ?? 1}`)
  const [oldDone, newDone] = [new Set(before?.done), new Set(after?.done)]
  const ticked = [...newDone].filter((wire) => !oldDone.has(wire)).length
  const open = [...oldDone].filter((wire) => !newDone.has(wire)).length
  if (ticked > 0) said.push(`${ticked} of the bench's wires ticked off`)
  if (open > 0) said.push(`${open} of the bench's wires no longer ticked off`)
  return said
}

function placeWords(place: BenchPlace): string {
  if (place.side !== undefined)
    return `lies to the ${place.side}, from row ${place.row ?? 1}${place.turned ? ', turned' : ''}${place.beside ? ', on jumper wires' : ''}`
  if (place.beside) return 'stands beside, on jumper wires'
  const holes = place.at ?? Object.values(place.legs ?? {}).join(' and ')
  return `stands in ${holes}${place.turned ? ', turned' : ''}`
}

/** Entries with the options that hold I2C addresses as people write them. */
function readable(entries: Readonly<Record<string, object>>, catalog: Catalog): Record<string, object> {
  return Object.fromEntries(
    Object.entries(entries).map(([ref, entry]) => {
      const { part, options } = entry as Partial<PlanPart>
      const addresses = catalog.parts.get(part ?? '')?.options.filter((option) => option.kind === 'i2c-address') ?? []
      if (!options || addresses.length === 0) return [ref, entry]
      const shown = Object.entries(options).map(([id, value]) => [
        id,
        addresses.some((one) => one.id === id) ? hexAddress(Number(value)) : value,
      ])
      return [ref, { ...entry, options: Object.fromEntries(shown) }]
    }),
  )
}

const wireKey = (wire: PlanWire): string => [wire[0], wire[1]].sort().join(' ')

const kindOf = (entry: object): string => {
  const { board, part, volts } = entry as { board?: string; part?: string; volts?: number }
  return board ?? part ?? `${volts} V`
}

function changedKeys(before: object, after: object): string[] {
  const keys = new Set([...Object.keys(before), ...Object.keys(after)])
  return [...keys].filter((key) => JSON.stringify(Reflect.get(before, key)) !== JSON.stringify(Reflect.get(after, key)))
}

function show(entry: object, key: string): string {
  const value: unknown = Reflect.get(entry, key)
  if (value === undefined) return 'unset'
  if (Array.isArray(value)) return value.length === 0 ? 'none' : value.join(', ')
  if (value !== null && typeof value === 'object')
    return Object.entries(value)
      .map(([name, one]) => `${name} ${typeof one === 'string' ? one : quoteValue(one)}`)
      .join(', ')
  return String(value)
}
