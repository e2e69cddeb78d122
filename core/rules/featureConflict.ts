import { rewire } from '../assign/rewire.ts'
import { rewireBus } from '../assign/rewireBus.ts'
import { busNeed, busPins } from '../wiring/buses.ts'
import type { BoardInstance, Host, SignalUse } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { withoutFeature } from './mend.ts'
import { usesByHost } from './shared.ts'

type Feature = BoardInstance['features'][number]

export const featureConflict: Rule = {
  meta: {
    id: 'feature-conflict',
    severities: ['fault', 'caution'],
    about:
      'A feature in use takes the pin, its timer, its analog unit or its controller: a radio and the second converter, a servo library and PWM of its timer.',
    fixable: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      if (!host.board) continue
      for (const use of uses) {
        const taken = takenBy(host, use)
        if (!taken) continue
        report({
          severity: taken.half ? 'caution' : 'fault',
          at: [use.end, host.end],
          message: taken.half
            ? `${use.end} can only be switched on and off at ${host.end}: ${taken.feature.title} takes ${taken.what}.`
            : `${use.end} cannot have ${host.end}: ${taken.feature.title} takes ${taken.what}.`,
          why: `${taken.feature.text} While it is in use, ${taken.what} is not free for anything else.`,
          numbers: {},
          propose: () => [...rewire(wiring, use), ...(host.board ? withoutFeature(host.board, taken.feature.id) : [])],
        })
      }
    }
    for (const bus of wiring.buses) {
      const { board, controller } = bus
      const feature = board?.features.find((one) => controller !== undefined && one.controllers.includes(controller))
      if (!board || !feature || controller === undefined) continue
      // Where the feature's own pins carry the bus, serial-console or the pins above have spoken.
      const pins = [...busPins(bus).values()].flatMap((on) => [...on])
      if (
        pins.some((pin) => feature.pins.includes(pin) || saidElsewhere(board.facts.pin(pin)?.cautions ?? [], feature))
      )
        continue
      const title = board.board.controllers.find((one) => one.id === controller)?.title ?? controller
      report({
        severity: 'fault',
        at: [board.ref, ...bus.parts.map((part) => part.ref)],
        message: `${bus.parts.map((part) => part.ref).join(', ')} and ${feature.title} both need ${title} of ${board.ref}.`,
        why: `${feature.text} A controller carries one bus at a time.`,
        numbers: {},
        propose: () => [...rewireBus(wiring, bus), ...withoutFeature(board, feature.id)],
      })
    }
  },
}

/** Cautions that other rules read. */
const saidElsewhere = (cautions: Host['cautions'], feature: Feature): boolean =>
  cautions.some(
    (one) =>
      one.feature === feature.id &&
      ['usb-serial', 'serial-console', 'flash', 'psram', 'onboard-led', 'onboard-button'].includes(one.id),
  )

interface Taken {
  readonly feature: Feature
  /** Pin or unit that is gone, in words. */
  readonly what: string
  /** What is second best still works. */
  readonly half: boolean
}

function takenBy(host: Host, use: SignalUse): Taken | undefined {
  const board = host.board as BoardInstance
  const pin = host.end.slice(host.ref.length + 1)
  const kind = use.facts.pullMostOhms === undefined ? use.facts.needs : 'onewire'
  for (const feature of board.features) {
    if (feature.serves.includes(kind)) continue
    if (feature.pins.includes(pin) && !saidElsewhere(host.cautions, feature))
      return { feature, what: 'this pin', half: false }
    const unit = board.facts.pin(pin)?.analogUnit
    if (use.facts.needs === 'analog-in' && unit && feature.analog.includes(unit.id))
      return { feature, what: `the analog unit ${unit.id.toUpperCase()}`, half: false }
    if (use.facts.needs !== 'pwm' || busNeed(use.facts.needs)) continue
    // A pin that hangs on several timers can take another one.
    const timers = board.board.timers.filter((one) => Object.values(one.channels).some((pins) => pins.includes(pin)))
    if (timers.length === 0 || !timers.every((one) => feature.timers.includes(one.id))) continue
    const half = use.facts.orElse !== undefined
    // A signal with an interval of its own, a servo or a tone, is made by a library on any pin.
    if (!half || use.facts.hertz === undefined)
      return { feature, what: `the timer ${timers[0]?.id.toUpperCase()}`, half }
  }
  return undefined
}
