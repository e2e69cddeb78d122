import { entryOf } from '../base/entryOf.ts'
import { BASE_RESERVE, type BaseDrive, baseDrives } from '../circuit/bases.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { type LitDiode, litDiodes } from '../circuit/lit.ts'
import { pinLoads, RECOMMENDED_SLACK } from '../circuit/pinLoads.ts'
import { type SharedLimit, sharedLimits } from '../circuit/sharedLimits.ts'
import { preferredValue } from '../electrical/preferred.ts'
import type { Edit } from '../plan/edit.ts'
import { freshRef } from '../plan/refs.ts'
import type { Host, Net, PartInstance, Wiring } from '../wiring/model.ts'
import { SEEN_MILLIAMPS } from './madeFor.ts'
import { after, type Decision } from './progress.ts'
import { looseParts } from './spares.ts'

/** Current that a pin gives to a base where its board names none, in milliamperes. */
const PIN_MILLIAMPS = 10

/**
 * What a base needs is known when its load is placed. A base resistor that was put in before and is too large for it gets
 * another value; one of the kit's is changed for another that lies loose. Where even what the pin bears is too little
 * it stays, and the check says so. `now` is the wiring with the decisions; undefined when all of them fit.
 */
export function fitBases(
  wiring: Wiring,
  decisions: readonly Decision[],
  now: Wiring,
  tries = 3,
): Decision[] | undefined {
  let fitted = [...decisions]
  let changed = false
  // Two bases do not take the same resistor, nor the same name for a new one.
  const taken = new Set<string>()
  let bought = 0
  for (const drive of baseDrives(now)) {
    const resistor = baseResistor(now, drive)
    const span = resistor && spanOf(now, drive, resistor)
    if (!resistor || !span || span.has <= span.most) continue
    // As much as the load asks for; where the pin bears less, as much as that, if it carries the load at all.
    const best = preferredValue(span.most, 'down')
    const ohms = best >= span.least ? best : preferredValue(span.least, 'up')
    if (ohms > span.limit || ohms >= span.has) continue
    const isNew = entryOf(wiring.plan.parts, resistor.ref) === undefined
    if (!isNew && !placedHere(wiring, resistor)) continue
    changed = true
    if (isNew) {
      fitted = fitted.map((one) => withOhms(one, resistor.ref, ohms))
      continue
    }
    const loose = looseParts(now, resistor.part.id).find(
      ({ ref, options }) => !taken.has(ref) && Number(options.ohms) >= span.least && Number(options.ohms) <= span.most,
    )
    if (loose) {
      taken.add(loose.ref)
      fitted = exchanged(fitted, resistor.ref, loose.ref)
    }
    // One that is too large by half as much again is still better than another to buy.
    else if (span.has > span.limit) {
      bought += 1
      const ref = freshRef(now.plan, resistor.part.stem, bought).at(-1) as string
      const entry = { part: resistor.part.id, title: `for ${drive.channel.part.ref}`, options: { ohms } }
      const added: Decision = {
        edits: [{ do: 'add-part', ref, entry }],
        from: drive.channel.inputs[0] as string,
        to: ref,
        why: `the base needs more current than ${resistor.ref} lets through`,
      }
      fitted = [added, ...exchanged(fitted, resistor.ref, ref)]
    }
  }
  // At a higher current the pin itself drops more.
  if (!changed) return undefined
  return (tries > 1 ? fitBases(wiring, fitted, after(wiring, fitted), tries - 1) : undefined) ?? fitted
}

/** Share of a limit of several pins that the lamps of an answer take at most: a resistor of 5 % may be off to the other side. */
const LEFT_OF_LIMIT = 0.9

/**
 * Resistors that were put in before lamps, or that lie there to be bought, larger where the output that came to light them
 * bears less than the usual one, or where all that its chip lights is too much together. Those of the kit stay.
 */
export function fitLamps(before: Wiring, decisions: readonly Decision[], now: Wiring): Decision[] | undefined {
  // What has a pin already stays as it is.
  const placed = new Set(before.signals.flatMap(({ part, hosts }) => (hosts.length > 0 ? [part.ref] : [])))
  const lit = litDiodes(now).flatMap((lamp): FittedLamp[] => {
    const { host, resistor, milliamps, part } = lamp
    const kept = resistor && entryOf(before.plan.parts, resistor.ref)
    if (!host || !resistor || !Number.isFinite(milliamps) || (kept && (!kept.buy || placed.has(part.ref)))) return []
    return [{ ...lamp, host, resistor, wanted: wantedOf(host, lamp) }]
  })
  const limits = sharedLimits(now)
  const shrunk = lit.map(({ wanted, ...lamp }) => ({
    ...lamp,
    wanted: limits
      .filter(({ loads }) => loads.some(({ host }) => host === lamp.host))
      .reduce((least, limit) => Math.min(least, wanted * shareOf(limit, lit)), wanted),
  }))
  const larger = new Map<string, number>()
  for (const { wanted, milliamps, volts, forward, resistor } of shrunk) {
    if (wanted >= milliamps) continue
    const ohms = preferredValue(((volts - forward) / wanted) * 1000, 'up')
    larger.set(resistor.ref, Math.max(ohms, larger.get(resistor.ref) ?? 0))
  }
  if (larger.size === 0) return undefined
  const changes = [...larger].filter(([ref]) => entryOf(before.plan.parts, ref))
  return [
    ...changes.map(([ref, ohms]): Decision => {
      const options = { ...entryOf(before.plan.parts, ref)?.options, ohms }
      const why = 'keeps what its output carries within bounds'
      return { edits: [{ do: 'change-part', ref, entry: { options } }], from: ref, to: ref, why }
    }),
    ...decisions.map((one) => [...larger].reduce((sofar, [ref, ohms]) => withOhms(sofar, ref, ohms), one)),
  ]
}

/** A lamp behind a resistor that is not of the kit, and what it should take at most, in milliamperes. */
type FittedLamp = LitDiode & { readonly host: Host; readonly resistor: PartInstance; readonly wanted: number }

/** What a lamp takes, or what its output is to carry where that is less. */
function wantedOf({ current }: Host, { way, milliamps }: LitDiode): number {
  const bears = current?.[way] ?? current?.recommended
  return bears === undefined || milliamps <= bears * RECOMMENDED_SLACK
    ? milliamps
    : Math.min(bears, current?.recommended ?? bears)
}

/** To which share of what they want lamps have to come down for a limit of several pins; 1 where they need not, or cannot be seen then. */
function shareOf({ loads, milliamps, absolute, recommended }: SharedLimit, lit: readonly FittedLamp[]): number {
  const limit = recommended ?? absolute
  const here = lit.filter(({ host }) => loads.some((load) => load.host === host))
  const now = here.reduce((sum, one) => sum + one.milliamps, 0)
  const wanted = here.reduce((sum, one) => sum + one.wanted, 0)
  const others = milliamps - now
  if (limit === undefined || others + wanted <= limit) return 1
  const share = (limit * LEFT_OF_LIMIT - others) / wanted
  return share * Math.min(...here.map((one) => one.wanted)) < SEEN_MILLIAMPS ? 1 : share
}

/** Most ohms of a pull: above it the leakage of a pin decides. */
const MOST_PULL_OHMS = 1_000_000

/**
 * Pulls that were put in, larger where a pin that works against them bears less: behind the shifters of some boards next
 * to nothing. Those of the kit stay, and the check speaks of them.
 */
export function fitPulls(before: Wiring, decisions: readonly Decision[], now: Wiring): Decision[] | undefined {
  const larger = new Map<string, number>()
  for (const { host, source, sink, parts } of pinLoads(now)) {
    const { recommended, absolute } = host.current ?? {}
    const most = recommended === undefined ? absolute : recommended * RECOMMENDED_SLACK
    const load = Math.max(source, sink)
    // What a part takes is no matter of its pulls.
    const isPulls = now.parts.every(({ ref, part }) => !parts.includes(ref) || part.helper === 'resistor')
    if (most === undefined || most <= 0 || load <= most || !isPulls) continue
    for (const { ref, options } of pullsAround(now, now.netOf(host.end))) {
      const ohms = preferredValue((Number(options.ohms) * load) / most, 'up')
      const isNew = entryOf(before.plan.parts, ref) === undefined
      if (isNew && ohms <= MOST_PULL_OHMS) larger.set(ref, Math.max(ohms, larger.get(ref) ?? 0))
    }
  }
  if (larger.size === 0) return undefined
  return decisions.map((one) => [...larger].reduce((sofar, [ref, ohms]) => withOhms(sofar, ref, ohms), one))
}

/** Resistors to a rail on a line, and on the other lines of what lies there: of a field of keys the pulls of its columns. */
function pullsAround(wiring: Wiring, net: Net): PartInstance[] {
  const circuit = circuitOf(wiring)
  const isRail = (one: Net): boolean => one.ground || one.sources.length > 0
  const owners = net.ends.flatMap((end) => wiring.terminal(end)?.owner ?? [])
  const lines = owners.flatMap((owner) =>
    owner.kind === 'part' ? owner.part.pins.map(({ id }) => wiring.netOf(`${owner.ref}.${id}`)) : [],
  )
  return [...new Set([net, ...lines])].flatMap((line) =>
    isRail(line)
      ? []
      : circuit
          .on(line)
          .filter(
            ({ kind, part, netA, netB }) =>
              kind === 'resistor' && part.part.category === 'passive' && isRail(netA === line ? netB : netA),
          )
          .map(({ part }) => part),
  )
}

/** A resistor of the kit that was loose before: nothing of it was wired by the maker. */
const placedHere = (wiring: Wiring, { ref, part }: PartInstance): boolean =>
  part.pins.every((pin) => !wiring.netOf(`${ref}.${pin.id}`).wired)

/** The resistor in series with the base, where there is just one. */
function baseResistor(wiring: Wiring, { channel }: BaseDrive): PartInstance | undefined {
  const net = wiring.netOf(channel.inputs[0] as string)
  const all = circuitOf(wiring)
    .on(net)
    .filter(({ kind, netA, netB }) => kind === 'resistor' && ![netA, netB].some((one) => one.ground))
  return all.length === 1 ? all[0]?.part : undefined
}

/** Ohms that it has, the least that the pin bears, the most for a load with reserve, and the limit for it at all. */
function spanOf(
  wiring: Wiring,
  { channel, gain, forward, runs }: BaseDrive,
  resistor: PartInstance,
): { readonly has: number; readonly least: number; readonly most: number; readonly limit: number } | undefined {
  const use = wiring.signal(channel.inputs[0] as string)
  const host = use?.hosts[0]?.host
  const has = Number(resistor.options.ohms)
  if (!(has > 0)) return undefined
  const volts = (forward * has) / 1000
  // What the pin and the base drop besides does not change by much: the same volts lie across another resistor.
  const wanted = (BASE_RESERVE * runs) / gain
  const bears = host?.current?.recommended ?? host?.current?.absolute ?? PIN_MILLIAMPS
  return {
    has,
    least: (volts / bears) * 1000,
    most: (volts / wanted) * 1000,
    limit: ((volts * gain) / runs) * 1000,
  }
}

/** A decision that adds a resistor, with another value. */
const withOhms = (decision: Decision, ref: string, ohms: number): Decision => ({
  ...decision,
  edits: decision.edits.map(
    (edit): Edit =>
      edit.do === 'add-part' && edit.ref === ref
        ? { ...edit, entry: { ...edit.entry, options: { ...edit.entry.options, ohms } } }
        : edit,
  ),
})

/** Decisions with another part in the place of one. */
function exchanged(decisions: readonly Decision[], ref: string, other: string): Decision[] {
  const end = (one: string): string =>
    one === ref || one.startsWith(`${ref}.`) ? `${other}${one.slice(ref.length)}` : one
  return decisions.map(({ edits, from, to, why }) => ({
    edits: edits.map((edit): Edit => ('from' in edit ? { ...edit, from: end(edit.from), to: end(edit.to) } : edit)),
    from: end(from),
    to: end(to),
    why,
  }))
}
