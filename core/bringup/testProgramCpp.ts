import type { BoardInstance } from '../wiring/model.ts'
import type { TestStep } from './testProgram.ts'

const kindLetters: Readonly<Record<TestStep['kind'], string>> = {
  out: 'o',
  move: 'm',
  servo: 's',
  in: 'i',
  adc: 'a',
  echo: 'e',
  scan: 'b',
}

/** The test program as a sketch; with `reference` what lies at the board's reference pin is full scale. */
export function cppProgram(
  about: readonly string[],
  hello: string,
  steps: readonly TestStep[],
  { board }: BoardInstance,
  reference: boolean,
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
${reference ? '  analogReference(EXTERNAL);  // first of all: the pin is wired\n' : ''}  Serial.begin(115200);
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
