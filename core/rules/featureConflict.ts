import { rewire } from '../assign/rewire.ts'
import { rewireBus } from '../assign/rewireBus.ts'
import { availabilityOf } from '../wiring/availability.ts'
import { busPins } from '../wiring/buses.ts'
import { isGradual, lostTo } from '../wiring/libraryPulses.ts'
import type { BoardInstance, Host, SignalUse, Wiring } from '../wiring/model.ts'
import { servedAs } from '../wiring/needs.ts'
import type { Report, Rule } from './finding.ts'
import { withoutFeature } from './mend.ts'
import { usesByHost } from './shared.ts'

type Feature = BoardInstance['features'][number]

export const featureConflict: Rule = {
  meta: {
    id: 'feature-conflict',
    severities: ['fault', 'caution'],
    about:
      'A feature in use takes the pin, its timer, its analog unit or its controller: a radio and the second converter, a servo library and PWM of its timer.',
    messages: {
      half: '{signal} can only be switched on and off at {pin}: {feature} takes {unit}.',
      taken: '{signal} cannot have {pin}: {feature} takes {unit}.',
      library: '{signal} can only be switched on and off at {pin}: for {by} the {feature} takes {unit}.',
      busTaken: '{parts} and {feature} both need {title} of {board}.',
    },
    fixable: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      if (!host.board) continue
      for (const use of uses) {
        const taken = takenBy(host, use)
        if (!taken) {
          sayLibrary(wiring, host, use, report)
          continue
        }
        report({
          severity: taken.half ? 'caution' : 'fault',
          at: [use.end, host.end],
          message: taken.half ? 'half' : 'taken',
          data: { signal: use.end, pin: host.end, feature: taken.feature.title, unit: taken.what },
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
        message: 'busTaken',
        data: { parts: bus.parts.map((part) => part.ref).join(', '), feature: feature.title, title, board: board.ref },
        why: `${feature.text} A controller carries one bus at a time.`,
        numbers: {},
        propose: () => [...rewireBus(wiring, bus), ...withoutFeature(board, feature.id)],
      })
    }
  },
}

/** PWM that a library takes away which the plan does not name, and the program needs all the same for something wired. */
function sayLibrary(wiring: Wiring, host: Host, use: SignalUse, report: (one: Report) => void): void {
  const lost = isGradual(use) ? lostTo(wiring, host) : undefined
  if (!lost || lost.use.hosts.length === 0) return
  const { library } = lost
  report({
    severity: 'caution',
    at: [use.end, host.end],
    message: 'library',
    data: {
      signal: use.end,
      pin: host.end,
      by: lost.use.end,
      feature: library.title,
      unit: `the timer ${availabilityOf(host).timers[0]?.toUpperCase()}`,
    },
    why: `${library.text} Programs that write a share to ${host.end} get no more than on or off there, and nothing says why.`,
    numbers: {},
    propose: () => rewire(wiring, use),
  })
}

/** Cautions that other rules read. */
const saidElsewhere = (cautions: Host['cautions'], feature: Feature): boolean =>
  cautions.some(
    (one) =>
      one.feature === feature.id &&
      ['usb-serial', 'serial-console', 'flash', 'psram', 'onboard-button'].includes(one.id),
  )

interface Taken {
  readonly feature: Feature
  /** Pin or unit that is gone, in words. */
  readonly what: string
  /** What is second best still works. */
  readonly half: boolean
}

function takenBy(host: Host, use: SignalUse): Taken | undefined {
  const { pinTaker, analogTaker, pwmTaker, pin, timers } = availabilityOf(host)
  const { needs, orElse, hertz } = use.facts
  const kind = servedAs(use.facts)
  const stands = (feature: Feature | undefined): feature is Feature =>
    feature !== undefined && !feature.serves.includes(kind)
  if (stands(pinTaker) && !saidElsewhere(host.cautions, pinTaker))
    return { feature: pinTaker, what: 'this pin', half: false }
  if (needs === 'analog-in' && stands(analogTaker))
    return { feature: analogTaker, what: `the analog unit ${pin?.analogUnit?.id.toUpperCase()}`, half: false }
  if (needs !== 'pwm' || !stands(pwmTaker)) return undefined
  const half = orElse !== undefined
  // A signal with an interval of its own, a servo or a tone, is made by a library on any pin.
  return half && hertz !== undefined
    ? undefined
    : { feature: pwmTaker, what: `the timer ${timers[0]?.toUpperCase()}`, half }
}
