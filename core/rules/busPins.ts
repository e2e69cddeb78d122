import { rewireBus } from '../assign/rewireBus.ts'
import type { Controller } from '../catalog/boardControllers.ts'
import type { Fix } from '../plan/edit.ts'
import { busNeed, busPins, carries } from '../wiring/buses.ts'
import type { BoardInstance, Bus, SignalUse, Wiring } from '../wiring/model.ts'
import { needWords } from '../wiring/needs.ts'
import { deafPin, isOnAnyPins, listeningPins, softwareBus, tooFastForSoftware } from '../wiring/softwareBus.ts'
import type { Report, Rule } from './finding.ts'
import { moveTo, swapWires } from './mend.ts'
import { listWords } from './shared.ts'
import { crossedOnBoard } from './uartCross.ts'

export const busPinsRule: Rule = {
  meta: {
    id: 'bus-pins',
    severities: ['fault', 'caution'],
    about: 'Bus signals on pins that no one controller reaches, on pins of two controllers, or swapped.',
    messages: {
      onExpander: '{signal} needs {need}, and {pin} is an expander pin.',
      swapped: '{one} and {two} of {parts} are swapped.',
      usualSwapped: '{one} and {two} of {parts} are on the pins that {title} usually takes, the other way round.',
      channels: '{lines} of {part} {lines:lies/lie} on different channels: {places}.',
      taken: '{board} has no {kind} controller left for {parts}.',
      tooFast:
        '{speakers} {speakers:speaks/speak} at {baud} baud or more, and on these pins of {board} a program has to listen: up to {most} baud.',
      deaf: '{parts} cannot be heard at {pin}: no change there wakes a program that listens.',
      unreachable: 'No {kind} controller of {board} reaches {places} ({parts}).',
    },
    fixable: true,
  },
  check(wiring, report) {
    for (const bus of wiring.buses) {
      if (sayChannels(wiring, bus, report)) continue
      const offBoard = bus.uses.find(
        (use) =>
          bus.controller === undefined &&
          busNeed(use.facts.needs)!.signal !== 'cs' &&
          use.hosts.length > 0 &&
          use.hosts.every(({ host }) => host.provider),
      )
      if (offBoard) {
        report({
          severity: 'fault',
          at: [offBoard.end, offBoard.hosts[0]!.host.end],
          message: 'onExpander',
          data: { signal: offBoard.end, need: needWords(offBoard.facts.needs), pin: offBoard.hosts[0]!.host.end },
          why: 'An expander pin changes only when a message over its own bus says so, hundreds of times slower than a bus clock.',
          numbers: {},
          propose: () => rewireBus(wiring, bus),
        })
      }
      const board = bus.board
      if (board) sayUsual(wiring, bus, board, report)
      if (!board || bus.controller !== undefined || softwareBus(bus) || crossedOnBoard(bus)) continue
      const pins = busPins(bus)
      // Two lines on one pin are pin-shared's.
      const all = [...pins.values()].flatMap((on) => [...on])
      if (new Set(all).size < all.length) continue
      const controllers = board.board.controllers.filter((one) => one.kind === bus.kind)
      // Where a matrix takes any signal to any pin, crossed lines are no more than a poor choice of pins.
      const swapped = swappedPair(bus, pins, (one) =>
        controllers.some((controller) => controller.matrix === undefined && carries(board, controller, one)),
      )
      if (!swapped && isOnAnyPins(bus)) continue
      const places = [...pins].map(([signal, on]) => `${signal.toUpperCase()} on ${[...on].join(' and ')}`)
      const taken = controllers.filter((one) => carries(board, one, pins)).length > 0
      const parts = listWords(bus.parts.map((part) => part.ref))
      const kind = needWords(`${bus.kind}.x`).split(' ')[0]
      const fast = tooFastForSoftware(bus)
      const deaf = deafPin(bus)
      report({
        // What libraries speak to over any pins may be meant so.
        severity: isOnAnyPins(bus) ? 'caution' : 'fault',
        at: [board.ref, ...bus.parts.map((part) => part.ref)],
        message: swapped ? 'swapped' : taken ? 'taken' : fast ? 'tooFast' : deaf ? 'deaf' : 'unreachable',
        data: {
          one: swapped?.[0].toUpperCase(),
          two: swapped?.[1].toUpperCase(),
          parts,
          board: board.ref,
          kind,
          places,
          speakers: bus.parts.map((part) => part.ref),
          baud: fast?.baud,
          most: fast?.way.most,
          pin: deaf && `${board.ref}.${deaf}`,
        },
        why: `${controllers.length === 0 ? `${board.ref} has no ${kind} controller.` : `${board.ref} has ${controllers.map((one) => `${one.title}${reached(one)}`).join('; ')}.`} ${taken ? 'Each carries one bus, and all that reach these pins are taken by others.' : deaf ? `A program without one is woken by changes at ${listedPins(listeningPins(board))}: move the line that it reads there.` : 'All lines of one bus must lie on pins of one controller.'}`,
        numbers: { controllers: controllers.length },
        propose: () => (swapped ? swapBack(wiring, bus, swapped) : rewireBus(wiring, bus)),
      })
    }
  },
}

/** Where a line of a part lies: on the board, or on a channel of a bus switch or bridge, and as which of its lines. */
interface ChannelPlace {
  readonly use: SignalUse
  readonly signal: string
  readonly end: string
  readonly channel: string
  readonly as: string | undefined
  /** The pins of its channel, by line. */
  readonly pins: Readonly<Record<string, string>>
}

function channelPlace(use: SignalUse): ChannelPlace | undefined {
  const { kind, signal } = busNeed(use.facts.needs)!
  const [at] = use.hosts
  if (signal === 'cs' || !at) return undefined
  const { host } = at
  if (!host.provider) return { use, signal, end: host.end, channel: 'board', as: undefined, pins: {} }
  const given = host.provider.part.controllers.find(
    (one) => one.kind === kind && Object.values(one.pins).includes(host.pin),
  )
  const as = given && Object.entries(given.pins).find(([, pin]) => pin === host.pin)?.[0]
  const { ref } = host.provider
  const pins = Object.entries(given?.pins ?? {}).map(([line, pin]) => [line, `${ref}.${pin}`])
  return given && { use, signal, end: host.end, channel: `${ref} ${given.id}`, as, pins: Object.fromEntries(pins) }
}

/** A line goes to the channel on which the other one lies; with what lies there it changes places. */
function toChannelOf(wiring: Wiring, other: ChannelPlace, line: ChannelPlace): Fix[] {
  const to = other.pins[line.signal]
  if (to === undefined) return []
  const there = wiring.signals.find(({ hosts }) => hosts.some(({ host }) => host.end === to))
  return there ? swapWires(wiring, line.use.end, there.end) : moveTo(wiring, line.use.end, to)
}

/** Lines of a part on two channels of what gives it its bus, or exchanged on one; whether something was said. */
function sayChannels(wiring: Wiring, bus: Bus, report: (one: Report) => void): boolean {
  let said = false
  for (const part of bus.parts) {
    const places = bus.uses.flatMap((use) => (use.part === part ? (channelPlace(use) ?? []) : []))
    const [one, two] = places
    if (!one || !two || places.every(({ channel }) => channel === 'board')) continue
    const isSplit = one.channel !== two.channel
    if (!isSplit && (one.as !== two.signal || two.as !== one.signal)) continue
    const lines = places.map(({ signal }) => signal.toUpperCase())
    said = true
    report({
      severity: 'fault',
      at: [part.ref, ...places.flatMap(({ use, end }) => [use.end, end])],
      message: isSplit ? 'channels' : 'swapped',
      data: {
        lines,
        part: part.ref,
        places: places.map(({ signal, end }) => `${signal.toUpperCase()} on ${end}`),
        one: lines[0],
        two: lines[1],
        parts: [part.ref],
      },
      why: isSplit
        ? 'A channel leads its lines on together, and only while it is chosen. With each line on another one the part never sees both move at the same time.'
        : 'Each line of a channel leads on one line of the bus.',
      numbers: {},
      propose: () =>
        isSplit
          ? [...toChannelOf(wiring, one, two), ...toChannelOf(wiring, two, one)]
          : swapWires(wiring, one.use.end, two.use.end),
    })
  }
  return said
}

/** Two lines that a matrix takes anywhere, on the very pins that firmware takes for them unless told otherwise, exchanged. */
function sayUsual(wiring: Wiring, bus: Bus, board: BoardInstance, report: (one: Report) => void): void {
  const pins = busPins(bus)
  for (const { kind, title, prefer } of board.board.controllers) {
    if (kind !== bus.kind || !prefer) continue
    const usual = new Map(Object.entries(prefer.pins))
    const swapped = swappedPair(bus, pins, (one) =>
      [...one].every(([signal, on]) => on.size === 1 && on.has(usual.get(signal) ?? '')),
    )
    if (!swapped) continue
    const [one, two] = swapped
    report({
      severity: 'caution',
      at: [
        ...bus.uses.flatMap((use) => (swapped.includes(busNeed(use.facts.needs)!.signal) ? [use.end] : [])),
        ...swapped.flatMap((signal) => [...(pins.get(signal) ?? [])].map((pin) => `${board.ref}.${pin}`)),
      ],
      message: 'usualSwapped',
      data: { one: one.toUpperCase(), two: two.toUpperCase(), parts: bus.parts.map(({ ref }) => ref), title },
      why: `${one.toUpperCase()} is usually on ${usual.get(one)} and ${two.toUpperCase()} on ${usual.get(two)}: ${prefer.why}. The board can take them the other way round as well, but only where the program says so; otherwise nothing answers.`,
      numbers: {},
      propose: () => swapBack(wiring, bus, swapped),
    })
    return
  }
}

/** The bus placed anew; before it two wires that change places, where that is less to re-plug. */
function swapBack(wiring: Wiring, bus: Bus, signals: readonly [string, string]): Fix[] {
  const anew = rewireBus(wiring, bus)
  const ends = signals.map((signal) => bus.uses.filter((use) => busNeed(use.facts.needs)?.signal === signal))
  const [a, b] = ends.map((uses) => (uses.length === 1 ? uses[0]!.end : undefined))
  const swap = a !== undefined && b !== undefined ? swapWires(wiring, a, b) : []
  const work = (fix: Fix | undefined): number => fix?.edits.length ?? Number.POSITIVE_INFINITY
  return work(swap[0]) < work(anew[0]) ? [...swap, ...anew] : anew
}

/** More pins than that are counted, not listed. */
const MOST_LISTED = 8

const listedPins = (pins: readonly string[]): string =>
  pins.length > MOST_LISTED ? `${pins.slice(0, MOST_LISTED).join(', ')} and others` : listWords(pins)

/** What a controller reaches, in brackets: its pins by signal, and what is to know about them. */
function reached({ pins, groups, note }: Controller): string {
  const said = Object.entries(pins ?? {}).map(
    ([signal, on]) => `${signal.toUpperCase()} ${on.length > MOST_LISTED ? `any of ${on.length} pins` : on.join('/')}`,
  )
  const sets = (groups ?? []).map((group) =>
    Object.entries(group)
      .map(([signal, pin]) => `${signal.toUpperCase()} ${pin}`)
      .join(' with '),
  )
  if (sets.length > 0 && sets.length <= MOST_LISTED) said.push(sets.join(' or '))
  if (sets.length > MOST_LISTED && note !== undefined) said.push(note.replace(/\.$/, ''))
  return said.length === 0 ? '' : ` (${said.join(', ')})`
}

/** Two signals that would fit if they changed places. */
function swappedPair(
  bus: Bus,
  pins: ReadonlyMap<string, ReadonlySet<string>>,
  fits: (pins: ReadonlyMap<string, ReadonlySet<string>>) => boolean,
): [string, string] | undefined {
  const pairs: Record<string, [string, string][]> = {
    i2c: [['sda', 'scl']],
    spi: [
      ['mosi', 'miso'],
      ['sck', 'mosi'],
      ['sck', 'miso'],
    ],
    uart: [['tx', 'rx']],
    i2s: [['bck', 'ws']],
  }
  return (pairs[bus.kind] ?? []).find(([a, b]) => {
    const [onA, onB] = [pins.get(a), pins.get(b)]
    if (!onA || !onB) return false
    return fits(new Map([...pins, [a, onB], [b, onA]]))
  })
}
