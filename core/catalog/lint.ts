import { boardFacts } from './boardFacts.ts'
import type { Board } from './boardSchema.ts'
import { type Catalog, partNames } from './catalog.ts'
import { busSignals, type Levels, volts } from './common.ts'
import type { Part } from './partSchema.ts'
import { asVariant } from './variant.ts'

/** Everything about the catalogue that can be proved wrong without an opinion; a sentence each, with the entry's id. */
export function lintCatalog(catalog: Catalog): string[] {
  const said: string[] = []
  for (const board of catalog.boards.values())
    for (const model of [board, ...board.variants.map((one) => asVariant(board, one.id))])
      lintBoard(model, (text) => said.push(`${model === board ? board.id : model.title}: ${text}`))
  const stems = new Map<string, string>()
  for (const part of catalog.parts.values()) {
    const say = (text: string): void => {
      said.push(`${part.id}: ${text}`)
    }
    lintPart(part, catalog, say)
    const other = stems.get(part.stem)
    if (other) say(`its stem ${part.stem} is also that of ${other}`)
    stems.set(part.stem, part.id)
  }
  return said
}

/** Pitches from the outermost hole of one half-row of a breadboard to that of the other. */
const HALF_ROWS_SPAN = 11

type Say = (text: string) => void

function lintBoard(board: Board, say: Say): void {
  if (board.sources.length === 0) say('has no sources')
  const ids = new Set<string>()
  for (const pin of board.pins) {
    if (ids.has(pin.id)) say(`pin ${pin.id} stands twice`)
    ids.add(pin.id)
  }
  const known = (list: readonly string[], where: string): void => {
    for (const id of list) if (!ids.has(id)) say(`${where} names ${id}, which is no pin`)
  }
  const onHeader = new Map<string, string>()
  for (const header of board.headers) {
    known(header.pins, `header ${header.id}`)
    if (header.columns === 2 && header.pins.length % 2 !== 0)
      say(`header ${header.id} has two columns and an odd number of pins`)
    for (const id of header.pins) {
      const before = onHeader.get(id)
      if (before) say(`pin ${id} lies on header ${before} and on ${header.id}`)
      onHeader.set(id, header.id)
    }
  }
  for (const pin of board.pins) {
    if (!onHeader.has(pin.id)) say(`pin ${pin.id} lies on no header`)
    if (pin.joins !== undefined) {
      known([pin.joins], `${pin.id} joins`)
      if (board.pins.find((one) => one.id === pin.joins)?.joins !== undefined)
        say(`${pin.id} joins ${pin.joins}, which itself joins another`)
    }
    if (pin.levels !== undefined && !(pin.levels in board.levels))
      say(`${pin.id} has levels ${pin.levels}, which the board does not define`)
    for (const caution of pin.cautions) {
      if (caution.id === 'boot-strap' && caution.needs === undefined)
        say(`${pin.id}: a boot-strap caution must say which level it needs`)
      if (caution.feature !== undefined && !board.features.some((one) => one.id === caution.feature))
        say(`${pin.id}: caution ${caution.id} names the feature ${caution.feature}, which the board does not have`)
    }
    const { recommended, absolute } = pin.current ?? board.current.pin
    if (recommended !== undefined && absolute !== undefined && recommended > absolute)
      say(`${pin.id}: recommended current above absolute`)
  }
  const { rowsApart, free } = board.mounting
  if (rowsApart !== undefined && free && free.left + free.right !== Math.max(0, HALF_ROWS_SPAN - rowsApart))
    say(`rows ${rowsApart} apart leave ${HALF_ROWS_SPAN - rowsApart} free holes, not ${free.left + free.right}`)
  if (!('default' in board.levels)) say('has no default levels')
  for (const [name, levels] of Object.entries(board.levels)) lintLevels(levels, board.logicVolts, `levels ${name}`, say)
  const facts = boardFacts(board)
  for (const controller of board.controllers) {
    const signals: readonly string[] = busSignals[controller.kind]
    for (const [signal, pins] of Object.entries(controller.pins ?? {})) {
      known(pins, `${controller.id}.${signal}`)
      if (!signals.includes(signal)) say(`${controller.id} has no signal ${signal}`)
    }
    for (const pin of Object.values(controller.prefer?.pins ?? {})) known([pin], `${controller.id} prefers`)
    for (const group of controller.groups ?? []) known(Object.values(group), `${controller.id} group`)
    for (const [signal, pin] of Object.entries(controller.prefer?.pins ?? {}))
      if (!facts.pin(pin)?.functions.has(`${controller.id}.${signal}`))
        say(`${controller.id} prefers ${pin} for ${signal} and does not reach it`)
    if (!controller.pins && !controller.groups && !controller.matrix) say(`${controller.id} reaches no pin`)
  }
  for (const timer of board.timers)
    for (const pins of Object.values(timer.channels)) {
      known(pins, timer.id)
      for (const pin of pins)
        if (!facts.pin(pin)?.functions.has('pwm')) say(`${timer.id} drives ${pin}, which has no pwm`)
    }
  for (const unit of board.analog) {
    known(unit.pins, unit.id)
    for (const pin of unit.pins)
      if (!facts.pin(pin)?.functions.has('analog-in')) say(`${unit.id} reads ${pin}, which has no analog-in`)
    if (unit.least >= unit.most) say(`${unit.id}: range ends before it starts`)
  }
  for (const pin of facts.pins)
    if (pin.functions.has('analog-in') && !pin.analogUnit) say(`${pin.id} has analog-in and belongs to no analog unit`)
  for (const line of board.interruptLines) known(line.pins, line.id)
  for (const feature of board.features) {
    known(feature.pins, `feature ${feature.id}`)
    for (const id of feature.controllers)
      if (!board.controllers.some((one) => one.id === id)) say(`feature ${feature.id} names the controller ${id}`)
    for (const id of feature.timers)
      if (!board.timers.some((one) => one.id === id)) say(`feature ${feature.id} names the timer ${id}`)
    for (const id of feature.analog)
      if (!board.analog.some((one) => one.id === id)) say(`feature ${feature.id} names the analog unit ${id}`)
  }
  for (const rail of board.rails) known(rail.pins, `rail ${rail.id}`)
  if (board.rails.filter((rail) => rail.logic).length !== 1) say('must have exactly one logic rail')
  for (const feed of board.feeds) {
    known(feed.pins, `feed ${feed.id}`)
    if (feed.least > feed.most) say(`feed ${feed.id}: range ends before it starts`)
    for (const rail of feed.rails)
      if (!board.rails.some((one) => one.id === rail)) say(`feed ${feed.id} names the rail ${rail}`)
  }
  for (const group of board.current.groups) known(group.pins, group.title)
  if (!board.pins.some((pin) => pin.kind === 'ground')) say('has no ground')
  for (const pin of board.pins)
    if (
      facts.names.find(`${onHeader.get(pin.id)}#${facts.pin(pin.id)?.position}`)[0] !== pin.id &&
      pin.joins === undefined
    )
      say(`${pin.id} is not found by its position`)
}

function lintPart(part: Part, catalog: Catalog, say: Say): void {
  if (part.sources.length === 0) say('has no sources')
  const ids = new Set<string>()
  for (const pin of part.pins) {
    if (ids.has(pin.id)) say(`pin ${pin.id} stands twice`)
    ids.add(pin.id)
    for (const alias of pin.aliases) {
      const fits = partNames(part).find(alias)
      if (fits.length > 1) say(`alias ${alias} fits ${fits.join(' and ')}`)
    }
  }
  const known = (list: readonly (string | null)[], where: string): void => {
    for (const id of list) if (id !== null && !ids.has(id)) say(`${where} names ${id}, which is no pin`)
  }
  for (const supply of part.supplies) {
    known([...supply.pins, ...supply.ground], 'supply')
    if (supply.least > supply.most) say('supply range ends before it starts')
    if (supply.absolute !== undefined && supply.most > supply.absolute)
      say('supply range goes beyond its absolute limit')
    if (supply.usual !== undefined && (supply.usual < supply.least || supply.usual > supply.most))
      say('usual supply lies outside the range')
    const { typicalMilliamps: typical, peakMilliamps: peak } = supply
    if (typeof typical === 'number' && typeof peak === 'number' && typical > peak) say('typical current above peak')
  }
  const options = new Map(part.options.map((option) => [option.id, option]))
  for (const option of part.options) {
    if (option.kind !== 'amount' && !option.values.some((one) => one.value === option.usual))
      say(`option ${option.id}: ${option.usual} is none of its values`)
    if (option.kind === 'i2c-address')
      for (const { value } of option.values)
        if (Number(value) < 0x08 || Number(value) > 0x77) say(`option ${option.id}: ${value} is a reserved address`)
  }
  const modes = part.modes.length > 0 ? part.modes : [undefined]
  for (const mode of modes) {
    const signals = [...part.signals, ...(mode?.signals ?? [])]
    const ties = [...part.ties, ...(mode?.ties ?? [])]
    const where = mode ? `mode ${mode.id}` : 'wiring'
    known(
      [...signals, ...ties].map((one) => one.pin),
      where,
    )
    const used = new Set<string>()
    for (const { pin } of [...signals, ...ties]) {
      if (used.has(pin)) say(`${where} uses ${pin} twice`)
      used.add(pin)
    }
    for (const signal of signals) {
      const sets =
        typeof signal.levels === 'object'
          ? Object.values(signal.levels.sets)
          : signal.levels === undefined
            ? []
            : [signal.levels]
      for (const set of sets)
        if (!(set in part.levels)) say(`${where}: ${signal.pin} has levels ${set}, which the part does not define`)
    }
    for (const tie of ties) {
      if (typeof tie.to === 'string') continue
      const option = options.get(tie.to.option)
      if (!option) say(`${where}: ${tie.pin} follows the option ${tie.to.option}, which the part does not have`)
      for (const { value } of option?.values ?? [])
        if (!(String(value) in tie.to.values)) say(`${where}: ${tie.pin} has no strap for ${value}`)
    }
    const addressed = mode?.i2c?.addresses
    if (addressed?.option !== undefined && options.get(addressed.option)?.kind !== 'i2c-address')
      say(`${where}: the address option ${addressed.option} is no address`)
    for (const address of addressed?.fixed ?? [])
      if (address < 0x08 || address > 0x77) say(`${where}: reserved address ${address}`)
    for (const pin of part.pins) {
      const fed = part.supplies.some((supply) => supply.pins.includes(pin.id) || supply.ground.includes(pin.id))
      const needed = pin.role === 'signal' && pin.open === undefined && !used.has(pin.id) && !fed
      if (needed) say(`${where} says nothing of pin ${pin.id}`)
    }
  }
  const logic = part.supplies[0]?.logicVolts ?? part.supplies[0]?.usual ?? part.supplies[0]?.most ?? 3.3
  for (const [name, levels] of Object.entries(part.levels)) lintLevels(levels, logic, `levels ${name}`, say)
  for (const given of part.provides) known(given.pins, 'provides')
  for (const controller of part.controllers) {
    known(Object.values(controller.pins), controller.id)
    const signals: readonly string[] = busSignals[controller.kind]
    for (const signal of Object.keys(controller.pins))
      if (!signals.includes(signal)) say(`${controller.id} has no signal ${signal}`)
  }
  for (const content of part.contains) {
    if (!catalog.parts.has(content.part)) say(`contains ${content.part}, which is not in the catalogue`)
    for (const id of Array.isArray(content.count) ? content.count : [])
      if (!options.has(id)) say(`counts ${content.part} by the option ${id}, which the part does not have`)
  }
  for (const { when } of [...part.signals, ...part.ties, ...part.inner, ...part.companions, ...part.contains])
    if (when && !options.has(when.option))
      say(`a condition names the option ${when.option}, which the part does not have`)
  for (const inner of part.inner) known([...inner.between, ...(inner.rails ?? [])], `inner ${inner.kind}`)
  known(part.cable, 'cable')
  for (const companion of part.companions) {
    if (!catalog.parts.has(companion.part)) say(`companion ${companion.part} is not in the catalogue`)
    if (companion.series !== undefined) known([companion.series], 'companion')
    if (companion.across)
      known(
        companion.across.filter((one) => one !== 'supply' && one !== 'ground'),
        'companion',
      )
  }
  const foot = part.footprint
  const feet = foot.kind === 'two-row' ? [...foot.left, ...foot.right] : foot.pins
  known(feet, 'footprint')
  if (foot.kind === 'dual-in-line') {
    if (feet.length % 2 !== 0) say('a dual in-line footprint has an even number of legs')
    feet.forEach((id, index) => {
      const number = part.pins.find((pin) => pin.id === id)?.number
      if (number !== index + 1) say(`leg ${index + 1} of the footprint is ${id}, which is numbered ${number}`)
    })
  }
  if (new Set(feet.filter((id) => id !== null)).size !== feet.filter((id) => id !== null).length)
    say('the footprint names a pin twice')
}

/** Levels must be ordered: least < vil < vih ≤ most, and outputs must lie within what their own inputs accept. */
function lintLevels(levels: Levels, vdd: number, where: string, say: Say): void {
  const at = (name: 'vih' | 'vil' | 'voh' | 'vol' | 'most' | 'least'): number | undefined => volts(levels[name], vdd)
  const ordered = (low: number | undefined, high: number | undefined, text: string): void => {
    if (low !== undefined && high !== undefined && low > high + 1e-9) say(`${where}: ${text} (${low} V, ${high} V)`)
  }
  ordered(at('vil'), at('vih'), 'VIL lies above VIH')
  ordered(at('vih'), at('most'), 'VIH lies above what the pin bears')
  ordered(at('vol'), at('voh'), 'VOL lies above VOH')
  ordered(at('least'), at('vil'), 'the least voltage lies above VIL')
}
