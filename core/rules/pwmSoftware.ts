import { rewire } from '../assign/rewire.ts'
import { availabilityOf } from '../wiring/availability.ts'
import type { Rule } from './finding.ts'
import { usesByHost } from './shared.ts'

export const pwmSoftware: Rule = {
  meta: {
    id: 'pwm-software',
    severities: ['caution'],
    about:
      'A pulse whose width says something is left to a program that is put aside now and then, because no hardware of the board makes it on that pin.',
    messages: {
      noPwm: '{signal} gets its pulse from the program: {pin} has no PWM.',
      taken: '{signal} gets its pulse from the program: {taken} has the PWM of {pin}.',
    },
    fixable: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      const why = host.board?.board.noTimeBase
      if (why === undefined) continue
      for (const use of uses) {
        // Without an interval the width only sets a brightness or a speed, which bears a tremble.
        if (use.facts.needs !== 'pwm' || use.facts.orElse === undefined || use.facts.hertz === undefined) continue
        const taken = availabilityOf(host).pwmTaker?.title
        if (host.functions.has('pwm') && taken === undefined) continue
        report({
          severity: 'caution',
          at: [use.end, host.end],
          message: taken === undefined ? 'noPwm' : 'taken',
          data: { signal: use.end, pin: host.end, taken },
          why: `${why} The width of the pulse trembles, and what follows it trembles too. A pin with PWM of its own, or a driver that makes the pulses, holds still.`,
          numbers: {},
          propose: () => rewire(wiring, use),
        })
      }
    }
  },
}
