import type { Wiring } from '../../wiring/model.ts'
import { type ConstantGroup, constantsOf } from '../constants.ts'
import type { Line } from '../lines.ts'

/** Words that say nothing of what a pin is for. */
const noise = new Set(
  'pin pins gpio port io p no num number nr const my the of and for on to a an at board mcu dev device obj object instance digital analog value val k c'.split(
    ' ',
  ),
)

/** Words that makers use for one another, each under the one that stands for all. */
const same: Readonly<Record<string, string>> = Object.fromEntries(
  [
    'trig trigger trg',
    'echo ech',
    'button btn key push taster knopf',
    'switch sw',
    'led lamp light leds lights lamps',
    'temp temperature thermo',
    'hum humidity humid',
    'enable en ena e',
    'reset rst res rest',
    'cs ss nss csn ce cs0 select chipselect scsn',
    'dc rs a0 d/c',
    'clock clk sck sclk scl cl bck bclk scki',
    'data dat dt sda din sd ds ser dio da',
    'mosi sdi si copi di',
    'miso sdo so cipo do',
    'pot potentiometer poti dial',
    'buzzer beeper piezo speaker horn',
    'servo srv',
    'motor mot',
    'relay rel relais',
    'interrupt irq int',
    'latch rclk stcp load pl',
    'shift srclk shcp',
    'left links',
    'right rechts',
    'distance dist sonar ultrasonic range ping',
    'encoder enc rotary',
    'pir motion movement',
    'fan vent',
    'display screen lcd oled tft',
    'wiper w',
    'signal sig s out',
    'anode a+',
    'row rows',
    'column columns col cols',
    'segment segments seg segs',
    'direction dir',
    'step stp',
    'busy bsy',
    'tx txd transmit',
    'rx rxd receive',
    'light ldr photo brightness',
    'backlight bl blk',
  ].flatMap((words) => {
    const [first = '', ...rest] = words.split(' ')
    return [first, ...rest].map((word) => [word, first] as const)
  }),
)

/**
 * A name in its words: `trigPin2`, `TRIG_PIN_2` and `trig2` give `trigger`, `2`. Which item of a list it is says nothing:
 * lists count from 0, and in an order of their own.
 */
export function wordsOf(name: string): string[] {
  return name
    .replace(/\[\d+\]/g, ' ')
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2')
    .replace(/([A-Za-z])(\d)/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '' && !noise.has(word))
    .map((word) => same[word] ?? word)
}

/** What a line may be called, each word with how much it tells. */
interface Called {
  readonly line: Line
  /** Names of its constant, own or made, in plain form. */
  readonly exact: ReadonlySet<string>
  /** Names of its pin, in plain form. */
  readonly pin: ReadonlySet<string>
  readonly words: ReadonlyMap<string, number>
}

const plain = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]/g, '')

const isDigits = (word: string): boolean => /^\d+$/.test(word)

/** A number tells which of several, and nothing by itself; a word that the line is not called speaks against it. */
const tells = (words: ReadonlyMap<string, number>, word: string): number => {
  const known = words.get(word)
  if (isDigits(word)) return known === undefined ? -0.4 : Math.min(1, known)
  return known ?? -0.8
}

/** How well the words of a name go with those of a line. */
const scoreOf = (words: ReadonlyMap<string, number>, name: readonly string[]): number =>
  name.some((word) => !isDigits(word) && words.has(word)) ? name.reduce((sum, word) => sum + tells(words, word), 0) : 0

/** Finds which line of the plan a name in a program is about. */
export class NameMatch {
  readonly #called: readonly Called[]

  constructor(wiring: Wiring, board: string, lines: readonly Line[]) {
    const ofPart = new Map<string, number>()
    for (const { use } of lines) ofPart.set(use.part.ref, (ofPart.get(use.part.ref) ?? 0) + 1)
    const constants: readonly ConstantGroup[] = constantsOf(wiring, board)
    const pins = constants.flatMap((group) => group.constants).filter(({ host }) => host !== undefined)
    this.#called = lines.map((line): Called => {
      const { part, facts, end } = line.use
      const words = new Map<string, number>()
      const add = (text: string, tells: number): void => {
        for (const word of wordsOf(text)) words.set(word, Math.max(tells, words.get(word) ?? 0))
      }
      add(part.ref, 3)
      const pin = part.part.pins.find((one) => one.id === facts.pin)
      for (const name of [facts.pin, ...(pin?.aliases ?? [])]) add(name, 2)
      // What the whole part is called tells nothing where another of its pins is called so.
      const others = new Set(
        part.part.pins.filter((one) => one !== pin).flatMap((one) => [one.id, ...one.aliases].flatMap(wordsOf)),
      )
      const addOfPart = (text: string, tells: number): void => {
        for (const word of wordsOf(text)) if (!others.has(word)) add(word, tells)
      }
      if (part.title !== part.part.title) addOfPart(part.title, 2)
      addOfPart(part.part.stem, 1.5)
      addOfPart(part.part.id, 1.5)
      for (const keyword of part.part.keywords) if (!keyword.includes(' ')) addOfPart(keyword, 1.2)
      const exact = pins.filter((one) => one.end === end || one.host === line.host).map(({ name }) => plain(name))
      // A part with one line is meant by its reference alone.
      const alone = ofPart.get(part.ref) === 1 ? [plain(part.ref)] : []
      const own = new Set([facts.pin, ...(pin?.aliases ?? [])].map(plain))
      return { line, pin: own, exact: new Set([...exact, plain(`${part.ref}${facts.pin}`), ...alone]), words }
    })
  }

  /** Lines whose constant has exactly one of these names. */
  exactly(names: readonly string[]): Line[] {
    for (const name of names) {
      // An item of a list has its own number, which is not that of a reference.
      if (name.includes('[')) continue
      const bare = plain(name)
      const found = this.#called.filter(({ exact }) => exact.has(bare) || exact.has(bare.replace(/pin$/, '')))
      if (found.length > 0) return found.map(({ line }) => line)
    }
    return []
  }

  /**
   * The one line that a name surely means; undefined where none or several could be meant. Lines that are `known` to be
   * somebody else's are left out.
   */
  find(names: readonly string[], known?: ReadonlySet<Line>): Line | undefined {
    const could = this.could(names, known)
    return could.length === 1 ? could[0] : undefined
  }

  /** The lines that a name could mean, none of them much less than another. */
  could(names: readonly string[], known?: ReadonlySet<Line>): Line[] {
    const [exact] = this.exactly(names)
    if (exact) return [exact]
    const scores = this.#called
      .filter(({ line }) => !known?.has(line))
      .map(({ line }) => ({ line, score: this.score(line, names) }))
    const best = Math.max(0, ...scores.map(({ score }) => score))
    return best < 1.2 ? [] : scores.filter(({ score }) => best - score < 0.9).map(({ line }) => line)
  }

  /** How well names go with a line, 0 for not at all. */
  score(line: Line, names: readonly string[]): number {
    const called = this.#called.find((one) => one.line === line)
    if (!called) return 0
    // Names of one pin are read together: `lcd` and `rs`. An item of a list may be any of several.
    const all = names
      .filter((name) => !name.includes('['))
      .map((name) => [...new Set(wordsOf(name))])
      .filter((some) => some.length > 0)
    const tries = all.length > 1 ? [...all, [...new Set(all.flat())]] : all
    const same = names.some((name) => called.pin.has(plain(name).replace(/pin$/, ''))) ? 1 : 0
    return Math.max(0, ...tries.map((name) => scoreOf(called.words, name))) + same
  }

  /** True when a line is called every word of a name, so that the name says nothing else. */
  isCalled(line: Line, name: string): boolean {
    const known = this.#called.find((one) => one.line === line)
    const words = wordsOf(name)
    return words.length > 0 && words.every((word) => known?.words.has(word))
  }
}
