import { activeCautions } from '../assign/candidates.ts'
import { rewire } from '../assign/rewire.ts'
import { volts } from '../catalog/common.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { networkOf } from '../wiring/lines.ts'
import type { Rule } from './finding.ts'
import { listWords, twoDigits, usesByHost } from './shared.ts'

export const bootStrap: Rule = {
  meta: {
    id: 'boot-strap',
    severities: ['fault', 'caution'],
    about:
      'A pin that the chip reads at reset to choose how it starts. A fault when what is wired forces the wrong level, else a caution.',
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const [host, uses] of usesByHost(wiring)) {
      const strap = activeCautions(host).find((caution) => caution.id === 'boot-strap')
      if (!strap?.needs || host.logicVolts === undefined) continue
      const wanted = strap.needs
      const net = wiring.netOf(host.end)
      const hold = strap.held === 'pull-up' ? host.logicVolts : 0
      const vih = volts(host.levels.vih, host.logicVolts) ?? host.logicVolts * 0.7
      const vil = volts(host.levels.vil, host.logicVolts) ?? host.logicVolts * 0.3
      const forcing = uses.find((use) => use.facts.atReset !== undefined && (use.facts.atResetOhms ?? 0) === 0)
      const rest =
        forcing !== undefined
          ? forcing.facts.atReset === 'high'
            ? host.logicVolts
            : 0
          : networkOf(wiring).held(net, { volts: hold, ohms: strap.heldOhms ?? 45_000 })
      const wrong = wanted === 'high' ? rest < vih : rest > vil
      const names = listWords(uses.map((use) => use.end))
      report({
        severity: wrong ? 'fault' : 'caution',
        at: [host.end, ...uses.map((use) => use.end)],
        message: wrong
          ? `${names} brings ${host.end} to ${formatVolts(rest)} at reset, and it must be ${wanted} then.`
          : `${host.end} is read at reset and must be ${wanted} then; ${names} hangs on it.`,
        why: `${strap.text} ${
          wrong
            ? `With what is wired the pin comes to ${formatVolts(rest)}; ${wanted === 'high' ? `high means at least ${formatVolts(vih)}` : `low means at most ${formatVolts(vil)}`}.`
            : `The board holds it ${strap.held === 'pull-up' ? 'high' : strap.held === 'pull-down' ? 'low' : 'at nothing'} by itself, so this works as long as the part does not pull the other way while the board starts.`
        }`,
        numbers: { restVolts: twoDigits(rest), vih: twoDigits(vih), vil: twoDigits(vil) },
        propose: () => uses.flatMap((use) => rewire(wiring, use)),
      })
    }
  },
}
