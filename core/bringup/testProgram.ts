import type { Language } from '../catalog/boardSchema.ts'
import { readingsOf } from '../firmware/drives.ts'
import { type Line, linesOf, pinOf } from '../firmware/lines.ts'
import { programPin } from '../firmware/pinNames.ts'
import { busPins } from '../wiring/buses.ts'
import type { BoardInstance, Wiring } from '../wiring/model.ts'
import { boardSteps, echoOf, type Step, scanId } from './steps.ts'

/** Languages in which a test program can be had. */
export const testLanguages = ['cpp', 'micropython', 'python'] as const
export type TestLanguage = (typeof testLanguages)[number]

/** What the test program of a board can do, one entry a step. */
export interface TestStep {
  readonly id: string
  /** `out` a level, `move` a level for a moment, `servo` pulses, `in` and `adc` a reading, `echo`, `scan`. */
  readonly kind: 'out' | 'move' | 'servo' | 'in' | 'adc' | 'echo' | 'scan'
  /** Pins as the language writes them; of an echo trigger and echo, of a scan SDA and SCL. */
  readonly pins: readonly string[]
  /** Of an output the level that moves nothing; of an input the pull to switch on. */
  readonly rest: 'high' | 'low'
  readonly pull: 'up' | 'down' | undefined
  /** Number of the bus, for systems that count them. */
  readonly bus: number | undefined
  /** Bits of the converter. */
  readonly bits: number | undefined
}

/** Steps that a board's own program does, as one language writes them. */
export function testSteps(wiring: Wiring, board: BoardInstance, language: Language): TestStep[] {
  const lines = linesOf(wiring).filter((line) => line.host.board === board)
  const readings = readingsOf(wiring)
  const text = (line: Line | undefined): string | undefined => {
    const pin = line && pinOf(line.host)
    return pin && programPin(board.board, pin, language)
  }
  const step = (one: Step): TestStep | undefined => {
    const [kind = '', rest = ''] = [one.id.slice(0, one.id.indexOf(':')), one.id.slice(one.id.indexOf(':') + 1)]
    const base = { id: one.id, rest: 'low' as const, pull: undefined, bus: undefined, bits: undefined }
    if (kind === 'i2c') {
      const bus = wiring.buses.find(
        (two) =>
          two.board === board && two.controller !== undefined && scanId(wiring, board.ref, two.controller) === one.id,
      )
      const pins = bus && busPins(bus)
      const [sda, scl] = ['sda', 'scl'].map((signal) => {
        const id = [...(pins?.get(signal) ?? [])][0]
        const pin = id === undefined ? undefined : board.facts.pin(id)
        return pin && programPin(board.board, pin, language)
      })
      if (sda === undefined || scl === undefined) return undefined
      return { ...base, kind: 'scan', pins: [sda, scl], bus: Number(/\d+$/.exec(bus?.controller ?? '')?.[0] ?? 0) }
    }
    if (kind === 'echo') {
      const part = wiring.parts.find(({ ref }) => ref === rest)
      const pins = (part && echoOf(part)) ?? []
      const found = pins.map((pin) => text(lines.find((line) => line.use.end === `${rest}.${pin}`)))
      return found.every((pin) => pin !== undefined) ? { ...base, kind: 'echo', pins: found as string[] } : undefined
    }
    const line = lines.find(({ use }) => use.end === rest)
    const pin = text(line)
    if (!line || pin === undefined) return undefined
    const { facts } = line.use
    if (kind === 'adc') return { ...base, kind: 'adc', pins: [pin], bits: pinOf(line.host)?.analogUnit?.bits }
    if (kind === 'in') {
      const { pull } = readings.find(({ use }) => use === line.use) ?? {}
      return { ...base, kind: 'in', pins: [pin], pull }
    }
    if (kind !== 'out') return undefined
    if (facts.hertz !== undefined && facts.actuator) return { ...base, kind: 'servo', pins: [pin] }
    const level = facts.activeLevel === 'low' ? 'high' : 'low'
    return { ...base, kind: facts.actuator ? 'move' : 'out', pins: [pin], rest: level }
  }
  return boardSteps(wiring)
    .filter((one) => one.board === board.ref)
    .flatMap((one) => step(one) ?? [])
}

/** The test program of a board. Throws {@link RangeError} for a language in which the board has none. */
export function testProgram(wiring: Wiring, ref: string, language: TestLanguage): string {
  const board = wiring.boards.find((one) => one.ref === ref)
  const program = board?.board.programs.find((one) => one.as === language)
  if (!board || !program) throw new RangeError(`${ref} has no test program in ${language}`)
  const steps = testSteps(wiring, board, language)
  const about = [
    `Test program for board ${ref} of a plan: one step at a time, asked over the serial line at 115200 baud.`,
    'It drives nothing on its own: a pin is an input until its step is asked for, and what moves goes back to rest.',
    'Ask with lines such as {"do":"out:LAMP.A","level":"high"}, {"do":"read:GATE.1"}, {"do":"scan:i2c0"}, {"do":"all"}.',
  ]
  const hello = `{"hello":"markpost","plan":"${planId(wiring)}","steps":${steps.length}}`
  if (language === 'cpp') return cppProgram(about, hello, steps, board)
  return language === 'python' ? systemProgram(about, hello, steps) : microProgram(about, hello, steps, program.needs)
}

/** A short word for a plan that fits into a line: its title in plain letters. */
const planId = (wiring: Wiring): string =>
  wiring.plan.title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60)

const kindLetters: Readonly<Record<TestStep['kind'], string>> = {
  out: 'o',
  move: 'm',
  servo: 's',
  in: 'i',
  adc: 'a',
  echo: 'e',
  scan: 'b',
}

function cppProgram(
  about: readonly string[],
  hello: string,
  steps: readonly TestStep[],
  { board }: BoardInstance,
): string {
  const scans = steps.filter(({ kind }) => kind === 'scan')
  const begins = board.programs.find((one) => one.as === 'cpp')?.begins ?? {}
  // A bus is begun on its pins where the platform lets them be chosen.
  const chosen = ['esp32', 'esp32c3', 'esp32s3', 'esp8266'].includes(board.family)
  const wires = ['Wire', 'Wire1', 'Wire2']
  const objectOf = (scan: TestStep): string => {
    if (chosen) return 'Wire'
    const found = Object.entries(begins).find(([name, pins]) => {
      if (!wires.includes(name)) return false
      const sda = board.pins.find((pin) => pin.id === pins.sda)
      return sda?.firmware === scan.pins[0] || pins.sda === scan.pins[0]
    })
    return found?.[0] ?? wires[scan.bus ?? 0] ?? 'Wire'
  }
  const table = steps.map(
    ({ id, kind, pins, rest, pull, bits }) =>
      `  { "${id}", '${kindLetters[kind]}', ${pins[0]}, ${pins[1] ?? 0}, ${rest === 'high' ? 'HIGH' : 'LOW'}, '${pull?.[0] ?? '-'}', ${bits ?? 0} },`,
  )
  const setBus = board.family.startsWith('rp2')
  const scanCases = scans.map((scan) => {
    const object = objectOf(scan)
    const begin = chosen
      ? `${object}.begin(${scan.pins[0]}, ${scan.pins[1]});`
      : `${setBus ? `${object}.setSDA(${scan.pins[0]}); ${object}.setSCL(${scan.pins[1]}); ` : ''}${object}.begin();`
    return `  if (same(step.id, "${scan.id}")) { ${begin} scanBus(step, ${object}); }`
  })
  return `${about.map((line) => `// ${line}`).join('\n')}
#include <Arduino.h>
${scans.length > 0 ? '#include <Wire.h>\n' : ''}#include <string.h>

struct Step {
  const char *id;
  char kind;  // o output, m moves, s servo, i input, a analog, e echo, b bus
  int pin;
  int second;
  int rest;
  char pull;  // u up, d down, - none
  int bits;
};

const Step steps[] = {
${table.length > 0 ? table.join('\n') : "  { \"\", '-', 0, 0, LOW, '-', 0 },"}
};
const int stepCount = ${steps.length};

bool same(const char *one, const char *two) { return strcmp(one, two) == 0; }

void begin(const Step &step) {
  Serial.print(F("{\\"step\\":\\""));
  Serial.print(step.id);
  Serial.print(F("\\","));
}

void putOut(const Step &step, bool high) {
  digitalWrite(step.pin, high ? HIGH : LOW);
  pinMode(step.pin, OUTPUT);
  begin(step);
  Serial.print(F("\\"state\\":\\""));
  Serial.print(high ? F("high") : F("low"));
  Serial.println(F("\\"}"));
  if (step.kind == 'm') {
    delay(400);
    digitalWrite(step.pin, step.rest);
  }
}

void letGo(const Step &step) {
  pinMode(step.pin, INPUT);
  begin(step);
  Serial.println(F("\\"state\\":\\"free\\"}"));
}

void servo(const Step &step) {
  pinMode(step.pin, OUTPUT);
  for (int turn = 0; turn < 50; turn += 1) {
    digitalWrite(step.pin, HIGH);
    delayMicroseconds(turn < 25 ? 1500 : 1600);
    digitalWrite(step.pin, LOW);
    delay(18);
  }
  begin(step);
  Serial.println(F("\\"state\\":\\"moved\\"}"));
}

void readIn(const Step &step) {
${steps.some(({ pull }) => pull === 'down') ? "  pinMode(step.pin, step.pull == 'u' ? INPUT_PULLUP : step.pull == 'd' ? INPUT_PULLDOWN : INPUT);" : "  pinMode(step.pin, step.pull == 'u' ? INPUT_PULLUP : INPUT);"}
  delay(2);
  begin(step);
  Serial.print(F("\\"value\\":"));
  Serial.print(digitalRead(step.pin) == HIGH ? 1 : 0);
  Serial.println(F("}"));
}

void readAnalog(const Step &step) {
  begin(step);
  Serial.print(F("\\"counts\\":"));
  Serial.print(analogRead(step.pin));
  Serial.println(F("}"));
}

void listen(const Step &step) {
  pinMode(step.second, INPUT);
  pinMode(step.pin, OUTPUT);
  digitalWrite(step.pin, LOW);
  delayMicroseconds(4);
  digitalWrite(step.pin, HIGH);
  delayMicroseconds(10);
  digitalWrite(step.pin, LOW);
  unsigned long took = pulseIn(step.second, HIGH, 30000UL);
  begin(step);
  Serial.print(F("\\"microseconds\\":"));
  Serial.print(took);
  Serial.println(F("}"));
}
${
  scans.length > 0
    ? `
void scanBus(const Step &step, TwoWire &bus) {
  int found = 0;
  int sent = 0;
  for (int address = 8; address < 120; address += 1) {
    bus.beginTransmission(address);
    if (bus.endTransmission() != 0) continue;
    // No line of more than 200 bytes.
    if (found % 30 == 0) {
      if (found > 0) Serial.println(F("]}"));
      begin(step);
      Serial.print(F("\\"found\\":["));
      sent += 1;
    } else {
      Serial.print(',');
    }
    Serial.print(address);
    found += 1;
  }
  if (sent == 0) {
    begin(step);
    Serial.print(F("\\"found\\":["));
  }
  Serial.println(F("]}"));
}

void scan(const Step &step) {
${scanCases.join('\n')}
}
`
    : ''
}
void hello() { Serial.println(F("${hello.replace(/"/g, '\\"')}")); }

void run(const Step &step, const char *level) {
  if (step.kind == 'o' || step.kind == 'm') {
    if (same(level, "high")) putOut(step, true);
    else if (same(level, "low")) putOut(step, false);
    else letGo(step);
  } else if (step.kind == 's') servo(step);
  else if (step.kind == 'i') readIn(step);
  else if (step.kind == 'a') readAnalog(step);
  else if (step.kind == 'e') listen(step);
${scans.length > 0 ? "  else if (step.kind == 'b') scan(step);\n" : ''}}

/** What comes after "name":" in a line, up to the next quotation mark. */
void valueOf(const char *line, const char *name, char *into, int size) {
  into[0] = 0;
  const char *at = strstr(line, name);
  if (!at) return;
  at = strchr(at + strlen(name), ':');
  if (at) at = strchr(at, '"');
  if (!at) return;
  int length = 0;
  for (at += 1; *at && *at != '"' && length < size - 1; at += 1) into[length++] = *at;
  into[length] = 0;
}

char line[160];
int filled = 0;

void obey() {
  char what[100];
  char level[8];
  valueOf(line, "\\"do\\"", what, sizeof(what));
  valueOf(line, "\\"level\\"", level, sizeof(level));
  if (same(what, "hello")) return hello();
  bool all = same(what, "all");
  // "read:X" asks for in:X or adc:X, "scan:X" for i2c:X.
  const char *colon = strchr(what, ':');
  const char *rest = colon ? colon + 1 : what;
  bool read = strncmp(what, "read:", 5) == 0;
  bool scanning = strncmp(what, "scan:", 5) == 0;
  int done = 0;
  for (int at = 0; at < stepCount; at += 1) {
    const Step &step = steps[at];
    const char *own = strchr(step.id, ':');
    bool meant = same(step.id, what) || (read && own && same(own + 1, rest) && (step.kind == 'i' || step.kind == 'a')) ||
                 (scanning && own && same(own + 1, rest) && step.kind == 'b');
    // All that only reads: what drives is asked for one by one.
    bool reads = step.kind == 'i' || step.kind == 'a' || step.kind == 'b';
    if (meant || (all && reads)) {
      run(step, level);
      done += 1;
    }
  }
  if (done == 0) Serial.println(F("{\\"error\\":\\"no such step\\"}"));
}

void setup() {
  Serial.begin(115200);
  hello();
}

void loop() {
  while (Serial.available() > 0) {
    char c = Serial.read();
    if (c == '\\n' || c == '\\r') {
      line[filled] = 0;
      if (filled > 0) obey();
      filled = 0;
    } else if (filled < (int)sizeof(line) - 1) {
      line[filled++] = c;
    }
  }
}
`
}

/** The steps as a Python list; pins stay as the language writes them. */
const pythonTable = (steps: readonly TestStep[]): string =>
  [
    'STEPS = [',
    ...steps.map(({ id, kind, pins, rest, pull, bus, bits }) => {
      const value = (text: string | number | undefined): string =>
        text === undefined ? 'None' : typeof text === 'number' ? String(text) : `'${text}'`
      return `    ('${id}', '${kind}', (${pins.join(', ')},), ${rest === 'high' ? 1 : 0}, ${value(pull)}, ${value(bus)}, ${value(bits)}),`
    }),
    ']',
  ].join('\n')

/** The part that both kinds of Python share: reading lines, finding the step, answering. */
const pythonLoop = (hello: string): string => `
def say(step, **values):
    values['step'] = step
    print(json.dumps(values))


def meant(step, what):
    kind, _, rest = what.partition(':')
    own = step[0].partition(':')[2]
    if step[0] == what:
        return True
    if kind == 'read':
        return own == rest and step[1] in ('in', 'adc')
    return kind == 'scan' and own == rest and step[1] == 'scan'


def run(step, level):
    kind = step[1]
    if kind in ('out', 'move'):
        put_out(step, level)
    elif kind == 'servo':
        servo(step)
    elif kind == 'in':
        say(step[0], value=read_in(step))
    elif kind == 'adc':
        say(step[0], counts=read_analog(step))
    elif kind == 'echo':
        say(step[0], microseconds=listen(step))
    else:
        found = scan(step)
        # No line of more than 200 bytes.
        for at in range(0, len(found), 30):
            say(step[0], found=found[at:at + 30])
        if not found:
            say(step[0], found=[])


def obey(line):
    try:
        asked = json.loads(line)
        what = asked['do']
    except (ValueError, KeyError, TypeError):
        print(json.dumps({'error': 'no such step'}))
        return
    if what == 'hello':
        print(HELLO)
        return
    # All that only reads: what drives is asked for one by one.
    steps = [step for step in STEPS if meant(step, what) or (what == 'all' and step[1] in ('in', 'adc', 'scan'))]
    for step in steps:
        run(step, asked.get('level', ''))
    if not steps:
        print(json.dumps({'error': 'no such step'}))


HELLO = '${hello}'
print(HELLO)
while True:
    line = sys.stdin.readline()
    if not line:
        break
    if line.strip():
        obey(line)
`

function microProgram(
  about: readonly string[],
  hello: string,
  steps: readonly TestStep[],
  needs: string | undefined,
): string {
  const isBit = needs?.includes('microbit') === true
  const own = isBit
    ? `
def put_out(step, level):
    pin = step[2][0]
    if level not in ('high', 'low'):
        pin.read_digital()
        say(step[0], state='free')
        return
    pin.write_digital(1 if level == 'high' else 0)
    say(step[0], state=level)
    if step[1] == 'move':
        sleep(400)
        pin.write_digital(step[3])


def servo(step):
    pin = step[2][0]
    pin.set_analog_period(20)
    for share in (77, 82):
        pin.write_analog(share)
        sleep(500)
    pin.write_analog(0)
    say(step[0], state='moved')


def read_in(step):
    pin = step[2][0]
    pin.set_pull(pin.PULL_UP if step[4] == 'up' else pin.PULL_DOWN if step[4] == 'down' else pin.NO_PULL)
    return pin.read_digital()


def read_analog(step):
    return step[2][0].read_analog()


def listen(step):
    from machine import time_pulse_us
    trigger, echo = step[2]
    echo.read_digital()
    trigger.write_digital(1)
    trigger.write_digital(0)
    return max(0, time_pulse_us(echo, 1, 30000))


def scan(step):
    i2c.init(sda=step[2][0], scl=step[2][1])
    return i2c.scan()
`
    : `
def put_out(step, level):
    pin = step[2][0]
    if level not in ('high', 'low'):
        Pin(pin, Pin.IN)
        say(step[0], state='free')
        return
    out = Pin(pin, Pin.OUT)
    out.value(1 if level == 'high' else 0)
    say(step[0], state=level)
    if step[1] == 'move':
        time.sleep(0.4)
        out.value(step[3])


def servo(step):
    out = Pin(step[2][0], Pin.OUT)
    for turn in range(50):
        out.value(1)
        time.sleep_us(1500 if turn < 25 else 1600)
        out.value(0)
        time.sleep_ms(18)
    say(step[0], state='moved')


def read_in(step):
    pin = step[2][0]
    if step[4] == 'up':
        return Pin(pin, Pin.IN, Pin.PULL_UP).value()
    if step[4] == 'down':
        return Pin(pin, Pin.IN, Pin.PULL_DOWN).value()
    return Pin(pin, Pin.IN).value()


def read_analog(step):
    # A reading of 16 bits, brought to the bits of the converter.
    pin = step[2][0]
    return ADC(Pin(pin)).read_u16() >> (16 - (step[6] or 16))


def listen(step):
    trigger = Pin(step[2][0], Pin.OUT)
    echo = Pin(step[2][1], Pin.IN)
    trigger.value(0)
    time.sleep_us(4)
    trigger.value(1)
    time.sleep_us(10)
    trigger.value(0)
    return max(0, time_pulse_us(echo, 1, 30000))


def scan(step):
    return SoftI2C(sda=Pin(step[2][0]), scl=Pin(step[2][1])).scan()
`
  const imports = isBit
    ? ['import json', 'import sys', 'from microbit import *']
    : ['import json', 'import sys', 'import time', 'from machine import ADC, Pin, SoftI2C, time_pulse_us']
  return `${[...about.map((line) => `# ${line}`), ...imports].join('\n')}

${pythonTable(steps)}
${own}
${pythonLoop(hello)}`
}

function systemProgram(about: readonly string[], hello: string, steps: readonly TestStep[]): string {
  return `${about.map((line) => `# ${line}`).join('\n')}
# Run it on the board itself, and paste what it prints; lines are asked for on standard input.
import json
import sys
import time

from gpiozero import DigitalInputDevice, DigitalOutputDevice

${pythonTable(steps)}

held = {}


def put_out(step, level):
    pin = step[2][0]
    if level not in ('high', 'low'):
        if pin in held:
            held.pop(pin).close()
        say(step[0], state='free')
        return
    if pin not in held:
        held[pin] = DigitalOutputDevice(pin, initial_value=level == 'high')
    held[pin].value = 1 if level == 'high' else 0
    say(step[0], state=level)
    if step[1] == 'move':
        time.sleep(0.4)
        held[pin].value = step[3]


def servo(step):
    # Pulses timed by a program tremble a little here; that it moves is enough.
    with DigitalOutputDevice(step[2][0]) as out:
        for turn in range(50):
            out.value = 1
            time.sleep(0.0015 if turn < 25 else 0.0016)
            out.value = 0
            time.sleep(0.018)
    say(step[0], state='moved')


def read_in(step):
    pull = {'up': True, 'down': False}.get(step[4])
    with DigitalInputDevice(step[2][0], pull_up=pull, active_state=None if pull is not None else True) as device:
        time.sleep(0.01)
        # With a pull-up the object calls low active.
        return 1 - device.value if pull else device.value


def read_analog(step):
    raise ValueError('this board has no converter')


def listen(step):
    with DigitalOutputDevice(step[2][0]) as trigger, DigitalInputDevice(step[2][1], pull_up=None, active_state=True) as echo:
        trigger.value = 1
        time.sleep(0.00001)
        trigger.value = 0
        begun = time.monotonic()
        while not echo.value and time.monotonic() - begun < 0.03:
            pass
        rose = time.monotonic()
        while echo.value and time.monotonic() - rose < 0.03:
            pass
        return int((time.monotonic() - rose) * 1000000)


def scan(step):
    from smbus2 import SMBus

    found = []
    with SMBus(step[5]) as bus:
        for address in range(8, 120):
            try:
                bus.read_byte(address)
                found.append(address)
            except OSError:
                pass
    return found
${pythonLoop(hello)}`
}
