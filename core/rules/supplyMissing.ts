import { reachesGround } from '../circuit/circuit.ts'
import { backToFront, turnedRound } from '../circuit/turned.ts'
import type { Fix } from '../plan/edit.ts'
import { isBetweenParts } from '../wiring/between.ts'
import type { PartInstance, SupplyUse, Wiring } from '../wiring/model.ts'
import { groundEnd, isByLine, sourceChoices } from '../wiring/supply.ts'
import type { Report, Rule } from './finding.ts'
import { groundAtPinMessages, sayGroundsAtPins } from './groundAtPin.ts'
import { asFed, causeElsewhere, feedingPin, isBetweenResistors, isTapOnRail, isTurned } from './supplyCauses.ts'

export const supplyMissing: Rule = {
  meta: {
    id: 'supply-missing',
    severities: ['fault', 'caution'],
    about: 'A part or board that is wired has no supply, or no ground.',
    messages: {
      byPin: '{part} gets its supply at {pin} from the pin {feeding}: it works only while the program holds that high.',
      none: '{part} has no supply at {pin}.',
      railOff: '{part} hangs at {pin} on {rail}, which gives nothing while {board} is fed at {feed}.',
      noGround: '{part} has no ground at {pin}.',
      ...groundAtPinMessages,
      boardUnfed: 'Nothing feeds {board}.',
    },
    lacking: ['none', 'railOff', 'noGround', 'boardUnfed'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    saySupplies(wiring, report)
    sayCables(wiring, report)
    sayGroundsAtPins(wiring, report)
    sayBoards(wiring, report)
  },
}

type Say = (report: Report) => void

/** The fix that joins a ground pin of a part with the ground of its plan. */
function joinGround(wiring: Wiring, part: PartInstance, pin: string): Fix[] {
  const ground = groundEnd(wiring, part)
  return ground === undefined
    ? []
    : [{ title: `Join ${pin} to ${ground}`, edits: [{ do: 'connect', from: pin, to: ground }] }]
}

/** Supplies and grounds of parts that are wired. */
function saySupplies(wiring: Wiring, report: Say): void {
  const unused = new Set(wiring.plan.unused)
  const said = new Set<string>()
  for (const part of wiring.parts) {
    const touched = part.part.pins.some((pin) => wiring.netOf(`${part.ref}.${pin.id}`).wired)
    if (!touched || turnedRound(wiring, part) !== undefined || backToFront(wiring, part)) continue
    for (const given of part.supplies) {
      const use = asFed(wiring, given)
      const pin = use.pins[0] as string
      const isIdle = !use.facts.required && !use.pins.some((end) => wiring.netOf(end).wired)
      // Its ground on a supply is wrong even so.
      if (isIdle && !use.grounds.some((end) => wiring.netOf(end).sources.length > 0)) continue
      if (use.facts.either && (isTurned(wiring, use) || isTapOnRail(wiring, part) || isBetweenResistors(wiring, use)))
        continue
      const feeding = use.source ? undefined : feedingPin(wiring, use)
      if (feeding !== undefined)
        report({
          severity: 'caution',
          at: [pin, feeding],
          message: 'byPin',
          data: { part: part.ref, pin, feeding },
          why: 'So few milliamperes a pin can give. Set it high first, wait until the part has woken, and read it then; while the pin is low, the other lines of the part must be low as well.',
          numbers: { takesMilliamps: use.peakMilliamps ?? use.typicalMilliamps ?? 0 },
        })
      else if (
        !isIdle &&
        !use.source &&
        !isByLine(wiring, use) &&
        !use.pins.some((end) => unused.has(end)) &&
        !causeElsewhere(wiring, part, use)
      )
        report({
          severity: 'fault',
          ...none(wiring, part, use),
          why: `It takes ${use.facts.least} to ${use.facts.most} V there. Without its own supply a part may still seem to work by stealing current through its signal pins, which damages them.`,
          numbers: { least: use.facts.least, most: use.facts.most },
          propose: () =>
            sourceChoices(wiring, part, use)
              .slice(0, 2)
              .map((source) => ({
                title: `Feed ${pin} from ${source.end} (${source.volts} V)`,
                edits: [{ do: 'connect', from: pin, to: source.end }],
              })),
        })
      // Supplies of one part may share their ground; what is joined inside is one.
      for (const ground of use.grounds) {
        if (said.has(ground) || unused.has(ground) || reachesGround(wiring, wiring.netOf(ground))) continue
        said.add(ground)
        report({
          severity: 'fault',
          at: [ground],
          message: 'noGround',
          data: { part: part.ref, pin: ground },
          why: 'Current needs a way back. Without a ground of its own the part floats, and its signals mean nothing.',
          numbers: {},
          propose: () => joinGround(wiring, part, ground),
        })
      }
    }
  }
}

/** What to say of a supply pin at which nothing comes in: a rail of a board that is dead in the way in which it is fed. */
function none(wiring: Wiring, { ref }: PartInstance, { pins }: SupplyUse): Pick<Report, 'at' | 'message' | 'data'> {
  const pin = pins[0] as string
  for (const end of pins)
    for (const rail of wiring.netOf(end).ends) {
      const { owner, boardPin } = wiring.terminal(rail) ?? {}
      if (owner?.kind !== 'board' || boardPin === undefined) continue
      const feed = owner.board.feeds.find(({ id }) => id === owner.feed)?.pins[0]
      if (feed === undefined || !owner.board.rails.some(({ pins: own }) => own.includes(boardPin.id))) continue
      return { at: [pin, rail], message: 'railOff', data: { part: ref, pin, rail, board: owner.ref, feed } }
    }
  return { at: [pin], message: 'none', data: { part: ref, pin } }
}

/** A cable, or a converter without a supply of its own here, still needs the way back. */
function sayCables(wiring: Wiring, report: Say): void {
  const unused = new Set(wiring.plan.unused)
  for (const part of wiring.parts) {
    if (part.supplies.length > 0) continue
    const grounds = part.part.pins.filter((pin) => pin.role === 'ground').map((pin) => `${part.ref}.${pin.id}`)
    const first = grounds[0]
    const speaks = wiring.signals.some(
      (use) => use.part === part && (use.hosts.length > 0 || (use.state === 'joined' && isBetweenParts(wiring, use))),
    )
    // Of a bare transistor its own rules speak, once it is wired at all.
    const isBack = (end: string): boolean => {
      const net = wiring.netOf(end)
      return net.ground || unused.has(end) || (part.part.channels.length > 0 && net.wired)
    }
    if (first === undefined || !speaks || grounds.some(isBack)) continue
    report({
      severity: 'fault',
      at: [first],
      message: 'noGround',
      data: { part: part.ref, pin: first },
      why: 'A voltage is always a difference between two points. Without the common ground a high of one side means nothing to the other.',
      numbers: {},
      propose: () => joinGround(wiring, part, first),
    })
  }
}

function sayBoards(wiring: Wiring, report: Say): void {
  for (const board of wiring.boards) {
    if (board.feed !== undefined) continue
    const feed = board.board.feeds.find((one) => one.pins.length > 0)
    const pin = `${board.ref}.${feed?.pins[0] ?? board.board.rails[0]?.pins[0] ?? ''}`
    report({
      severity: 'fault',
      at: [board.ref],
      message: 'boardUnfed',
      data: { board: board.ref },
      why: `${board.title} has no socket of its own for a supply${feed ? `; it takes ${feed.least} to ${feed.most} V at ${feed.pins.join(' or ')}` : ''}.`,
      numbers: {},
      propose: () =>
        wiring.supplies
          .filter((supply) => feed && supply.entry.volts >= feed.least && supply.entry.volts <= feed.most)
          .map((supply) => ({
            title: `Feed it from ${supply.ref}`,
            edits: [
              { do: 'connect', from: `${supply.ref}.+`, to: pin },
              {
                do: 'connect',
                from: `${supply.ref}.-`,
                to: `${board.ref}.${board.facts.pins.find((one) => one.kind === 'ground')?.id}`,
              },
            ],
          })),
    })
  }
}
