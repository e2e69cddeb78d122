import { entryOf } from '../base/entryOf.ts'
import { volts } from '../catalog/common.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { otherLeg } from '../circuit/reach.ts'
import { networkOf } from '../circuit/still.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { busNeed } from '../wiring/buses.ts'
import type { SignalUse, Terminal, TieUse, Wiring } from '../wiring/model.ts'
import { groundEnd, supplyEnd } from '../wiring/supply.ts'
import type { Rule } from './finding.ts'
import { listWords } from './shared.ts'

export const strapNeeded: Rule = {
  meta: {
    id: 'strap-needed',
    severities: ['fault', 'caution', 'tip'],
    about:
      'A pin that chooses mode or address, or switches the part on, is open, or wired to the opposite of what the chosen option says. A caution where the part works without it, a tip where everything that serves that is open.',
    messages: {
      rests: '{pin} {rests} and must go to {target}{because}.',
      open: '{pin} is open and must go to {target}{because}.',
      adrift: '{pin} is wired to {others} alone and must go to {target}{because}.',
      wrong: '{pin} is on {is} and must go to {target}{because}.',
    },
    lacking: ['open', 'adrift'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const said = new Set<string>()
    for (const tie of wiring.ties) {
      // Components such as a button or a sensor resistor may be turned round, and a load of two legs may be switched at
      // either; other rules look at them.
      if (tie.part.part.build === 'component' || otherLeg({ owner: tie.part, end: tie.end }) !== undefined) continue
      const touched = tie.part.part.pins.some((pin) => wiring.netOf(`${tie.part.ref}.${pin.id}`).wired)
      const rests = touched && tie.state === 'right' ? restOf(wiring, tie) : undefined
      if (!touched || (tie.state !== 'wrong' && tie.state !== 'open' && !rests)) continue
      const net = wiring.netOf(tie.end)
      const is = net.ground ? 'ground' : net.sources.length > 0 ? 'a supply' : 'something else'
      const option = typeof tie.facts.to === 'object' ? tie.facts.to.option : undefined
      const because = option === undefined ? '' : ` for ${option} ${valueWords(tie, option)}`
      const what = tie.facts.text ?? 'fixed by the maker of the plan'
      const without = tie.state === 'open' ? tie.facts.open : undefined
      // What is left out as a whole is a choice; what has half of its wires was forgotten.
      const others = without === undefined ? [] : wiring.ties.filter((one) => isBeside(one, tie))
      const isLeftOut = others.length > 0 && others.every(({ state }) => state === 'open')
      if (isLeftOut && wiring.ties.indexOf(others[0] as TieUse) < wiring.ties.indexOf(tie)) continue
      // Of pins that wait together one wire serves all.
      const isAdrift = tie.state === 'open' && net.wired
      const together = isAdrift ? net.ends.flatMap((end) => (end === tie.end ? [] : [nameOf(wiring, end)])).sort() : []
      if (isAdrift) {
        const key = `${net.index} ${tie.to}`
        if (said.has(key)) continue
        said.add(key)
      }
      report({
        severity: without === undefined ? 'fault' : isLeftOut ? 'tip' : 'caution',
        at: [tie.end, ...(isAdrift ? alike(wiring, tie) : [])],
        message: rests ? 'rests' : isAdrift ? 'adrift' : tie.state === 'open' ? 'open' : 'wrong',
        data: { pin: tie.end, rests, others: listWords(together), target: targetWords(tie), because, is },
        why: `${what[0]?.toUpperCase()}${what.slice(1)}. ${without ?? (tie.state === 'open' ? 'Left open it floats, and what it chooses changes with the weather.' : 'As it is wired the part takes the other choice: it answers elsewhere or not at all.')}`,
        numbers: {},
        propose: () => fixes(wiring, tie),
      })
    }
  },
}

/** Pins that wait with it for the same. */
const alike = (wiring: Wiring, { end, to }: TieUse): string[] =>
  wiring.ties.flatMap((one) =>
    one.end !== end && one.to === to && wiring.netOf(one.end) === wiring.netOf(end) ? [one.end] : [],
  )

/** A pin of a chip; a part of two legs as a whole. */
function nameOf(wiring: Wiring, end: string): string {
  const owner = wiring.terminal(end)?.owner
  return owner?.kind === 'part' && owner.part.category === 'passive' ? owner.ref : end
}

/** Another pin of the part that serves the same. */
const isBeside = (one: TieUse, tie: TieUse): boolean =>
  one !== tie && one.part === tie.part && one.facts.open === tie.facts.open

/** A pin that has a wire floats behind a leg that leads nowhere or a contact that is open, or is held at the other level. */
function restOf(wiring: Wiring, tie: TieUse): string | undefined {
  const net = wiring.netOf(tie.end)
  if (net.ground || net.sources.length > 0) return undefined
  const circuit = circuitOf(wiring)
  const target = wiring.signal(`${tie.part.ref}.${tie.to}`)
  if (target && isMoving(target, tie)) return undefined
  const hosts = circuit.at(net).map(({ host }) => host)
  const movers = wiring.signals.filter(
    (use) =>
      use.end !== tie.end &&
      isMoving(use, tie) &&
      (wiring.netOf(use.end) === net || use.hosts.some(({ host }) => hosts.includes(host))),
  )
  const moving = movers.find(({ part }) => part === tie.part) ?? movers[0]
  if (moving) return `changes with ${moving.end}`
  if (tie.to !== 'ground' && tie.to !== 'supply') return undefined
  const contact = circuit.on(net).find((one) => one.kind === 'contact' && !one.throws)
  const isOwn = (end: string): boolean => end === tie.end || wiring.terminal(end)?.owner === contact?.part
  const mover = circuit.at(net).find(({ role, host, terminal }) => role === 'out' && !host && !isOwn(terminal.end))
  const isLogic = volts(entryOf(tie.part.part.levels, tie.facts.levels ?? 'logic')?.vih, 1) !== undefined
  // One chip of gates or registers moves the next one on purpose.
  if (mover && isChip(mover.terminal.owner) && isChip(tie.part)) return undefined
  if (mover && isLogic && circuit.at(net).every(({ host }) => !host)) return `is moved by ${mover.terminal.end}`
  // What drives it, or may, says the level.
  if (circuit.at(net).some((port) => port.host || (!isOwn(port.terminal.end) && port.role !== 'passive')))
    return undefined
  const pulls = circuit.on(net).filter((one) => one.kind === 'resistor')
  if (pulls.length === 0)
    return contact && tie.facts.held === undefined ? `floats while ${contact.part.ref} is open` : undefined
  const held = networkOf(wiring).pulled(net)
  const [first] = pulls
  if (held === undefined) return `hangs on ${first!.part.ref}, which leads nowhere,`
  const supply = tie.part.logicVolts
  if (supply === undefined) return undefined
  const isHigh = held > supply * 0.7
  const isLow = held < supply * 0.3
  if (tie.to === 'supply' ? isHigh : isLow) return undefined
  return `is held at ${formatVolts(held)} by ${first!.part.ref}`
}

/** A line that does not rest while the part works: of a bus, one of which the changes count, or one that moves another part. */
const isMoving = ({ facts: { needs, moves, direction, off }, part, hosts }: SignalUse, tie: TieUse): boolean =>
  moves ||
  busNeed(needs) !== undefined ||
  (part !== tie.part && direction === 'in' && off === undefined && hosts.length > 0)

const isChip = (owner: Terminal['owner']): boolean =>
  owner.kind === 'part' && owner.part.category === 'expander' && owner.part.build === 'chip'

const targetWords = (tie: TieUse): string =>
  tie.to === 'ground' || tie.to === 'supply'
    ? tie.to === 'supply'
      ? 'its supply'
      : 'ground'
    : `${tie.part.ref}.${tie.to}`

function valueWords(tie: TieUse, option: string): string {
  const value = entryOf(tie.part.options, option)
  const facts = tie.part.part.options.find((one) => one.id === option)
  return facts?.kind === 'i2c-address' && typeof value === 'number'
    ? `0x${value.toString(16).toUpperCase().padStart(2, '0')}`
    : String(value)
}

function fixes(wiring: Wiring, tie: TieUse) {
  // What is joined with it and waits for the same comes along.
  const net = wiring.netOf(tie.end)
  const waitsAlike = wiring.ties.every(({ end, to }) => wiring.netOf(end) !== net || to === tie.to)
  const wires =
    tie.state === 'open' && waitsAlike ? [] : wiring.plan.wires.filter((wire) => [wire[0], wire[1]].includes(tie.end))
  const to =
    tie.to === 'ground'
      ? groundEnd(wiring, tie.part)
      : tie.to === 'supply'
        ? supplyEnd(wiring, tie.part)
        : `${tie.part.ref}.${tie.to}`
  if (to === undefined || wires.some((wire) => wire[2]?.locked)) return []
  return [
    {
      title: `Join ${tie.end} to ${to}`,
      edits: [
        ...wires.map(([from, other]) => ({ do: 'disconnect' as const, from, to: other })),
        { do: 'connect' as const, from: tie.end, to },
      ],
    },
  ]
}
