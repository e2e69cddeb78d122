import { entryOf } from '../base/entryOf.ts'
import type { Controller, ControllerSetting } from '../catalog/boardControllers.ts'
import { USUAL_CLOCK } from '../circuit/i2cLines.ts'
import { busPins } from '../wiring/buses.ts'
import type { BoardInstance, Bus, Wiring } from '../wiring/model.ts'
import { type Line, linesOf, partsOf, pinOf } from './lines.ts'

/** One thing that the operating system of a board must be told, or that a maker must know of it. */
export interface Setting {
  /** What it is for: a bus with its parts, a part, rights. */
  readonly title: string
  /** Refs of the parts that need it. */
  readonly parts: readonly string[]
  /** The same in words, in order; commands stand in them as they are typed. */
  readonly steps: readonly string[]
  /** Lines for the boot configuration. */
  readonly lines: readonly string[]
  /** Where programs find it. */
  readonly device: string | undefined
  /** False for what makes it easier but can be left out. */
  readonly needed: boolean
}

export interface BoardSettings {
  readonly ref: string
  /** File that takes the lines; undefined where there is none. */
  readonly file: string | undefined
  readonly settings: readonly Setting[]
  /** What must be done after a change. */
  readonly after: string
}

/** What the system of a board must be told for this plan; undefined for a board without an operating system. */
export function settingsOf(wiring: Wiring, ref: string): BoardSettings | undefined {
  const board = wiring.boards.find((one) => one.ref === ref)
  const system = board?.board.system
  if (!board || !system) return undefined
  const lines = linesOf(wiring).filter((line) => line.board === board && line.host.board === board)
  const settings = [
    ...wiring.buses.flatMap((bus) => busSetting(wiring, board, bus, lines)),
    ...consoleSetting(wiring, board),
    ...partSettings(wiring, board, lines),
    ...pwmSetting(board, lines),
  ]
  const rights = rightsSetting(wiring, board, lines)
  return { ref, file: system.file, settings: [...settings, ...rights], after: system.after }
}

/** Number by which programs and overlays know a pin. */
const numberOf = (board: BoardInstance, pin: string): string => board.facts.pin(pin)?.firmware ?? pin

function busSetting(wiring: Wiring, board: BoardInstance, bus: Bus, lines: readonly Line[]): Setting[] {
  if (bus.board !== board) return []
  const reached = bus.uses.some((use) => lines.some((line) => line.use === use))
  if (!reached) return []
  const parts = bus.parts.map((part) => part.ref)
  const controller = board.board.controllers.find((one) => one.id === bus.controller)
  if (!controller) return softwareSetting(board, bus, parts)
  const { setting } = controller
  if (!setting) return []
  const numbers = new Map([...busPins(bus)].map(([signal, pins]) => [signal, numberOf(board, [...pins][0] as string)]))
  const selects = bus.uses.flatMap((use) =>
    use.facts.needs === 'spi.cs' ? use.hosts.flatMap(({ host }) => (host.board === board ? [host.pin] : [])) : [],
  )
  const text = [...setting.lines, ...selectLines(board, setting, selects)].map((line) => filled(line, numbers))
  const clock = entryOf(entryOf(wiring.plan.boards, board.ref)?.clocks, controller.id)
  return [
    {
      title: `${controller.title}: ${parts.join(', ')}`,
      parts,
      steps: [setting.step, ...noteOf(controller)],
      lines: withClock(setting, text, clock),
      device: setting.device,
      needed: true,
    },
  ]
}

const noteOf = ({ note }: Controller): string[] => (note === undefined ? [] : [note])

const filled = (line: string, numbers: ReadonlyMap<string, string>): string =>
  line.replace(/\{(\w+)\}/g, (whole, name: string) => numbers.get(name) ?? whole)

/**
 * Lines for the selects of an SPI bus: none while all lie on pins that the plain line already takes, in any order; else
 * the overlay for so many, with the pins that differ.
 */
function selectLines(board: BoardInstance, setting: ControllerSetting, pins: readonly string[]): string[] {
  const usual = setting.selects.map((one) => one.usual)
  const used = [...new Set(pins)]
  const most = setting.bySelects.length
  if (most === 0) return []
  const plain = setting.lines.length > 0
  if (plain && used.every((pin) => usual.includes(pin))) return []
  if (used.length === 0) return plain ? [] : [setting.bySelects[0] as string]
  // A select that stands where the overlay expects one keeps its place; the others fill the rest in order.
  const count = Math.min(most, Math.max(used.length, ...used.map((pin) => usual.indexOf(pin) + 1)))
  const places: (string | undefined)[] = Array.from({ length: count }, (_, at) =>
    used.includes(usual[at] ?? '') ? usual[at] : undefined,
  )
  const rest = used.filter((pin) => !places.includes(pin))
  const filledIn = places.map((pin) => pin ?? rest.shift())
  const options = filledIn.map((pin, at) =>
    pin === undefined || pin === usual[at]
      ? ''
      : (setting.selects[at]?.option ?? '').replace(`{cs${at}}`, numberOf(board, pin)),
  )
  return [`${setting.bySelects[count - 1]}${options.join('')}`]
}

function withClock(setting: ControllerSetting, lines: readonly string[], clock: number | undefined): string[] {
  if (setting.clock === undefined || clock === undefined || clock === USUAL_CLOCK) return [...lines]
  const text = setting.clock.replace('{hertz}', String(clock))
  return text.startsWith(',') ? lines.map((line, at) => (at === 0 ? `${line}${text}` : line)) : [...lines, text]
}

/** A bus that no controller carries: the kernel can make I2C on any pins. */
function softwareSetting(board: BoardInstance, bus: Bus, parts: readonly string[]): Setting[] {
  const pins = busPins(bus)
  const [sda, scl] = ['sda', 'scl'].map((signal) => [...(pins.get(signal) ?? [])][0])
  if (bus.kind !== 'i2c' || sda === undefined || scl === undefined || board.board.system?.file === undefined) return []
  return [
    {
      title: `I2C by software: ${parts.join(', ')}`,
      parts,
      steps: ['By line only; the bus gets the number that the line names.'],
      lines: [
        `dtoverlay=i2c-gpio,bus=11,i2c_gpio_sda=${numberOf(board, sda)},i2c_gpio_scl=${numberOf(board, scl)},i2c_gpio_delay_us=2`,
      ],
      device: '/dev/i2c-11',
      needed: true,
    },
  ]
}

/** A login console on pins that the plan uses must go; one that is kept is said. */
function consoleSetting(wiring: Wiring, board: BoardInstance): Setting[] {
  const way = board.board.system?.console
  const feature = board.board.features.find((one) => one.id === way?.feature)
  if (!way || !feature) return []
  if (board.features.some((one) => one.id === feature.id))
    return [
      {
        title: `${feature.title} is kept`,
        parts: [],
        steps: [`${feature.text} The plan leaves it on: nothing else may use these pins.`],
        lines: [],
        device: undefined,
        needed: false,
      },
    ]
  const using = wiring.signals.filter((use) =>
    use.hosts.some(({ host }) => host.board === board && feature.pins.includes(host.pin)),
  )
  if (using.length === 0) return []
  const parts = [...new Set(using.map((use) => use.part.ref))]
  return [
    {
      title: `${feature.title} off: ${parts.join(', ')} ${parts.length === 1 ? 'uses' : 'use'} its pins`,
      parts,
      steps: way.steps,
      lines: [],
      device: undefined,
      needed: true,
    },
  ]
}

/** Drivers of the system that are the standard way to a part. */
function partSettings(wiring: Wiring, board: BoardInstance, lines: readonly Line[]): Setting[] {
  const known = new Map<string, Setting>()
  for (const part of partsOf(wiring, board))
    for (const { families, line, gives, needed } of part.part.settings) {
      if (!families.includes(board.board.family)) continue
      const numbers = new Map(
        lines.filter(({ use }) => use.part === part).map(({ use, host }) => [use.facts.pin, numberOf(board, host.pin)]),
      )
      const text = filled(line, numbers)
      // A pin that is not wired has no number: the driver cannot be told.
      if (/\{\w+\}/.test(text)) continue
      const before = known.get(text)
      known.set(text, {
        title: `Driver of the system: ${[...(before?.parts ?? []), part.ref].join(', ')}`,
        parts: [...(before?.parts ?? []), part.ref],
        steps: [`By line only. It brings ${gives}.`],
        lines: [text],
        device: undefined,
        needed,
      })
    }
  return [...known.values()]
}

function pwmSetting(board: BoardInstance, lines: readonly Line[]): Setting[] {
  const pwm = board.board.system?.pwm
  if (!pwm) return []
  const used = lines.filter(
    ({ use, host }) => use.facts.needs === 'pwm' && entryOf(pwm.pins, host.pin) !== undefined && pinOf(host),
  )
  if (used.length === 0) return []
  const parts = [...new Set(used.map(({ use }) => use.part.ref))]
  const audio = pwm.with && board.board.features.some((one) => one.id === 'analog-audio' && one.timers.length > 0)
  return [
    {
      title: `PWM made by hardware: ${parts.join(', ')}`,
      parts,
      steps: [
        'Needed by programs that use the hardware channels; those that make PWM by software do without.',
        ...(audio && pwm.with ? [pwm.with.why] : []),
      ],
      lines: [
        ...new Set(used.map(({ host }) => entryOf(pwm.pins, host.pin) as string)),
        ...(audio && pwm.with ? [pwm.with.line] : []),
      ],
      device: '/sys/class/pwm',
      needed: false,
    },
  ]
}

function rightsSetting(wiring: Wiring, board: BoardInstance, lines: readonly Line[]): Setting[] {
  const groups = board.board.system?.groups ?? {}
  const kinds = new Set<string>(wiring.buses.flatMap((bus) => (bus.board === board ? [bus.kind] : [])))
  if (lines.some(({ bus }) => bus === undefined)) kinds.add('gpio')
  const wanted = [...new Set([...kinds].flatMap((kind) => entryOf(groups, kind) ?? []))]
  if (wanted.length === 0) return []
  return [
    {
      title: 'Rights of the user',
      parts: [],
      steps: [`sudo usermod -aG ${wanted.join(',')} $USER`],
      lines: [],
      device: undefined,
      needed: true,
    },
  ]
}

/** All lines for the boot configuration, each once, what is needed before what is not. */
export const bootLines = ({ settings }: BoardSettings): string[] => [
  ...new Set([...settings].sort((one, two) => Number(two.needed) - Number(one.needed)).flatMap(({ lines }) => lines)),
]

/** The settings as text to read: what is needed first, then what may be. */
export function settingsText({ ref, file, settings, after }: BoardSettings): string {
  const block = ({ title, steps, lines, device }: Setting): string =>
    [
      title,
      ...steps.map((step) => `  - ${step}`),
      ...lines.map((line) => `  ${file}: ${line}`),
      ...(device === undefined ? [] : [`  programs find it as ${device}`]),
    ].join('\n')
  const part = (needed: boolean): string[] => settings.filter((one) => one.needed === needed).map(block)
  const rest = part(false)
  return `${[
    `Settings of ${ref}`,
    ...(settings.length === 0 ? ['Nothing needs to be set.'] : part(true)),
    ...(rest.length > 0 ? ['Can be left out:', ...rest] : []),
    ...(settings.length === 0 ? [] : [after]),
  ].join('\n\n')}\n`
}
