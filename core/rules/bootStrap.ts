import { candidates } from '../assign/candidates.ts'
import { rewire } from '../assign/rewire.ts'
import { volts } from '../catalog/common.ts'
import { boardPull, INNER_PULL_OHMS } from '../circuit/boardPulls.ts'
import { heldAtStart } from '../circuit/ways.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import { activeCautions } from '../wiring/availability.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'
import { twoDigits, usesByHost } from './shared.ts'

export const bootStrap: Rule = {
  meta: {
    id: 'boot-strap',
    severities: ['fault', 'caution'],
    about:
      'A pin that the chip reads at reset to choose how it starts. A fault when what is wired forces the wrong level, else a caution.',
    messages: {
      forced: '{names} {names:brings/bring} {pin} to {rest} at reset, and it must be {wanted} then.',
      noUpload: '{names} {names:brings/bring} {pin} to {rest} at reset: no program can be uploaded with that.',
      risky: '{pin} is read at reset and must be {wanted} then; {names} {names:hangs/hang} on it.',
    },
    limits: ['forced'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const users = usesByHost(wiring)
    const near = new Set(wiring.nets)
    for (const host of wiring.hosts.values()) {
      const uses = users.get(host) ?? []
      const here = wiring.netOf(host.end)
      if (uses.length === 0 && (!here.wired || !near.has(here) || here.ground || here.sources.length > 0)) continue
      const strap = activeCautions(host).find((caution) => caution.id === 'boot-strap')
      if (!strap?.needs || strap.matters === 'log' || host.logicVolts === undefined) continue
      const wanted = strap.needs
      const net = wiring.netOf(host.end)
      // What nothing holds starts as it should while it is left alone; only what is wired can bring it elsewhere.
      const isHigh = strap.held === 'pull-up' || (strap.held === 'nothing' && wanted === 'high')
      const hold = isHigh ? host.logicVolts : 0
      const vih = volts(host.levels.vih, host.logicVolts) ?? host.logicVolts * 0.7
      const vil = volts(host.levels.vil, host.logicVolts) ?? host.logicVolts * 0.3
      const forcing = uses.find((use) => use.facts.atReset !== undefined && (use.facts.atResetOhms ?? 0) === 0)
      const rest =
        forcing !== undefined
          ? forcing.facts.atReset === 'high'
            ? host.logicVolts
            : 0
          : heldAtStart(wiring, net, {
              volts: hold,
              ohms: strap.heldOhms ?? INNER_PULL_OHMS,
              stays: boardPull(host, strap) !== undefined,
            })
      const wrong = wanted === 'high' ? rest < vih : rest > vil
      // What no signal names, such as a lamp from the supply, is worth a word only where it harms.
      if (uses.length === 0 && !wrong) continue
      const others = net.ends.filter((end) => wiring.terminal(end)?.owner.kind === 'part')
      const names = uses.length > 0 ? uses.map((use) => use.end) : others
      report({
        severity: wrong && strap.matters === 'start' ? 'fault' : 'caution',
        at: [host.end, ...names],
        message: !wrong ? 'risky' : strap.matters === 'start' ? 'forced' : 'noUpload',
        data: { names, pin: host.end, rest: formatVolts(rest), wanted },
        why: `${strap.text} ${
          wrong
            ? `With what is wired the pin comes to ${formatVolts(rest)}; ${wanted === 'high' ? `high means at least ${formatVolts(vih)}` : `low means at most ${formatVolts(vil)}`}.`
            : `The board holds it ${strap.held === 'pull-up' ? 'high' : strap.held === 'pull-down' ? 'low' : 'at nothing'} by itself, so this works as long as the part does not pull the other way while the board starts.`
        }`,
        numbers: { restVolts: twoDigits(rest), vih: twoDigits(vih), vil: twoDigits(vil) },
        propose: () => uses.flatMap((use) => [...rewire(wiring, use), ...moveAll(wiring, host, use)]),
      })
    }
  },
}

/** Takes all that hangs on a pin to another one, resistors included. */
function moveAll(wiring: Wiring, host: Host, use: SignalUse): Fix[] {
  const net = wiring.netOf(host.end)
  const holes = new Set(net.ends.filter((end) => wiring.terminal(end)?.host === host))
  const wires = wiring.plan.wires.filter((wire) => holes.has(wire[0]) || holes.has(wire[1]))
  if (wires.some((wire) => wire[2]?.locked)) return []
  return candidates(wiring, use)
    .filter((one) => one.blocked === undefined && one.host !== host && !wiring.netOf(one.host.end).wired)
    .slice(0, 2)
    .map(({ host: other }) => ({
      title: `Move all on ${host.end} to ${other.end}`,
      edits: [
        ...wires.map(([from, to]): Edit => ({ do: 'disconnect', from, to })),
        ...wires.map(
          ([from, to]): Edit => ({
            do: 'connect',
            from: holes.has(from) ? other.end : from,
            to: holes.has(to) ? other.end : to,
          }),
        ),
      ],
    }))
}
