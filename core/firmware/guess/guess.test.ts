import { describe, expect, it } from 'vitest'
import type { Language } from '../../catalog/boardSchema.ts'
import { boardOf } from '../../catalog/variant.ts'
import { bindPlan } from '../../plan/readPlan.ts'
import { catalog, planOf } from '../../testing/plans.ts'
import { type ProgramCase, programCases } from '../../testing/programs.ts'
import { resolve } from '../../wiring/resolve.ts'
import { compareSource } from '../source/compare.ts'
import { gather } from './gather.ts'
import { reasonWords } from './given.ts'
import { guessBoards } from './guessBoards.ts'
import { fitOf, guessParts } from './guessParts.ts'
import { type Answer, likeliest, planFrom } from './planFrom.ts'
import type { Candidate, PartGuess } from './scoring.ts'

const boardCalled = (id: string) => {
  const board = catalog.boards.get(id)
  if (!board) throw new Error(`no board ${id}`)
  return board
}

const guesses = (text: string, board = 'uno-r3', language: Language = 'cpp'): PartGuess[] => {
  const files = [{ name: language === 'cpp' ? 'a.ino' : 'main.py', text }]
  return guessParts(gather(catalog, boardCalled(board), files, language), files)
}

/** `hc-sr04 TRIG=D7 ECHO=D8`, with a question mark in front where it is asked. */
const said = (all: readonly PartGuess[]): string[] =>
  all.map(({ candidates: [first], sure, pins }) => {
    const fit = first
      ? [...first.fit.pins].map(([signal, { pin }]) => ` ${signal}=${pin.id}`).join('')
      : ` ${pins.length}`
    return `${sure ? '' : '? '}${first?.part.id ?? 'nothing'}${fit}`
  })

const takenFirst = (all: readonly PartGuess[]): Answer[] => all.flatMap((guess) => likeliest(guess) ?? [])

describe('parts by what a program says of them', () => {
  const cases: readonly (readonly [string, string, readonly string[]])[] = [
    [
      'a pair by its names',
      'const int trigPin = 7, echoPin = 8; void setup() { pinMode(trigPin, OUTPUT); pinMode(echoPin, INPUT); }',
      ['hc-sr04 TRIG=D7 ECHO=D8'],
    ],
    [
      'two pairs apart by what else is in their names',
      'int trigLeft = 2, echoLeft = 3, trigRight = 4, echoRight = 5; void setup() { pinMode(trigLeft, OUTPUT); pinMode(echoLeft, INPUT); pinMode(trigRight, OUTPUT); pinMode(echoRight, INPUT); }',
      ['hc-sr04 TRIG=D2 ECHO=D3', 'hc-sr04 TRIG=D4 ECHO=D5'],
    ],
    ['a class called as the part', 'Servo flap; void setup() { flap.attach(9); }', ['servo-sg90 SIG=D9']],
    [
      'a class that has another name than the part',
      'NewPing sonar(12, 11, 200); void setup() {}',
      ['hc-sr04 TRIG=D12 ECHO=D11'],
    ],
    [
      'the order of a library',
      'LiquidCrystal lcd(12, 11, 5, 4, 3, 2); void setup() { lcd.begin(16, 2); }',
      ['lcd-parallel D4=D5 D5=D4 D6=D3 D7=D2 RS=D12 E=D11'],
    ],
    [
      'a number of a library that is no pin',
      'Row_NeoPixel strip(30, 6, NEO_GRB); void setup() { strip.begin(); }',
      ['ws2812-strip DIN=D6'],
    ],
    ['the kind that a library is given', 'DHT air(4, DHT11); void setup() { air.begin(); }', ['dht11 DATA=D4']],
    ['another kind', 'DHT air(4, DHT22); void setup() { air.begin(); }', ['dht22 DATA=D4']],
    [
      'an object that is given to another',
      'OneWire wire(4); DallasTemperature bed(&wire); void setup() { bed.begin(); }',
      ['ds18b20-probe DQ=D4'],
    ],
    [
      'a list that is one part',
      'const byte relays[] = {4, 5, 6, 7}; void setup() { for (byte p : relays) pinMode(p, OUTPUT); }',
      ['? relay-4 IN1=D4 IN2=D5 IN3=D6 IN4=D7'],
    ],
    [
      'rows and columns, whichever comes first',
      'const byte cols[] = {6, 7, 8}; const byte rows[] = {2, 3, 4, 5}; void setup() { for (byte p : rows) pinMode(p, OUTPUT); for (byte p : cols) pinMode(p, INPUT_PULLUP); }',
      ['? keypad-4x3 R1=D2 R2=D3 R3=D4 R4=D5 C1=D6 C2=D7 C3=D8'],
    ],
    [
      'what an address answers',
      'void setup() { Wire.begin(); Wire.beginTransmission(0x40); Wire.endTransmission(); }',
      ['? ina219'],
    ],
    [
      'a comment behind the line that names it',
      'int a = 9; // buzzer\nvoid setup() { pinMode(a, OUTPUT); }',
      ['? buzzer-active +=D9'],
    ],
    ['a tone', 'void setup() { tone(8, 440); }', ['buzzer-passive +=D8']],
    [
      'a load, by what switches it',
      'const int pumpPin = 3; void setup() { pinMode(pumpPin, OUTPUT); }',
      ['? nmos G=D3'],
    ],
    ['the monitor alone is no part', 'void setup() { Serial.begin(9600); }', []],
    ['a helper of the language is no part', 'String text; unsigned long drops; void setup() { text.reserve(20); }', []],
  ]
  it.each(cases)('%s', (_, text, wanted) => {
    expect(said(guesses(text))).toEqual(wanted)
  })

  it('asks where nothing but a number is said, and offers what such a pin is mostly for', () => {
    const [one] = guesses('void setup() { pinMode(7, OUTPUT); digitalWrite(7, HIGH); }')
    expect(one?.sure).toBe(false)
    expect(one?.candidates.map(({ part }) => part.id)).toContain('relay-1')
    expect(one?.reasons.map(reasonWords)).toEqual(['pinMode', 'digitalWrite'])
  })

  it('offers nothing that goes against what is done with the pin', () => {
    const [driven] = guesses('const int light = 6; void setup() { pinMode(light, OUTPUT); }')
    expect(driven?.candidates.map(({ part }) => part.id)).not.toContain('ldr')
    const [read] = guesses('const int light = A0; void setup() { analogRead(light); }')
    expect(read?.candidates[0]?.part.id).toBe('ldr')
    expect(read?.candidates.map(({ part }) => part.id)).not.toContain('led')
  })
})

describe('the board', () => {
  const first = (text: string, language: Language = 'cpp'): string | undefined =>
    guessBoards(catalog, [{ name: language === 'cpp' ? 'a.ino' : 'main.py', text }], language)[0]?.board.id
  it('is the commonest of its language when nothing tells', () => {
    expect(first('void setup() { pinMode(7, OUTPUT); }')).toBe('uno-r3')
    expect(first('from machine import Pin\nlamp = Pin(15, Pin.OUT)', 'micropython')).toBe('pico')
  })
  it('has the pins of the program', () => {
    expect(first('void setup() { pinMode(44, OUTPUT); }')).toBe('mega-2560-r3')
    expect(first('from machine import Pin\nlamp = Pin(33, Pin.OUT)', 'micropython')).toBe('esp32-devkit-30')
    expect(
      first('import board\nimport digitalio\nd = digitalio.DigitalInOut(board.D13)\ns = board.SCL', 'circuitpython'),
    ).toBe('nrf52840-feather')
  })
  it('is of the family that words of the program are for', () => {
    expect(first('void setup() { ledcAttach(4, 5000, 8); }')).toMatch(/^esp32/)
    expect(first('#include <ESP8266WiFi.h>\nvoid setup() { pinMode(D1, OUTPUT); }')).toMatch(/^esp8266/)
    expect(first('import Jetson.GPIO as GPIO\nGPIO.setup(12, GPIO.OUT)', 'python')).toBe('jetson-nano-40')
    // In a condition the word is for another board.
    expect(first('#if defined(ESP32)\n#endif\nvoid setup() { pinMode(7, OUTPUT); }')).toBe('uno-r3')
  })
  it('does not drive a pin that only reads', () => {
    const boards = guessBoards(
      catalog,
      [{ name: 'main.py', text: 'from machine import Pin\nx = Pin(34, Pin.OUT)' }],
      'micropython',
    )
    const esp = boards.find(({ board }) => board.id === 'esp32-devkit-30')
    expect(esp?.reasons).toContainEqual({ kind: 'cannot', written: ['GPIO34'] })
  })
})

describe('the plan', () => {
  const made = (text: string, board = 'uno-r3', language: Language = 'cpp') => {
    const files = [{ name: language === 'cpp' ? 'a.ino' : 'main.py', text }]
    const gathered = gather(catalog, boardCalled(board), files, language)
    return planFrom(catalog, 'A gate', boardCalled(board), gathered, takenFirst(guessParts(gathered, files)))
  }
  it('is called, wired and coloured as the program says', () => {
    const plan = made('const int greenLed = 5; Servo flap; void setup() { pinMode(greenLed, OUTPUT); flap.attach(9); }')
    expect(plan.parts).toMatchObject({
      GREEN_LED: { part: 'led', options: { colour: 'green' } },
      R1: { part: 'resistor' },
      FLAP: { part: 'servo-sg90' },
    })
    expect(plan.wires).toEqual(
      expect.arrayContaining([
        ['GREEN_LED.A', 'R1.1'],
        ['R1.2', 'MCU.D5'],
        ['FLAP.SIG', 'MCU.D9'],
      ]),
    )
    expect(plan.names).toEqual({ 'GREEN_LED.A': 'greenLed' })
  })
  it('has the bus where the program has it, and the address', () => {
    const plan = made('Bme280 shed; void setup() { Wire.begin(25, 26); shed.begin(0x77); }', 'esp32-devkit-30')
    expect(plan.parts.SHED).toEqual({ part: 'bme280', options: { address: 0x77 } })
    expect(plan.wires).toEqual(
      expect.arrayContaining([
        ['SHED.SDA', 'MCU.GPIO25'],
        ['SHED.SCL', 'MCU.GPIO26'],
      ]),
    )
  })
  it('names nothing after what several pins go by', () => {
    const plan = made('void on(int pin) { pinMode(pin, OUTPUT); } void setup() { on(4); on(5); }')
    expect(Object.keys(plan.parts)).toEqual(['LED', 'R1', 'LED2', 'R2'])
    expect(plan.names).toBeUndefined()
  })
})

interface Tally {
  readonly guess: readonly PartGuess[]
  readonly wires: number
  readonly first: number
  readonly offered: number
}

/** How many lines of the plan that a program was written for are in the first guess, and in what is offered. */
function tally(one: ProgramCase): Tally & { said: string[]; plan: ReturnType<typeof planFrom> } {
  const truth = resolve(planOf(one.plan), catalog)
  const board = boardOf(catalog, Object.values(truth.plan.boards)[0])
  if (!board) throw new Error('no board')
  const files = one.files.map(([name, text]) => ({ name, text }))
  const gathered = gather(catalog, board, files, one.language)
  const guess = guessParts(gathered, files)
  const lines = truth.signals.filter(({ hosts }) => hosts[0]?.host.board)
  const has = (line: (typeof lines)[number], candidate: Candidate | undefined, { bus }: PartGuess): boolean => {
    const at = line.hosts[0]?.host.pin
    if (candidate?.part.id !== line.part.part.id) return false
    return (
      candidate.fit.pins.get(line.facts.pin)?.pin.id === at || [...(bus?.pins.values() ?? [])].some((pin) => pin === at)
    )
  }
  const plan = planFrom(catalog, one.title, board, gathered, takenFirst(guess))
  const wiring = resolve(plan, catalog)
  const [host] = wiring.boards
  if (!host) throw new Error('no board')
  const { differences } = compareSource(wiring, host, files, one.language)
  return {
    guess,
    plan,
    wires: lines.length,
    first: lines.filter((line) => guess.some((group) => has(line, group.candidates[0], group))).length,
    offered: lines.filter((line) => guess.some((group) => group.candidates.some((each) => has(line, each, group))))
      .length,
    said: differences.filter(({ kind }) => kind !== 'same').map(({ kind }) => kind),
  }
}

describe('programs of the comparison', () => {
  const all = programCases.map((one) => [one.title, tally(one)] as const)
  it.each(all)('%s: a plan that reads back and that the program agrees with', (_, { plan, said: differences }) => {
    expect(bindPlan(plan, catalog).ok).toBe(true)
    // A button that is read without a pull is asked for one; two pins of one library may stay without a part.
    expect(differences.filter((kind) => kind !== 'pull' && kind !== 'differs' && kind !== 'unknown')).toEqual([])
  })
  it('make a plan that reads back, whatever board and parts the maker says', () => {
    const parts = [...catalog.parts.values()].filter((part) => part.signals.length > 0 || part.modes.length > 0)
    let step = 0
    for (const one of programCases) {
      const files = one.files.map(([name, text]) => ({ name, text }))
      for (const { board } of guessBoards(catalog, files, one.language).slice(4, 5)) {
        const gathered = gather(catalog, board, files, one.language)
        const answers = guessParts(gathered, files).flatMap((guess): Answer[] => {
          step += 37
          const part = parts[step % parts.length]
          const found = part && fitOf(gathered, guess, part)
          return part && found ? [{ guess, part, mode: found.mode, pins: found.fit.pins }] : []
        })
        expect(
          bindPlan(planFrom(catalog, one.title, board, gathered, answers), catalog).ok,
          `${one.title}: ${board.id}`,
        ).toBe(true)
      }
    }
  })
  it('guesses two lines of three, and offers five of six', () => {
    const sum = (pick: (one: Tally) => number): number => all.reduce((total, [, one]) => total + pick(one), 0)
    const wires = sum((one) => one.wires)
    expect(sum((one) => one.first) / wires).toBeGreaterThan(0.66)
    expect(sum((one) => one.offered) / wires).toBeGreaterThan(0.84)
    // What is taken without asking is seldom wrong: asking is cheaper.
    expect(all.filter(([, { said: differences }]) => differences.includes('differs')).length).toBeLessThan(3)
  })
  it('has the board among the first three in nine of ten', () => {
    const found = programCases.filter((one) => {
      const files = one.files.map(([name, text]) => ({ name, text }))
      const [board] = Object.values(planOf(one.plan).boards)
      return guessBoards(catalog, files, one.language)
        .slice(0, 3)
        .some((guess) => guess.board.id === board?.board)
    })
    expect(found.length / programCases.length).toBeGreaterThan(0.85)
  })
})
