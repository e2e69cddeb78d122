import type { Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { moverOf } from '../wiring/signals.ts'
import type { Report } from './finding.ts'
import { moveTo } from './mend.ts'

export const registerChainMessages = {
  chain: '{signal} takes its bits from {pin}, which changes only with the latch: the chain goes on at {carry}.',
  chainClock:
    '{part} goes on where {before} ends, and {clock} is on another line than {other}: they never shift together.',
}

/** A shift register: where bits come in, where they go on to the next one, and the line that moves them. */
interface Register {
  readonly part: PartInstance
  readonly into: string | undefined
  readonly onward: string | undefined
  readonly clock: string
}

function registerOf(part: PartInstance | undefined): Register | undefined {
  const behaves = part?.part.behaves
  if (part === undefined || (behaves?.as !== 'shift-out' && behaves?.as !== 'shift-in')) return undefined
  const end = (pin: string | undefined): string | undefined => pin && `${part.ref}.${pin}`
  const [into, onward] = behaves.as === 'shift-out' ? [behaves.data, behaves.carry] : [behaves.chain, behaves.out]
  return { part, into: end(into), onward: end(onward), clock: `${part.ref}.${behaves.clock}` }
}

/** Where a register that shifts with another takes its bits from an output of that one, the end at which they go on. */
export function takesLatched(wiring: Wiring, use: SignalUse, host: Host): string | undefined {
  const [own, before] = [registerOf(use.part), registerOf(host.provider)]
  if (own?.into !== use.end || before?.onward === undefined || host.end === before.onward) return undefined
  return moverOf(wiring, own.clock) === moverOf(wiring, before.clock) ? before.onward : undefined
}

/** Registers in a row that take the wrong output of the one before, or shift at another clock. */
export function sayChains(wiring: Wiring, report: (one: Report) => void): void {
  for (const use of wiring.signals)
    for (const { host } of use.hosts) {
      const carry = takesLatched(wiring, use, host)
      if (carry === undefined) continue
      report({
        severity: 'fault',
        at: [use.end, host.end],
        message: 'chain',
        data: { signal: use.end, pin: host.end, carry },
        why: `Both registers shift at the same edges. ${host.end} shows what was taken over last and stands still meanwhile, so ${use.part.ref} would read one bit eight times; ${carry} shows every bit as it leaves.`,
        numbers: {},
        propose: () => moveTo(wiring, use.end, carry),
      })
    }
  const registers = wiring.parts.flatMap((part) => registerOf(part) ?? [])
  for (const before of registers)
    for (const after of registers) {
      if (before === after || before.onward === undefined || after.into === undefined) continue
      const [onward, into] = [before.onward, after.into].map((end) => wiring.netOf(end))
      const clocks = [before.clock, after.clock]
      if (!onward?.wired || onward !== into || !clocks.every((end) => wiring.netOf(end).wired)) continue
      if (moverOf(wiring, before.clock) === moverOf(wiring, after.clock)) continue
      report({
        severity: 'fault',
        at: [after.clock, before.clock],
        message: 'chainClock',
        data: { part: after.part.ref, before: before.part.ref, clock: after.clock, other: before.clock },
        why: 'A bit leaves one register at the same edge at which the next one takes it. All registers of a row hang on one clock.',
        numbers: {},
        propose: () => moveTo(wiring, after.clock, before.clock),
      })
    }
}
