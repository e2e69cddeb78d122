import { memo } from '../base/memo.ts'
import { isLoad } from '../catalog/common.ts'
import type { Companion, Part } from '../catalog/partSchema.ts'
import { resetStates } from '../circuit/atReset.ts'
import { circuitOf, type DriverChannel, railOf } from '../circuit/circuit.ts'
import { otherLeg } from '../circuit/reach.ts'
import type { Edit } from '../plan/edit.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Net, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { groundEnd } from '../wiring/supply.ts'
import { waysThrough } from '../wiring/waysThrough.ts'
import { switchedLoads, takesKick } from '../wiring/windings.ts'
import { addCompanions } from './companions.ts'
import { after, type Decision, type Refusal } from './progress.ts'
import { isLoose, spareFor } from './spares.ts'
import { highEnd } from './tying.ts'

/** What a used driver still lacks: inputs and enables that need a pin, and wires that need none. */
export interface Unfinished {
  readonly signals: readonly SignalUse[]
  readonly wires: readonly Decision[]
}

/**
 * Channels of drivers that carry a load, looked at once more: an input that waits wants a pin of its own, also where the
 * part can do without it; so does an enable that takes pulses. A plain enable is held at its level. The pin on which the
 * diodes of a driver meet goes to the supply of its load.
 */
export function unfinishedDrivers(wiring: Wiring, wanted: (ref: string) => boolean): Unfinished {
  const signals = new Map<string, SignalUse>()
  const wires = new Map<string, Decision>()
  const wire = (from: string, to: string | undefined, why: string): void => {
    if (to !== undefined && !wires.has(from)) wires.set(from, { edits: [{ do: 'connect', from, to }], from, to, why })
  }
  const { channels } = circuitOf(wiring)
  for (const channel of channels) {
    const { part } = channel
    if (channel.loads.length === 0 || !wanted(part.ref)) continue
    for (const end of channel.inputs) {
      const use = waiting(wiring, end)
      if (use) signals.set(end, use)
    }
    for (const { end, active, held } of channel.enables) {
      const use = waiting(wiring, end)
      if (held || !use) continue
      if (use.facts.needs === 'pwm') signals.set(end, use)
      else
        wire(
          end,
          active === 'high' ? highEnd(wiring, part, levelsOf(use).most) : groundEnd(wiring, part),
          `holds the outputs on: ${use.facts.text ?? 'enable'}`,
        )
    }
    const clamp = part.part.provides.find((one) => one.pins.includes(pinOf(channel)))?.clamp
    const coil = channel.loads.some((one) => one.kind === 'winding' || one.part.part.inner.some(isWinding))
    if (clamp === undefined || !coil || wiring.netOf(`${part.ref}.${clamp}`).wired) continue
    // Where the diodes meet at the supply of the driver, it is fed like any other.
    if (part.supplies.some(({ pins }) => pins.includes(`${part.ref}.${clamp}`))) continue
    // Of several supplies the highest: from one above it the diodes would conduct all the time.
    const [source] = channels
      .filter((one) => one.part === part)
      .flatMap((one) => one.loads.flatMap((load) => supplyOf(wiring, one, load) ?? []))
      .sort((a, b) => voltsAt(wiring, b) - voltsAt(wiring, a))
    wire(`${part.ref}.${clamp}`, source, 'the diodes lead the current of the winding back to its supply')
  }
  return { signals: [...signals.values()], wires: [...wires.values()] }
}

const pinOf = ({ part, output }: DriverChannel): string => output.slice(part.ref.length + 1)

const voltsAt = (wiring: Wiring, end: string): number => wiring.netOf(end).sources[0]?.volts ?? 0

const isWinding = ({ kind }: { readonly kind: string }): boolean => kind === 'winding'

/** The signal of a pin that nothing moves and nothing holds. */
function waiting(wiring: Wiring, end: string): SignalUse | undefined {
  const use = wiring.signal(end)
  return use && use.state === 'open' && railOf(wiring.netOf(end)) === undefined ? use : undefined
}

/** The source on the other side of a load: straight, or that of the part in which the winding lies. */
function supplyOf(wiring: Wiring, { output }: DriverChannel, load: DriverChannel['loads'][number]): string | undefined {
  const net = wiring.netOf(output)
  const far = load.netA === net ? load.netB : load.netA
  return far.sources[0]?.end ?? load.part.supplies.find(({ source }) => source)?.source?.end
}

/** Drivers that lay loose and switch nothing in the end, though the kit has loads that could have come to them. */
export function idleDrivers(wiring: Wiring, edits: readonly Edit[]): ReadonlySet<string> {
  const loose = wiring.parts.filter((part) => part.part.channels.length > 0 && isLooseDriver(wiring, part))
  const joined = new Set(edits.flatMap((edit) => (edit.do === 'connect' ? [edit.from, edit.to] : [])))
  return new Set(
    loose.flatMap((one) =>
      (!couldCarry(wiring, one) && one.part.build !== 'component') ||
      one.part.channels.some(({ output }) => joined.has(`${one.ref}.${output}`))
        ? []
        : [one.ref],
    ),
  )
}

/**
 * A plan holds a load that the driver is there for: an amplifier is there for a speaker alone, and a bridge for nothing
 * that a pin could move as well.
 */
export function couldCarry(wiring: Wiring, { part }: PartInstance): boolean {
  const loads = loadsIn(wiring)
  return part.provides.some((one) =>
    loads.some(({ id, isLight }) =>
      one.for === undefined ? !isLight || !one.does.includes('bridge') : one.for.includes(id),
    ),
  )
}

/** The kinds of parts that a driver switches or moves; light are those that a pin may move as well. */
const loadsIn = memo((wiring: Wiring): readonly { readonly id: string; readonly isLight: boolean }[] =>
  wiring.signals.flatMap(({ part, end, facts }) =>
    isLoad(facts.needs) || otherLeg({ owner: part, end }) !== undefined
      ? [{ id: part.part.id, isLight: !isLoad(facts.needs) }]
      : [],
  ),
)

/** Nothing has reached it but what came along with it, such as a resistor at its base whose other leg waits. */
function isLooseDriver(wiring: Wiring, { ref, part }: PartInstance): boolean {
  const own = new Set(part.pins.map(({ id }) => wiring.netOf(`${ref}.${id}`)))
  return [...own].every((net) =>
    net.ends.every((end) => {
      const owner = wiring.terminal(end)?.owner
      if (owner?.kind !== 'part' || owner.ref === ref) return owner?.kind === 'part'
      return (
        owner.part.helper !== undefined &&
        owner.part.pins.every(({ id }) => {
          const other = wiring.netOf(`${owner.ref}.${id}`)
          return own.has(other) || !other.wired
        })
      )
    }),
  )
}

/** Shifters, buffers and converters of lines that lay loose and over which nothing was led in the end. */
export function idleLanes(wiring: Wiring, edits: readonly Edit[]): ReadonlySet<string> {
  const joined = new Set(edits.flatMap((edit) => (edit.do === 'connect' ? [edit.from, edit.to] : [])))
  return new Set(
    wiring.parts.flatMap((part) => {
      const lanes = waysThrough(part)
      if (lanes.length === 0 || part.part.category !== 'bus' || !isLoose(wiring, part)) return []
      const isUsed = lanes.some(({ from, to }) => joined.has(from) && joined.has(to))
      return !isUsed && hasOther(wiring, part) ? [part.ref] : []
    }),
  )
}

/** The kit has something else whose lines could have been led over it. */
const hasOther = (wiring: Wiring, { ref }: PartInstance): boolean =>
  wiring.signals.some((use) => use.part.ref !== ref && use.facts.required)

/** Converters and cells that lay loose and on whose plus nothing but capacitors come to hang. */
export function idleSources(wiring: Wiring, edits: readonly Edit[]): ReadonlySet<string> {
  const joined = edits.flatMap((edit) => (edit.do === 'connect' ? [[edit.from, edit.to]] : []))
  const isCompanion = (end: string): boolean => {
    const ref = end.slice(0, end.indexOf('.'))
    const part = wiring.parts.find((one) => one.ref === ref)?.part ?? addedPart(wiring, edits, ref)
    return part?.helper === 'capacitor'
  }
  return new Set(
    wiring.parts.flatMap((one) => {
      const { ref, part } = one
      if (part.category !== 'power' || part.rails.length === 0 || !isLoose(wiring, one)) return []
      const own = part.pins.map(({ id }) => `${ref}.${id}`)
      const rails = part.rails.map(({ pin }) => `${ref}.${pin}`)
      const feeds = joined.some((wire) =>
        wire.some((end, at) => rails.includes(end) && !isCompanion(wire[1 - at] as string)),
      )
      return !feeds && joined.flat().some((end) => own.includes(end)) ? [ref] : []
    }),
  )
}

const addedPart = (wiring: Wiring, edits: readonly Edit[], ref: string): Part | undefined => {
  const added = edits.find((edit) => edit.do === 'add-part' && edit.ref === ref)
  return added?.do === 'add-part' ? wiring.catalog.parts.get(added.entry.part) : undefined
}

/** A part across a load which nothing switches in the end: a capacitor alone makes no motor run. */
export function isAcrossNothing({ edits, from }: Decision, refused: readonly Refusal[]): boolean {
  if (!refused.some(({ end }) => end === from)) return false
  const owner = from.slice(0, from.indexOf('.') + 1)
  const joined = edits.flatMap((edit) => (edit.do === 'connect' ? [edit.from, edit.to] : []))
  return joined.filter((end) => end.startsWith(owner)).length > 1
}

/** Resistors that keep bare gates off while the board starts, where nothing else holds them. */
export const holdAtStart = (wiring: Wiring, wanted: (ref: string) => boolean): readonly Decision[] => {
  const loose = new Set(
    resetStates(wiring).flatMap(({ cause, use }) => (cause === 'nothing' && wanted(use.part.ref) ? [use.end] : [])),
  )
  return addCompanions(
    wiring,
    (ref) => [...loose].some((end) => end.startsWith(`${ref}.`)),
    (one, ref) => one.across?.some((pin) => loose.has(`${ref}.${pin}`)) === true,
    true,
  ).decisions
}

/** Diodes across windings that a bare transistor switches; a driver with its own, a bridge and a relay need none. */
export const clampWindings = (wiring: Wiring, wanted: (ref: string) => boolean): readonly Decision[] => {
  const bare = new Set(
    switchedLoads(wiring).flatMap(({ use, clamped, clamp }) => (clamped || clamp !== undefined ? [] : [use.end])),
  )
  const kicks = (one: Companion, ref: string, on: ReadonlySet<string>): boolean =>
    takesKick(wiring.catalog, one) && one.across?.some((pin) => on.has(`${ref}.${pin}`)) === true
  const clamps =
    bare.size === 0 ? [] : addCompanions(wiring, wanted, (one, ref) => kicks(one, ref, bare), true).decisions
  // A contact bears the spark for a while, and a fan keeps little: a diode that lies in the kit spares what switches
  // them, none is bought for it.
  const spareable = new Set([...contactLoads(wiring), ...loadsWithoutWinding(wiring)])
  if (spareable.size === 0) return clamps
  const clamped = after(wiring, clamps)
  // One after the other, so that the next sees what is taken.
  const spared = clamped.parts.reduce<{ now: Wiring; decisions: readonly Decision[] }>(
    ({ now, decisions }, { ref }) => {
      const owner = now.parts.find((part) => part.ref === ref) as PartInstance
      const { wiring: next, decisions: more } = addCompanions(
        now,
        (one) => one === ref && wanted(one),
        (one) => kicks(one, ref, spareable) && spareFor(now, owner, one, new Set()) !== undefined,
      )
      return { now: next, decisions: [...decisions, ...more] }
    },
    { now: clamped, decisions: [] },
  )
  return [...clamps, ...spared.decisions]
}

/** Ends of loads without a bare winding that a transistor without diodes of its own switches. */
const loadsWithoutWinding = ({ signals }: Wiring): string[] =>
  signals.flatMap(({ end, facts, part, hosts }) => {
    const isLoad = part.part.inner.some(({ kind, between }) => kind === 'load' && between.includes(facts.pin))
    const isBare = hosts.some(
      ({ host: { provider, pin } }) =>
        provider?.part.build === 'component' &&
        provider.part.provides.some(({ pins, clamp }) => pins.includes(pin) && clamp === undefined),
    )
    return isLoad && isBare ? [end] : []
  })

/** Ends of windings and other loads of which one side hangs on the contact of a relay, and the other on none. */
function contactLoads(wiring: Wiring): ReadonlySet<string> {
  const circuit = circuitOf(wiring)
  const isMoved = (net: Net): boolean =>
    circuit.on(net).some(({ kind, moved }) => kind === 'contact' && moved !== undefined)
  return new Set(
    circuit.elements.flatMap(({ kind, a, b, netA, netB }) =>
      (kind === 'winding' || kind === 'load') && isMoved(netA) !== isMoved(netB) ? [a, b] : [],
    ),
  )
}
