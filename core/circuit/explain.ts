import { volts as voltsAt } from '../catalog/common.ts'
import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import { boardPull, INNER_PULL_OHMS } from './boardPulls.ts'
import { type Circuit, circuitOf, type Port, railOf } from './circuit.ts'
import type { Actor, Strand } from './groundwork.ts'
import { linesOf } from './lines.ts'
import { type IslandVerdict, type State, verdictsOf } from './verdicts.ts'
import { heldAtStart } from './ways.ts'

/** Everything that the model knows of one pin, as sentences with their arithmetic. */
export interface Explanation {
  readonly end: string
  /** What the pin is in this plan and what is joined to it. */
  readonly is: readonly string[]
  /** What it bears, reads and drives; what no source says is said as not known. */
  readonly facts: readonly string[]
  /** Most volts that it bears, where known. */
  readonly bears: number | undefined
  /** Volts and currents in the states that differ for this pin. */
  readonly states: readonly ExplainedState[]
  /** How far the states were tried. */
  readonly tried: string
}

export interface ExplainedState {
  /** What drives and what is closed, in words. */
  readonly when: string
  readonly volts: number | undefined
  /** Each step of the arithmetic. */
  readonly because: readonly string[]
}

/** Most states that are told; the others are like one of them. */
const MOST_TOLD = 12

/** Explains an end of a wiring; undefined for an end that the plan does not have. */
export function explainEnd(wiring: Wiring, end: string): Explanation | undefined {
  const circuit = circuitOf(wiring)
  const terminal = wiring.terminal(end)
  if (!terminal) return undefined
  const net = wiring.netOf(end)
  const port = circuit.ports.get(end)
  const isOwn = (one: string): boolean => {
    const host = wiring.terminal(one)?.host
    return one === end || (host !== undefined && host === terminal.host)
  }
  const others = net.ends.filter((one) => !isOwn(one))
  const verdict = verdictsOf(wiring).of(net)?.verdict
  return {
    end,
    is: [
      `${end} ${roleWords(port)}.`,
      others.length === 0
        ? 'Nothing is joined to it.'
        : `On the same piece of metal: ${others.slice(0, 12).join(', ')}${others.length > 12 ? ` and ${others.length - 12} more` : ''}.`,
    ],
    facts: factsOf(port),
    bears: port?.most,
    states: railStates(net) ?? [
      ...startStates(wiring, circuit, net),
      ...(verdict ? solvedStates(circuit, verdict, net) : lineStates(wiring, net, end)),
    ],
    tried: verdict
      ? verdict.enumerated
        ? `All ${verdict.states.length} states of what hangs together with it were worked out.`
        : `What hangs together with it has too many states to try all: ${verdict.states.length} were, each thing by itself and against all others.`
      : '',
  }
}

const roles: Readonly<Record<Port['role'], string>> = {
  out: 'puts out a level',
  in: 'reads',
  both: 'reads and drives in turn',
  'open-drain': 'pulls low and lets go',
  either: 'is wired and named by no signal, so that it may read or drive',
  passive: 'is a leg of something that neither drives nor reads by itself',
  supply: 'is a supply',
  ground: 'is ground',
  control: 'controls the board',
  none: 'is not connected inside, or left alone',
}

const roleWords = (port: Port | undefined): string => (port ? roles[port.role] : 'has no wire')

function factsOf(port: Port | undefined): string[] {
  if (!port) return []
  const { host, use } = port
  const levels = use ? levelsOf(use) : host?.levels
  const supply = use ? use.part.logicVolts : host?.logicVolts
  const known: string[] = []
  const lacking: string[] = []
  const say = (name: string, at: number | undefined, words: (volts: string) => string): void => {
    if (at === undefined) lacking.push(name)
    else known.push(words(formatVolts(at)))
  }
  if (!levels || ['supply', 'ground', 'control', 'none'].includes(port.role)) return []
  say('what it bears', port.most, (at) => `It bears at most ${at}.`)
  if (port.role !== 'out') {
    say('what it takes for high', voltsAt(levels.vih, supply), (at) => `It reads high from ${at} up.`)
    say('what it takes for low', voltsAt(levels.vil, supply), (at) => `It reads low up to ${at}.`)
  }
  const limits = host?.current
  if (limits?.recommended !== undefined) known.push(`${limits.recommended} mA through it are recommended at most.`)
  if (limits?.absolute !== undefined) known.push(`${limits.absolute} mA must not be passed.`)
  return lacking.length > 0 ? [...known, `Not known: ${lacking.join(', ')}.`] : known
}

/** A net that something stiff holds has one state. */
function railStates(net: Net): ExplainedState[] | undefined {
  const rail = railOf(net)
  if (!rail) return undefined
  return [
    {
      when: 'always',
      volts: rail.volts,
      because: [rail.source ? `${rail.source.end} holds it at ${formatVolts(rail.volts)}.` : 'It is ground.'],
    },
  ]
}

/** What a boot-strap pin comes to while the chip looks at it, its own pull counted. */
function startStates(wiring: Wiring, circuit: Circuit, net: Net): ExplainedState[] {
  return circuit.at(net).flatMap(({ host, terminal }): ExplainedState[] => {
    const strap = host?.cautions.find(({ id }) => id === 'boot-strap')
    if (!host || strap?.needs === undefined || host.logicVolts === undefined || terminal.end !== host.end) return []
    const hold = {
      volts: strap.held === 'pull-up' ? host.logicVolts : 0,
      ohms: strap.heldOhms ?? INNER_PULL_OHMS,
      stays: boardPull(host, strap) !== undefined,
    }
    const volts = heldAtStart(wiring, net, hold)
    return [
      {
        when: 'the board starts',
        volts,
        because: [
          `The chip looks at ${host.end}, which must be ${strap.needs} then, and pulls it ${hold.volts === 0 ? 'to ground' : `to ${formatVolts(hold.volts)}`} with ${formatQuantity(hold.ohms, 'Ω')}.`,
          `With what is wired it comes to ${formatVolts(volts)}.`,
        ],
      },
    ]
  })
}

/** Where nothing but pins meet: the levels that arrive from the ones that drive. */
function lineStates(wiring: Wiring, net: Net, end: string): ExplainedState[] {
  const here = new Set([end, ...net.ends])
  return linesOf(wiring)
    .filter((line) => here.has(line.receiver))
    .flatMap((line): ExplainedState[] =>
      (['high', 'low'] as const).flatMap((level) => {
        const volts = line[level]
        if (volts === undefined) return []
        const needs = level === 'high' ? line.vih : line.vil
        const margin =
          needs === undefined
            ? `what ${line.receiver} takes for ${level} is not known`
            : `${line.receiver} takes ${level === 'high' ? 'from' : 'up to'} ${formatVolts(needs)} for ${level}: margin ${formatVolts(level === 'high' ? volts - needs : needs - volts)}`
        return [{ when: `${line.driver} is ${level}`, volts, because: [`${formatVolts(volts)} arrive; ${margin}.`] }]
      }),
    )
}

function solvedStates(circuit: Circuit, { island, states }: IslandVerdict, net: Net): ExplainedState[] {
  const told = new Map<string, ExplainedState & { readonly moved: number }>()
  for (const state of states) {
    const volts = state.volts(net.index)
    const because = becauseOf(circuit, state, net)
    const key = `${volts?.toFixed(2)} ${because.join(' ')}`
    const moved = island.actors.filter((actor, index) => state.positions[index] !== restPosition(actor)).length
    const known = told.get(key)
    if (known && known.moved <= moved) continue
    told.set(key, { when: whenWords(island.actors, state), volts, because, moved })
  }
  return [...told.values()]
    .sort((a, b) => a.moved - b.moved || (b.volts ?? -1) - (a.volts ?? -1))
    .slice(0, MOST_TOLD)
    .map(({ moved: _, ...state }) => state)
}

const restPosition = ({ positions }: Actor): Actor['positions'][number] | undefined =>
  positions.find((one) => one.is === 'usual' || one.strands.length === 0)

/** What drives and what is closed in a state, in words. */
function whenWords(actors: readonly Actor[], { positions }: State): string {
  const words = actors.flatMap(({ what }, index): string[] => {
    const is = positions[index]?.is
    if (is === undefined || is === 'off' || is === 'open' || is === 'usual') return []
    if ('port' in what) return [`${what.port.terminal.end} is ${is}`]
    if ('channel' in what)
      return [`${what.channel.output} ${is === 'low' ? 'conducts to ground' : 'conducts to its supply'}`]
    const { ref } = what.element.part
    return [is === 'closed' ? `${ref} is closed` : `${ref} has its ${is} resistance`]
  })
  return words.length === 0 ? 'nothing drives' : words.join(', ')
}

/** How the volts of a net come about: each thing at it with its current, by Ohm's law and Kirchhoff's. */
function becauseOf(circuit: Circuit, state: State, net: Net): string[] {
  const here = state.volts(net.index)
  if (here === undefined) {
    const pulls = circuit.at(net).find(({ role, host }) => role === 'in' && host?.functions.has('pull-up'))
    return [
      pulls
        ? `Nothing holds it: it floats, unless the program switches on the pull-up inside ${pulls.terminal.end}.`
        : 'Nothing holds it: it floats.',
    ]
  }
  const lines = state.strands.flatMap((strand, index): string[] => {
    if (strand.a !== net.index && strand.b !== net.index) return []
    const other = strand.a === net.index ? strand.b : strand.a
    const there = state.volts(other)
    const amps = state.amps[index] ?? 0
    if (there === undefined) return []
    const inward = strand.a === net.index ? -amps : amps
    return [strandWords(circuit, strand, { here, there, amps: Math.abs(amps), inward, other })]
  })
  return [`It lies at ${formatVolts(here)}.`, ...lines]
}

function strandWords(
  circuit: Circuit,
  strand: Strand,
  { here, there, amps, inward, other }: { here: number; there: number; amps: number; inward: number; other: number },
): string {
  const { element, port, ohms, drop, inside } = strand
  const flows = amps < 5e-7 ? 'no current' : formatQuantity(amps, 'A')
  const way = inward > 0 ? 'comes in' : 'goes out'
  if (port && !element) {
    const from = `${port.terminal.end} drives it to ${formatVolts(there)}`
    return amps < 5e-7
      ? `${from} and gives no current.`
      : `${from}${ohms > 1 ? ` behind ${formatQuantity(ohms, 'Ω')}` : ''}; ${flows} ${way}${ohms > 1 ? `: (${formatVolts(Math.max(here, there))} − ${formatVolts(Math.min(here, there))}) / ${formatQuantity(ohms, 'Ω')}` : ''}.`
  }
  const name = element ? element.part.ref : inside === undefined ? 'A switch' : `The pull inside ${inside}`
  const to = netWords(circuit, other, there)
  if (drop !== undefined)
    return amps < 5e-7
      ? `${name} (${formatVolts(drop)} forward) does not conduct to ${to}.`
      : `${name} conducts to ${to} and takes ${formatVolts(drop)}; ${flows} ${way}.`
  if (element?.kind === 'contact') return `${name} joins it with ${to}; ${flows} ${way}.`
  if (amps < 5e-7) return `${name} (${formatQuantity(ohms, 'Ω')}) leads to ${to}; no current.`
  return `${name} leads to ${to}: (${formatVolts(Math.max(here, there))} − ${formatVolts(Math.min(here, there))}) / ${formatQuantity(ohms, 'Ω')} = ${flows} ${way}.`
}

function netWords(circuit: Circuit, node: number, volts: number): string {
  const net = node >= 0 ? circuit.wiring.nets[node] : undefined
  if (!net) return formatVolts(volts)
  if (net.ground) return 'ground'
  const source = net.sources[0]
  if (source) return `${source.end} (${formatVolts(volts)})`
  return `${net.ends[0]} (${formatVolts(volts)})`
}

/** An explanation as lines of text. */
export function explanationText({ end, is, facts, states, tried }: Explanation): string {
  const lines = [end, ...[...is, ...facts].map((one) => `  ${one}`)]
  for (const { when, because } of states)
    lines.push('', `  ${when === 'always' ? 'Always' : `When ${when}`}:`, ...because.map((one) => `    ${one}`))
  return [...lines, ...(tried === '' ? [] : ['', `  ${tried}`])].join('\n')
}
