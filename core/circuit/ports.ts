import { entryOf } from '../base/entryOf.ts'
import { volts } from '../catalog/common.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Host, Net, PartInstance, SignalUse, Terminal, Wiring } from '../wiring/model.ts'
import { drives, switchesLoad } from '../wiring/needs.ts'
import type { Port, Role } from './circuit.ts'

/** How the pin at a terminal meets its net. */
export function portOf(
  wiring: Wiring,
  terminal: Terminal,
  net: Net,
  users: ReadonlyMap<Host, readonly SignalUse[]>,
): Port {
  const { host, owner } = terminal
  const use = wiring.signal(terminal.end)
  if (owner.kind === 'supply')
    return { terminal, net, role: terminal.pin === '+' ? 'supply' : 'ground', use, host, ...nothing }
  if (terminal.boardPin) {
    const { kind } = terminal.boardPin
    if (kind !== 'io' || !host) return { terminal, net, role: kind === 'io' ? 'none' : kind, use, host, ...nothing }
    return {
      terminal,
      net,
      role: roleOfHost(users.get(host) ?? []),
      use,
      host,
      ...facts(host.levels, host.logicVolts),
    }
  }
  const part = owner as PartInstance
  if (use) {
    const direction = use.facts.direction
    return { terminal, net, role: direction, use, host, ...facts(levelsOf(use), part.logicVolts) }
  }
  if (host)
    return {
      terminal,
      net,
      role: switchesLoad(host.functions) ? 'out' : roleOfHost(users.get(host) ?? []),
      use,
      host,
      ...facts(host.levels, host.logicVolts),
    }
  const role = terminal.partPin?.role
  return {
    terminal,
    net,
    role: role === 'supply' || role === 'ground' ? role : role === 'free' ? 'none' : 'passive',
    use,
    host,
    ...nothing,
    ...limitsOf(part, terminal.partPin?.levels),
  }
}

const nothing = { high: undefined, most: undefined, least: undefined }

const facts = (levels: Host['levels'], at: number | undefined): Pick<Port, 'high' | 'most' | 'least'> => ({
  high: volts(levels.high, at) ?? at,
  most: volts(levels.most, at),
  least: volts(levels.least, at),
})

/** What a pin that is no signal bears. */
function limitsOf(part: PartInstance, set: string | undefined): Pick<Port, 'most' | 'least'> {
  const levels = set === undefined ? undefined : entryOf(part.part.levels, set)
  return { most: volts(levels?.most, part.logicVolts), least: volts(levels?.least, part.logicVolts) }
}

function roleOfHost(users: readonly SignalUse[]): Role {
  if (users.length === 0) return 'either'
  // A controller of a two-wire bus only ever pulls low, and so does one that speaks to a part over a single wire.
  const isPulled = ({ facts: { needs, direction } }: SignalUse): boolean =>
    needs.startsWith('i2c.') || (drives(needs) && direction === 'open-drain')
  if (users.every(isPulled)) return 'open-drain'
  const isOut = users.some((use) => drives(use.facts.needs) && use.facts.direction !== 'open-drain')
  const isIn = users.some((use) => !drives(use.facts.needs) || use.facts.direction !== 'in')
  return isOut && isIn ? 'both' : isOut ? 'out' : 'in'
}
