import type { Path } from '../base/yamlSource.ts'
import { behaviourPins } from './behaviourSchema.ts'
import { type Catalog, partNames } from './catalog.ts'
import { busSignals, isLoad, PITCH_MM } from './common.ts'
import { footprintPins, legsOf } from './footprint.ts'
import { lintLevels, type Say } from './lintLevels.ts'
import type { Footprint, Part, PartOption } from './partSchema.ts'
import type { Mode, When } from './signalSchema.ts'

/** An entry under proof, and how something is said of it. */
interface Proof {
  readonly part: Part
  readonly catalog: Catalog
  readonly say: Say
  /** Says it where a list names something that is no pin. */
  readonly known: (list: readonly (string | null)[], where: string, path?: Path) => void
  readonly options: ReadonlyMap<string, PartOption>
}

/** What can be proved wrong about a part; `catalog` holds the parts that it refers to. */
export function lintPartEntry(part: Part, catalog: Catalog, say: Say): void {
  const ids = new Set(part.pins.map(({ id }) => id))
  const proof: Proof = {
    part,
    catalog,
    say,
    known: (list, where, path) => {
      for (const id of list) if (id !== null && !ids.has(id)) say(`${where} names ${id}, which is no pin`, path)
    },
    options: new Map(part.options.map((option) => [option.id, option])),
  }
  if (part.sources.length === 0) say('has no sources', ['sources'])
  lintPins(proof)
  lintSupplies(proof)
  lintOptions(proof)
  const modes = part.modes.length > 0 ? part.modes : [undefined]
  for (const [index, mode] of modes.entries()) lintMode(proof, mode, mode ? ['modes', index] : ['signals'])
  lintGiven(proof)
  lintContents(proof)
  lintCompanions(proof)
  lintBuild(proof)
}

function lintPins({ part, say }: Proof): void {
  const ids = new Set<string>()
  for (const [index, pin] of part.pins.entries()) {
    if (ids.has(pin.id)) say(`pin ${pin.id} stands twice`, ['pins', index])
    ids.add(pin.id)
    for (const alias of pin.aliases) {
      const fits = partNames(part).find(alias)
      if (fits.length > 1 || fits[0] !== pin.id)
        say(`alias ${alias} fits ${fits.length > 1 ? fits.join(' and ') : `the pin ${fits[0]}`}`, ['pins', index])
    }
  }
}

function lintSupplies({ part, say, known }: Proof): void {
  for (const [index, supply] of part.supplies.entries()) {
    const at = ['supplies', index]
    known([...supply.pins, ...supply.ground, ...supply.sharedBy], 'supply', at)
    if (supply.pins.length === 0) say('a supply names no pin', at)
    for (const id of supply.modes ?? [])
      if (!part.modes.some((mode) => mode.id === id)) say(`a supply is for mode ${id}, which the part has not`, at)
    if (supply.least > supply.most) say('supply range ends before it starts', at)
    if (supply.absolute !== undefined && supply.most > supply.absolute)
      say('supply range goes beyond its absolute limit', at)
    if (supply.usual !== undefined && (supply.usual < supply.least || supply.usual > supply.most))
      say('usual supply lies outside the range', at)
    const { typicalMilliamps: typical, peakMilliamps: peak } = supply
    if (typeof typical === 'number' && typeof peak === 'number' && typical > peak) say('typical current above peak', at)
  }
}

function lintOptions({ part, say, options }: Proof): void {
  for (const [index, option] of part.options.entries()) {
    const at = ['options', index]
    for (const usual of [option.usual, option.usualWhen?.usual])
      if (usual !== undefined && option.kind !== 'amount' && !option.values.some((one) => one.value === usual))
        say(`option ${option.id}: ${usual} is none of its values`, at)
    if (option.usualWhen && !options.has(option.usualWhen.when.option))
      say(`option ${option.id}: there is no option ${option.usualWhen.when.option}`, at)
    if (option.kind === 'i2c-address')
      for (const { value } of option.values)
        if (Number(value) < 0x08 || Number(value) > 0x77) say(`option ${option.id}: ${value} is a reserved address`, at)
  }
}

/** Signals and ties of one way to wire a part, those of all ways included. */
function lintMode(proof: Proof, mode: Mode | undefined, at: Path): void {
  const { part, say, known, options } = proof
  const signals = [...part.signals, ...(mode?.signals ?? [])]
  const ties = [...part.ties, ...(mode?.ties ?? [])]
  const where = mode ? `mode ${mode.id}` : 'wiring'
  known(
    [...signals, ...ties].map((one) => one.pin),
    where,
    at,
  )
  if (mode?.i2c?.pullUpTo !== undefined) known([mode.i2c.pullUpTo], `${where}: the pull-ups`, at)
  const uses = [...signals, ...ties]
  const used = new Set(uses.map(({ pin }) => pin))
  for (const [later, one] of uses.entries())
    if (uses.slice(0, later).some((other) => other.pin === one.pin && !areApart(one.when, other.when)))
      say(`${where} uses ${one.pin} twice`, at)
  for (const signal of signals) {
    const sets =
      typeof signal.levels === 'object'
        ? Object.values(signal.levels.sets)
        : signal.levels === undefined
          ? []
          : [signal.levels]
    for (const set of sets)
      if (!Object.hasOwn(part.levels, set))
        say(`${where}: ${signal.pin} has levels ${set}, which the part does not define`, at)
  }
  for (const tie of ties) {
    const targets = typeof tie.to === 'string' ? [tie.to] : Object.values(tie.to.values)
    known(
      targets.filter((one) => one !== 'supply' && one !== 'ground'),
      `${where}: the tie of ${tie.pin}`,
      at,
    )
    if (typeof tie.to === 'string') continue
    const option = options.get(tie.to.option)
    if (!option) say(`${where}: ${tie.pin} follows the option ${tie.to.option}, which the part does not have`, at)
    for (const { value } of option?.values ?? [])
      if (!Object.hasOwn(tie.to.values, String(value))) say(`${where}: ${tie.pin} has no strap for ${value}`, at)
  }
  lintAddresses(proof, mode, where, at)
  for (const pin of part.pins) {
    const fed = part.supplies.some((supply) => supply.pins.includes(pin.id) || supply.ground.includes(pin.id))
    const needed = pin.role === 'signal' && pin.open === undefined && !used.has(pin.id) && !fed
    if (needed) say(`${where} says nothing of pin ${pin.id}`, ['pins', part.pins.indexOf(pin)])
  }
}

function lintAddresses({ say, options }: Proof, mode: Mode | undefined, where: string, at: Path): void {
  const addressed = mode?.i2c?.addresses
  if (addressed !== undefined && addressed.fixed.length === 0 && addressed.option === undefined)
    say(`${where} has no address; expected one such as 0x3C, or an option that gives it`, at)
  if (addressed?.option !== undefined && options.get(addressed.option)?.kind !== 'i2c-address')
    say(`${where}: the address option ${addressed.option} is no address`, at)
  for (const address of addressed?.fixed ?? [])
    if (address < 0x08 || address > 0x77) say(`${where}: reserved address ${address}`, at)
}

/** Levels, pins and rails that it gives to others, and what moves them. */
function lintGiven({ part, say, known, options }: Proof): void {
  const logic = part.supplies[0]?.logicVolts ?? part.supplies[0]?.usual ?? part.supplies[0]?.most ?? 3.3
  for (const [name, levels] of Object.entries(part.levels))
    lintLevels(levels, logic, `levels ${name}`, say, ['levels', name])
  for (const [index, given] of part.provides.entries()) known(given.pins, 'provides', ['provides', index])
  for (const [index, channel] of part.channels.entries()) {
    const at: Path = ['channels', index]
    known([channel.output, ...channel.inputs, ...channel.enables.map((one) => one.pin)], 'channel', at)
    if (channel.supply !== undefined) known([channel.supply], 'channel', at)
    if (!part.provides.some((given) => given.pins.includes(channel.output)))
      say(`channel ${channel.output} is no pin that the part provides`, at)
    if (channel.inputs.length === 0) say(`channel ${channel.output} has no input`, at)
  }
  for (const given of part.provides)
    if (given.does.some(isLoad))
      for (const pin of given.pins)
        if (!part.channels.some((channel) => channel.output === pin))
          say(`output ${pin} does not say what moves it`, ['provides'])
  for (const [index, rail] of part.rails.entries()) {
    known([rail.pin, ...(rail.from === undefined ? [] : [rail.from])], 'rails', ['rails', index])
    if (typeof rail.volts === 'object' && !options.has(rail.volts.option))
      say(`the rail ${rail.pin} follows the option ${rail.volts.option}, which the part does not have`, [
        'rails',
        index,
      ])
  }
  for (const controller of part.controllers) {
    known(Object.values(controller.pins), controller.id)
    const signals: readonly string[] = busSignals[controller.kind]
    for (const signal of Object.keys(controller.pins))
      if (!signals.includes(signal)) say(`${controller.id} has no signal ${signal}`)
  }
}

/** What lies inside, and the conditions of all that is there at times only. */
function lintContents({ part, catalog, say, known, options }: Proof): void {
  for (const content of part.contains) {
    if (!catalog.parts.has(content.part)) say(`contains ${content.part}, which is not in the catalogue`)
    for (const id of Array.isArray(content.count) ? content.count : [])
      if (!options.has(id)) say(`counts ${content.part} by the option ${id}, which the part does not have`)
  }
  for (const { when } of [...part.signals, ...part.ties, ...part.inner, ...part.companions, ...part.contains])
    if (when && !options.has(when.option))
      say(`a condition names the option ${when.option}, which the part does not have`)
  for (const inner of part.inner) {
    known([...inner.between, ...(inner.rails ?? [])], `inner ${inner.kind}`, ['inner'])
    if (inner.between[0] === inner.between[1])
      say(`inner ${inner.kind} joins ${inner.between[0]} with itself`, ['inner'])
  }
  known(part.cable, 'cable', ['cable'])
}

function lintCompanions({ part, catalog, say, known }: Proof): void {
  for (const [index, companion] of part.companions.entries()) {
    const at = ['companions', index]
    const other = catalog.parts.get(companion.part)
    if (!other) say(`companion ${companion.part} is not in the catalogue`, at)
    for (const [id, value] of Object.entries(companion.options)) {
      const option = other?.options.find((one) => one.id === id)
      const fits =
        option?.kind === 'amount' ? typeof value === 'number' : option?.values.some((one) => one.value === value)
      if (other && !fits) say(`companion ${companion.part} has no ${id} of ${value}`, at)
    }
    if (companion.series !== undefined) known([companion.series], 'companion')
    if (companion.across)
      known(
        companion.across.filter((one) => one !== 'supply' && one !== 'ground'),
        'companion',
      )
  }
}

/** Plugs and footprints. */
function lintBuild({ part, say, known }: Proof): void {
  known(part.counts, 'the order in which programs count', ['counts'])
  if (part.behaves) {
    known(behaviourPins(part.behaves), 'what it does with levels', ['behaves'])
    const { behaves } = part
    if (behaves.as === 'step' && behaves.microsteps && !part.options.some(({ id }) => id === behaves.microsteps))
      say(`what it does with levels names the option ${behaves.microsteps}, which it does not have`, ['behaves'])
  }
  for (const [index, ask] of part.asks.entries()) {
    known(ask.pins ?? [], 'what programs ask for', ['asks', index])
    if (
      typeof ask.amount === 'object' &&
      !part.options.some((one) => one.id === (ask.amount as { option: string }).option)
    )
      say(`what programs ask for names the option ${ask.amount.option}, which it does not have`, ['asks', index])
    if (ask.list !== undefined && !ask.pins) say('a list of what programs ask for names no pins', ['asks', index])
    if (ask.name !== undefined && ask.amount === undefined)
      say('what programs ask for has a name and no amount', ['asks', index])
  }
  known(part.presses.flat(), 'a contact that a hand closes', ['presses'])
  for (const row of part.plugPosts) known(row, 'a row of posts for a plug', ['plugPosts'])
  if (part.plugsOn.length > 0) {
    const most = Math.min(...part.plugsOn)
    const numbers = new Set(part.pins.map(({ number }) => number))
    if (numbers.size !== most || !Array.from({ length: most }, (_, at) => at + 1).every((one) => numbers.has(one)))
      say(`what plugs onto a header of ${most} posts has a pin for each, numbered from 1`, ['plugsOn'])
  }
  lintFootprint(part, part.footprint, say, known)
  for (const { when, footprint } of part.footprints) {
    const option = part.options.find(({ id }) => id === when.option)
    if (option === undefined) say(`a footprint hangs on ${when.option}, which is no option`, ['footprints'])
    for (const value of when.is ?? [])
      if (option !== undefined && !option.values.some((one) => one.value === value))
        say(`a footprint is for ${when.option} ${value}, which is no value of it`, ['footprints'])
    lintFootprint(part, footprint, say, known)
  }
}

/** Two conditions that never hold together: different values of one option. */
function areApart(one: When | undefined, other: When | undefined): boolean {
  if (one?.option === undefined || one.option !== other?.option) return false
  return one.is !== undefined && other.is !== undefined && !one.is.some((value) => other.is?.includes(value))
}

function lintFootprint(
  part: Part,
  foot: Footprint,
  say: Say,
  known: (list: readonly (string | null)[], where: string, path?: Path) => void,
): void {
  const feet = footprintPins(foot)
  const legs = legsOf(foot)
  known(feet, 'footprint', ['footprint'])
  if (foot.kind === 'beside' && foot.overRails) {
    const { plus, minus } = foot.overRails
    const strange = [...plus, minus].filter((pin) => !feet.includes(pin))
    if (strange.length > 0) say(`overRails names ${strange.join(', ')}, of which the footprint has none`, ['footprint'])
    const dead = plus.filter((pin) => !part.rails.some((rail) => rail.pin === pin))
    if (dead.length > 0) say(`overRails feeds the rails from ${dead.join(', ')}, which gives no supply`, ['footprint'])
  }
  lintOutline(part, foot, say)
  if (foot.kind === 'legs' && foot.spanLeast > foot.spanMost)
    say('the span of the legs ends before it starts', ['footprint'])
  if (foot.kind === 'dual-in-line') {
    if (legs.length % 2 !== 0) say('a dual in-line footprint has an even number of legs', ['footprint'])
    legs.forEach((id, index) => {
      const number = part.pins.find((pin) => pin.id === id)?.number
      if (number !== index + 1)
        say(`leg ${index + 1} of the footprint is ${id}, which is numbered ${number}`, ['footprint'])
    })
  }
  if (new Set(feet.filter((id) => id !== null)).size !== feet.filter((id) => id !== null).length)
    say('the footprint names a pin twice', ['footprint'])
}

/** An outline holds its row of posts; only a module on one row has one. */
function lintOutline({ outline }: Part, foot: Footprint, say: Say): void {
  if (!outline) return
  if (foot.kind !== 'in-line') {
    say('an outline is for one row of posts', ['outline'])
    return
  }
  const row = (foot.pins.length - 1) * PITCH_MM
  if ((outline.first ?? 0) + row > outline.along)
    say(
      `a row of ${foot.pins.length} posts, ${row.toFixed(1)} mm long, does not lie within an outline of ${outline.along} mm`,
      ['outline'],
    )
}

/**
 * Pins of which the entry says nothing electrical, and gives no reason. Shipped entries have none; the maker's own may,
 * since not everybody knows what a leg is for.
 */
export function lintMutePins(part: Part, say: Say): void {
  const spoken = pinsSpokenOf(part)
  for (const [index, pin] of part.pins.entries())
    if (pin.role !== 'ground' && !spoken.has(pin.id) && !(pin.none ?? pin.outside ?? pin.unknown))
      say(
        `pin ${pin.id} is mute: expected it in a signal, tie, supply, rail, channel or inner element, or none, outside or unknown with a reason`,
        ['pins', index],
      )
}

/** Pins of which the entry says anything electrical. */
function pinsSpokenOf(part: Part): ReadonlySet<string> {
  const modes = [part, ...part.modes]
  return new Set([
    ...(part.plugsOn.length > 0 ? part.pins.map(({ id }) => id) : []),
    ...modes.flatMap(({ signals, ties }) => [...signals, ...ties].map(({ pin }) => pin)),
    ...part.supplies.flatMap(({ pins, ground }) => [...pins, ...ground]),
    ...part.rails.map(({ pin }) => pin),
    ...part.provides.flatMap(({ pins, clamp }) => [...pins, ...(clamp === undefined ? [] : [clamp])]),
    ...part.channels.flatMap(({ output, inputs, enables }) => [output, ...inputs, ...enables.map(({ pin }) => pin)]),
    ...part.controllers.flatMap(({ pins }) => Object.values(pins)),
    ...part.inner.flatMap(({ between, rails = [] }) => [...between, ...rails]),
  ])
}
