import { rewire } from '../assign/rewire.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { libraryFor } from '../wiring/libraryPulses.ts'
import type { BoardInstance, Host, SignalUse } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { listWords, usesByHost } from './shared.ts'

interface Pulse {
  readonly use: SignalUse
  readonly host: Host
  readonly hertz: number
  /** Timers that reach the pin. */
  readonly timers: readonly string[]
}

export const pwmTimer: Rule = {
  meta: {
    id: 'pwm-timer',
    severities: ['fault', 'tip'],
    about:
      'PWM signals that need different frequencies hang on one timer, or on more timers than the chip has. A tip where a program makes the pulses, which may count each pin by itself.',
    messages: {
      clash: '{ends} hang on {timers} and need different frequencies.',
      tooMany: '{board} has {timers} PWM {timers:timer/timers}, and {wanted} frequencies are wanted.',
    },
    fixable: true,
  },
  check(wiring, report) {
    const byBoard = new Map<BoardInstance, Pulse[]>()
    for (const [host, uses] of usesByHost(wiring))
      for (const use of uses) {
        const { board } = host
        const library = libraryFor(board, use)
        if (!board || use.facts.needs !== 'pwm' || use.facts.hertz === undefined) continue
        if (!library && !host.functions.has('pwm')) continue
        const pin = host.pin
        // What a library makes hangs on the timers of that library, whatever the pin.
        const timers =
          library?.timers ??
          board.board.timers
            .filter((timer) => Object.values(timer.channels).some((pins) => pins.includes(pin)))
            .map((timer) => timer.id)
        byBoard.set(board, [...(byBoard.get(board) ?? []), { use, host, hertz: use.facts.hertz, timers }])
      }
    for (const [board, pulses] of byBoard) {
      const fixed = pulses.filter((one) => one.timers.length > 0)
      const clash = fixed.length > 1 ? smallestClash(fixed) : undefined
      const matrix = board.board.pwm
      const rates = new Set(pulses.map((one) => one.hertz))
      if (clash)
        report({
          severity: 'fault',
          at: clash.flatMap((one) => [one.use.end, one.host.end]),
          message: 'clash',
          data: {
            ends: clash.map((one) => `${one.use.end} (${formatQuantity(one.hertz, 'Hz')}) on ${one.host.end}`),
            timers: clash[0]!.timers.join(' and ').toUpperCase(),
          },
          why: `All channels of a timer count to the same number, so they share one frequency; only the width of the pulse differs. ${listWords(clash.map((one) => `${one.use.end} needs ${formatQuantity(one.hertz, 'Hz')}`))}.`,
          numbers: Object.fromEntries(clash.map((one) => [one.use.end, one.hertz])),
          propose: () => [...clash].reverse().flatMap((one) => rewire(wiring, one.use)),
        })
      else if (matrix && rates.size > matrix.timers)
        report({
          severity: matrix.bySoftware ? 'tip' : 'fault',
          at: pulses.map((one) => one.use.end),
          message: 'tooMany',
          data: { board: board.ref, timers: matrix.timers, wanted: rates.size },
          why: `Each frequency takes a timer of its own: ${[...rates].map((one) => formatQuantity(one, 'Hz')).join(', ')}.${matrix.bySoftware ? ' The program makes them here: a library for servos or tones may count each pin by itself; calls that set the width of pulses mostly share one frequency.' : ''}`,
          numbers: { need: rates.size, have: matrix.timers },
        })
    }
  },
}

/** Two or more pulses for which no choice of timers works; undefined when one does. */
function smallestClash(pulses: readonly Pulse[]): Pulse[] | undefined {
  if (fits(pulses)) return undefined
  for (let a = 0; a < pulses.length; a += 1)
    for (let b = a + 1; b < pulses.length; b += 1) {
      const pair = [pulses[a]!, pulses[b]!]
      if (!fits(pair)) return pair
    }
  let few = [...pulses]
  for (const one of pulses) {
    const without = few.filter((each) => each !== one)
    if (!fits(without)) few = without
  }
  return few
}

/** True when every pulse finds a timer that carries its frequency and no other. */
function fits(pulses: readonly Pulse[], at = 0, rates: ReadonlyMap<string, number> = new Map()): boolean {
  const pulse = pulses[at]
  if (!pulse) return true
  return pulse.timers.some(
    (timer) =>
      (rates.get(timer) ?? pulse.hertz) === pulse.hertz &&
      fits(pulses, at + 1, new Map([...rates, [timer, pulse.hertz]])),
  )
}
