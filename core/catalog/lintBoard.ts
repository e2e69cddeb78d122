import type { Path } from '../base/yamlSource.ts'
import { boardFacts } from './boardFacts.ts'
import type { Rail } from './boardPower.ts'
import { type Board, pinNameParts } from './boardSchema.ts'
import { busSignals, plainFunctions } from './common.ts'
import { lintLevels, type Say } from './lintLevels.ts'
import { asVariant } from './variant.ts'

/** Pitches from the outermost hole of one half-row of a breadboard to that of the other. */
const HALF_ROWS_SPAN = 11

/** What can be proved wrong about a board and each of its models. */
export function lintBoardEntry(board: Board, say: Say): void {
  lintBoardModel(board, say)
  for (const { id, title } of board.variants)
    lintBoardModel(asVariant(board, id), (text) => say(`${title}: ${text}`, ['variants']))
}

function lintBoardModel(board: Board, say: Say): void {
  if (board.sources.length === 0) say('has no sources', ['sources'])
  const ids = new Set<string>()
  for (const [index, pin] of board.pins.entries()) {
    if (ids.has(pin.id)) say(`pin ${pin.id} stands twice`, ['pins', index])
    ids.add(pin.id)
  }
  const pinAt = (id: string): Path => ['pins', board.pins.findIndex((pin) => pin.id === id)]
  const known = (list: readonly string[], where: string, path?: Path): void => {
    for (const id of list) if (!ids.has(id)) say(`${where} names ${id}, which is no pin`, path)
  }
  const onHeader = new Map<string, string>()
  for (const [index, header] of board.headers.entries()) {
    known(header.pins, `header ${header.id}`, ['headers', index, 'pins'])
    if (header.columns === 2 && header.pins.length % 2 !== 0)
      say(`header ${header.id} has two columns and an odd number of pins`, ['headers', index, 'pins'])
    for (const id of header.pins) {
      const before = onHeader.get(id)
      if (before) say(`pin ${id} lies on header ${before} and on ${header.id}`, ['headers', index, 'pins'])
      onHeader.set(id, header.id)
    }
  }
  for (const [index, program] of board.programs.entries()) {
    known(
      [
        ...Object.keys(program.except),
        ...program.interrupts,
        ...Object.values(program.also),
        ...Object.values(program.begins).flatMap(Object.values<string>),
      ],
      'programs',
      ['programs', index],
    )
    if (board.programs.findIndex(({ as }) => as === program.as) !== index)
      say(`programs in ${program.as} stand twice`, ['programs', index])
    for (const [, name = ''] of program.pin.matchAll(/\{([^}]*)\}/g))
      if (!pinNameParts.includes(name))
        say(`programs write a pin with {${name}}; expected ${pinNameParts.join(', ')}`, ['programs', index])
  }
  for (const pin of board.pins) {
    if (!onHeader.has(pin.id)) say(`pin ${pin.id} lies on no header`, pinAt(pin.id))
    if (pin.joins !== undefined) {
      known([pin.joins], `${pin.id} joins`, pinAt(pin.id))
      if (board.pins.find((one) => one.id === pin.joins)?.joins !== undefined)
        say(`${pin.id} joins ${pin.joins}, which itself joins another`, pinAt(pin.id))
    }
    for (const name of pin.does)
      if (!Object.hasOwn(board.functionSets, name) && !(plainFunctions as readonly string[]).includes(name))
        say(`${pin.id} does ${name}, which is neither an ability nor a set of them`, pinAt(pin.id))
    if (pin.levels !== undefined && !Object.hasOwn(board.levels, pin.levels))
      say(`${pin.id} has levels ${pin.levels}, which the board does not define`, pinAt(pin.id))
    for (const caution of pin.cautions) {
      if (caution.id === 'boot-strap' && caution.needs === undefined)
        say(`${pin.id}: a boot-strap caution must say which level it needs`, pinAt(pin.id))
      if (caution.feature !== undefined && !board.features.some((one) => one.id === caution.feature))
        say(
          `${pin.id}: caution ${caution.id} names the feature ${caution.feature}, which the board does not have`,
          pinAt(pin.id),
        )
    }
    const { recommended, absolute } = pin.current ?? board.current.pin
    if (recommended !== undefined && absolute !== undefined && recommended > absolute)
      say(`${pin.id}: recommended current above absolute`, pinAt(pin.id))
  }
  const { rowsApart, free } = board.mounting
  if (rowsApart !== undefined && free && free.left + free.right !== Math.max(0, HALF_ROWS_SPAN - rowsApart))
    say(`rows ${rowsApart} apart leave ${HALF_ROWS_SPAN - rowsApart} free holes, not ${free.left + free.right}`, [
      'mounting',
    ])
  if (!Object.hasOwn(board.levels, 'default')) say('has no default levels', ['levels'])
  for (const [name, levels] of Object.entries(board.levels))
    lintLevels(levels, board.logicVolts, `levels ${name}`, say, ['levels', name])
  const facts = boardFacts(board)
  for (const [index, controller] of board.controllers.entries()) {
    const at = ['controllers', index]
    const signals: readonly string[] = busSignals[controller.kind]
    for (const [signal, pins] of Object.entries(controller.pins ?? {})) {
      known(pins, `${controller.id}.${signal}`, at)
      if (!signals.includes(signal)) say(`${controller.id} has no signal ${signal}`, at)
    }
    for (const pin of Object.values(controller.prefer?.pins ?? {})) known([pin], `${controller.id} prefers`, at)
    for (const group of controller.groups ?? []) known(Object.values(group), `${controller.id} group`, at)
    for (const [signal, pin] of Object.entries(controller.prefer?.pins ?? {}))
      if (!facts.pin(pin)?.functions.has(`${controller.id}.${signal}`))
        say(`${controller.id} prefers ${pin} for ${signal} and does not reach it`, at)
    if (!controller.pins && !controller.groups && !controller.matrix) say(`${controller.id} reaches no pin`, at)
  }
  for (const timer of board.timers)
    for (const pins of Object.values(timer.channels)) {
      known(pins, timer.id)
      for (const pin of pins)
        if (!facts.pin(pin)?.functions.has('pwm')) say(`${timer.id} drives ${pin}, which has no pwm`, pinAt(pin))
    }
  for (const unit of board.analog) {
    known(unit.pins, unit.id)
    for (const pin of unit.pins)
      if (!facts.pin(pin)?.functions.has('analog-in'))
        say(`${unit.id} reads ${pin}, which has no analog-in`, pinAt(pin))
    if (unit.least >= unit.most) say(`${unit.id}: range ends before it starts`)
  }
  for (const pin of facts.pins)
    if (pin.functions.has('analog-in') && !pin.analogUnit)
      say(`${pin.id} has analog-in and belongs to no analog unit`, pinAt(pin.id))
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
  for (const [index, rail] of board.rails.entries()) {
    known(rail.pins, `rail ${rail.id}`, ['rails', index])
    if (rail.pins.length === 0) say(`rail ${rail.id} is reached on no pin`, ['rails', index])
    if (rail.through !== undefined && !board.rails.some(({ id }) => id === rail.through))
      say(`rail ${rail.id} comes through ${rail.through}, which is no rail of the board`, ['rails', index])
    if (comesThroughItself(board, rail)) say(`rail ${rail.id} comes through itself`, ['rails', index])
  }
  if (board.rails.filter((rail) => rail.logic).length !== 1) say('must have exactly one logic rail', ['rails'])
  for (const feed of board.feeds) {
    known(feed.pins, `feed ${feed.id}`)
    if (feed.least > feed.most) say(`feed ${feed.id}: range ends before it starts`)
    for (const rail of feed.rails)
      if (!board.rails.some((one) => one.id === rail)) say(`feed ${feed.id} names the rail ${rail}`)
  }
  if (board.own && board.own.peak < board.own.typical) say('takes less at peaks than as a rule', ['own'])
  for (const group of board.current.groups) known(group.pins, group.title)
  if (!board.pins.some((pin) => pin.kind === 'ground')) say('has no ground', ['pins'])
  for (const pin of board.pins)
    if (
      facts.names.find(`${onHeader.get(pin.id)}#${facts.pin(pin.id)?.position}`)[0] !== pin.id &&
      pin.joins === undefined
    )
      say(`${pin.id} is not found by its position`)
}

/** The rails that a rail comes through lead back to it. */
function comesThroughItself(board: Board, rail: Rail): boolean {
  let now: Rail | undefined = rail
  for (const _ of board.rails) {
    const through: string | undefined = now?.through
    now = through === undefined ? undefined : board.rails.find(({ id }) => id === through)
    if (now === rail) return true
  }
  return false
}
