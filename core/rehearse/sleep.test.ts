import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { type RunResult, rehearse } from './run.ts'
import { readScript } from './script.ts'
import { run } from './testing/quick.ts'

const said = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind }) => kind)
const esp: Short = {
  mcu: 'esp32-devkit-30',
  parts: {
    L: 'led',
    R: { part: 'resistor', options: { ohms: 330 } },
    K: 'button',
    P: { part: 'resistor', options: { ohms: 10_000 } },
  },
  wires: 'L.A R.1, R.2 MCU.26, L.K MCU.GND, K.1 MCU.33, K.2 MCU.GND, P.1 MCU.33, P.2 MCU.3V3',
}
const python = (short: Short, name: string, text: string, seconds: number, steps = '  []'): RunResult => {
  const wiring = resolve(planOf(short), catalog)
  const script = readScript(`rehearsal: 1\nsteps:\n${steps}`, 'x')
  if (!script.ok) throw new Error('the script cannot be read')
  return rehearse(wiring, wiring.boards[0]!, [{ name, text }], { seconds, script: script.value })
}

describe('a deep sleep', () => {
  const text = (set: string): string =>
    `RTC_DATA_ATTR int starts = 0;\nint plain = 0;\nint counted() { static int n = 0; n += 1; return n; }\nvoid setup() {\n  Serial.begin(115200);\n  starts++; plain++;\n  pinMode(26, OUTPUT); digitalWrite(26, HIGH);\n  Serial.printf("%d %d %d %d %lu\\n", starts, plain, counted(), (int)esp_sleep_get_wakeup_cause(), millis() / 100);\n  delay(500);\n${set}\n  esp_deep_sleep_start();\n  Serial.println("never");\n}\nvoid loop() {}`
  it('ends with the first line, and keeps only what is said to last', () => {
    const result = run(esp, text('  esp_sleep_enable_timer_wakeup(2000000ULL);'), '', 6)
    expect(said(result)).toEqual(['1 1 1 0 0', '2 1 1 4 0', '3 1 1 4 0'])
    expect(kinds(result)).toEqual([])
  })
  it('lets the pins go meanwhile', () => {
    const { shown } = run(esp, text('  esp_sleep_enable_timer_wakeup(2000000ULL);'), '', 4)
    expect(shown.L!.map(({ words }) => words.slice(0, 3))).toEqual(['off', 'on,', 'off', 'on,', 'off'])
  })
  it('ends by a pin, at the level that was asked for', () => {
    const set = '  esp_sleep_enable_ext0_wakeup(GPIO_NUM_33, 0);'
    const held = '  - { at: 2, set: { K: closed } }\n  - { at: 2.2, set: { K: open } }'
    expect(said(run(esp, text(set), held, 5))).toEqual(['1 1 1 0 0', '2 1 1 2 0'])
    expect(said(run(esp, text(set), '', 5))).toEqual(['1 1 1 0 0'])
    expect(
      said(run(esp, text('  esp_sleep_enable_ext1_wakeup(1ULL << 33, ESP_EXT1_WAKEUP_ANY_HIGH);'), '', 2)).length,
    ).toBeGreaterThan(2)
  })
  it('by pins of which all must be low, or any high, is told by its number', () => {
    const two = { ...esp, parts: { ...esp.parts, S: 'button' }, wires: `${esp.wires}, S.1 MCU.32, S.2 MCU.3V3` }
    const set = (mode: string): string => text(`  esp_sleep_enable_ext1_wakeup(1ULL << 33 | 1ULL << 25, ${mode});`)
    const held = '  - { at: 2, set: { K: closed } }\n  - { at: 2.2, set: { K: open } }'
    const low = { ...two, wires: `${esp.wires}, S.1 MCU.25, S.2 MCU.3V3` }
    // 25 is held high by its contact: 33 alone wakes where any of them may.
    const pressed = `  - { at: 1, set: { S: closed } }\n${held}`
    expect(said(run(low, set('ESP_EXT1_WAKEUP_ALL_LOW'), pressed, 4))).toEqual(['1 1 1 0 0'])
    expect(said(run(low, set('ESP_EXT1_WAKEUP_ANY_LOW'), pressed, 4))).toEqual(['1 1 1 0 0', '2 1 1 3 0'])
  })
  it('is not woken by what was switched off again', () => {
    const set = (source: string): string =>
      text(
        `  esp_sleep_enable_timer_wakeup(1000000); esp_sleep_enable_ext0_wakeup(GPIO_NUM_33, 0); esp_sleep_disable_wakeup_source(${source});`,
      )
    expect(said(run(esp, set('ESP_SLEEP_WAKEUP_TIMER'), '', 4))).toHaveLength(1)
    expect(said(run(esp, set('ESP_SLEEP_WAKEUP_EXT0'), '', 4)).length).toBeGreaterThan(1)
    expect(kinds(run(esp, set('ESP_SLEEP_WAKEUP_ALL'), '', 4))).toEqual(['sleeps-on'])
  })
  it('says where nothing wakes it, and where what wakes it floats', () => {
    expect(kinds(run(esp, text(''), '', 3))).toEqual(['sleeps-on'])
    const bare = { ...esp, wires: 'K.1 MCU.33, K.2 MCU.GND' }
    expect(
      kinds(run(bare, text('  esp_sleep_enable_ext0_wakeup(GPIO_NUM_33, 0);').replaceAll('26', '2'), '', 3)),
    ).toContain('read-floating')
  })
  const small = (join: string): Short => ({ mcu: 'esp8266-d1-mini', parts: {}, wires: join })
  const nap = 'void setup() { Serial.begin(74880); Serial.println("up"); ESP.deepSleep(1e6); }\nvoid loop() {}'
  it('needs a wire from the clock to the reset on a board that wakes itself by it', () => {
    const joined = run(small('MCU.D0 MCU.RST'), nap, '', 4)
    expect(said(joined)).toEqual(['up', 'up', 'up', 'up'])
    expect(kinds(joined)).toEqual([])
    const open = run(small(''), nap, '', 4)
    expect(said(open)).toEqual(['up'])
    expect(kinds(open)).toEqual(['sleeps-on'])
    expect(kinds(run(small(''), nap.replace('1e6', '0'), '', 4))).toEqual([])
  })
  it('in MicroPython', () => {
    const text =
      'import machine, esp32\nfrom machine import Pin, RTC\nr = RTC()\nn = int(r.memory() or b"0") + 1\nr.memory(str(n).encode())\nprint(n, machine.reset_cause() == machine.DEEPSLEEP_RESET, machine.wake_reason())\nmachine.deepsleep(1000)\nprint("never")\n'
    expect(said(python(esp, 'main.py', text, 3))).toEqual(['1 False 0', '2 True 4', '3 True 4'])
    const byPin =
      'import machine, esp32\nfrom machine import Pin\nprint(machine.wake_reason() == machine.PIN_WAKE)\nesp32.wake_on_ext0(pin=Pin(33, Pin.IN), level=esp32.WAKEUP_ALL_LOW)\nmachine.deepsleep()\n'
    const held = '  - { at: 1, set: { K: closed } }\n  - { at: 1.1, set: { K: open } }'
    expect(said(python(esp, 'main.py', byPin, 3, held))).toEqual(['False', 'True'])
  })
  it('in MicroPython leaves its clock going, set or not', () => {
    const text =
      'import machine\nr = machine.RTC()\nif machine.reset_cause() == machine.PWRON_RESET:\n    print(r.datetime())\n    r.datetime((2027, 2, 28, 0, 23, 59, 50, 0))\n    machine.deepsleep(20000)\nprint(r.datetime())\n'
    expect(said(python({ mcu: 'pico', parts: {} }, 'main.py', text, 25))).toEqual([
      '(2026, 1, 1, 3, 0, 0, 0, 0)',
      '(2027, 3, 1, 0, 0, 0, 10, 0)',
    ])
  })
  it('in CircuitPython', () => {
    const text =
      'import alarm, time, board\nprint(alarm.wake_alarm is None, alarm.sleep_memory[0])\nalarm.sleep_memory[0] += 1\nt = alarm.time.TimeAlarm(monotonic_time=time.monotonic() + 1)\ntime.sleep(0.5)\nalarm.exit_and_deep_sleep_until_alarms(t)\n'
    expect(said(python({ mcu: 'nrf52840-feather', parts: {} }, 'code.py', text, 3))).toEqual([
      'True 0',
      'False 1',
      'False 2',
    ])
  })
})

describe('a light sleep', () => {
  it('goes on with the next line', () => {
    const text =
      'void setup() { Serial.begin(115200); esp_sleep_enable_timer_wakeup(1000000); }\nvoid loop() { esp_light_sleep_start(); Serial.println(millis() / 100); }'
    expect(said(run(esp, text, '', 3.5))).toEqual(['10', '20', '30'])
  })
  const keys: Short = { mcu: 'uno-r3', parts: { K: 'button' }, wires: 'K.1 MCU.2, K.2 MCU.GND' }
  const down = (mode: string): string =>
    `#include <avr/sleep.h>\nvoid wake() { sleep_disable(); }\nvoid setup() { Serial.begin(9600); pinMode(2, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), wake, FALLING); set_sleep_mode(${mode}); }\nvoid loop() { sleep_enable(); sleep_mode(); Serial.println(millis()); delay(400); }`
  it('of a small board ends by a handler, and its clock stands meanwhile', () => {
    const held = '  - { at: 2, set: { K: closed } }\n  - { at: 2.3, set: { K: open } }'
    const result = run(keys, down('SLEEP_MODE_PWR_DOWN'), held, 4)
    expect(said(result).map(Number)).toHaveLength(1)
    expect(Number(said(result)[0])).toBeLessThan(5)
  })
  it('that only idles ends with the next tick of the clock', () => {
    expect(said(run(keys, down('SLEEP_MODE_IDLE'), '', 2)).length).toBeGreaterThan(3)
  })
  it('for a period of a library', () => {
    const text =
      '#include <LowPower.h>\nvoid setup() { Serial.begin(9600); }\nvoid loop() { Serial.println("on"); LowPower.powerDown(SLEEP_2S, ADC_OFF, BOD_OFF); }'
    expect(said(run(keys, text, '', 5))).toEqual(['on', 'on', 'on'])
  })
  it('in MicroPython', () => {
    const text =
      'import machine, time\nfor n in range(3):\n    machine.lightsleep(500)\n    print(time.ticks_ms() // 100)\n'
    expect(said(python({ mcu: 'pico', parts: {} }, 'main.py', text, 3))).toEqual(['5', '10', '15'])
  })
})

describe('timers and held handlers', () => {
  it('a timer of the chip calls at its alarms, by either version of the core', () => {
    const text = (made: string): string =>
      `hw_timer_t *timer = NULL;\nportMUX_TYPE mux = portMUX_INITIALIZER_UNLOCKED;\nvolatile int n = 0;\nvoid IRAM_ATTR tick() { portENTER_CRITICAL_ISR(&mux); n++; portEXIT_CRITICAL_ISR(&mux); }\nvoid setup() { Serial.begin(115200); ${made} }\nvoid loop() { delay(1050); portENTER_CRITICAL(&mux); int m = n; n = 0; portEXIT_CRITICAL(&mux); Serial.println(m); }`
    const [old, now, once, off] = [
      'timer = timerBegin(0, 80, true); timerAttachInterrupt(timer, &tick, true); timerAlarmWrite(timer, 500000, true); timerAlarmEnable(timer);',
      'timer = timerBegin(1000000); timerAttachInterrupt(timer, tick); timerAlarm(timer, 250000, true, 0);',
      'timer = timerBegin(1000000); timerAttachInterrupt(timer, tick); timerAlarm(timer, 250000, false, 0);',
      'timer = timerBegin(1000000); timerAttachInterrupt(timer, tick); timerAlarm(timer, 250000, true, 0); timerStop(timer);',
    ].map((made) => said(run(esp, text(made), '', 2.2)))
    expect([old, now, once, off]).toEqual([
      ['2', '2'],
      ['4', '4'],
      ['1', '0'],
      ['0', '0'],
    ])
  })
  it('a block holds handlers back until it is over', () => {
    const short: Short = { mcu: 'uno-r3', parts: { K: 'button' }, wires: 'K.1 MCU.2, K.2 MCU.GND' }
    const text = (block: string): string =>
      `#include <util/atomic.h>\nvolatile int n = 0;\nvoid hit() { n++; }\nvoid setup() { Serial.begin(9600); pinMode(2, INPUT_PULLUP); attachInterrupt(0, hit, FALLING); ${block} { delay(1000); Serial.println(n); } Serial.println(n); }\nvoid loop() {}`
    const pressed = '  - { at: 0.5, set: { K: closed } }\n  - { at: 0.6, set: { K: open } }'
    expect(said(run(short, text('ATOMIC_BLOCK(ATOMIC_RESTORESTATE)'), pressed, 2))).toEqual(['0', '1'])
    expect(said(run(short, text(''), pressed, 2))).toEqual(['1', '1'])
  })
})

describe('beginning anew', () => {
  it('by the wish of the program', () => {
    const text =
      'void setup() { Serial.begin(115200); Serial.println("up"); delay(1000); ESP.restart(); }\nvoid loop() {}'
    expect(said(run(esp, text, '', 3.5))).toEqual(['up', 'up', 'up'])
    expect(
      said(
        python(
          { mcu: 'pico', parts: {} },
          'main.py',
          'import machine, time\nprint("up")\ntime.sleep(1)\nmachine.reset()\n',
          2,
        ),
      ),
    ).toEqual(['up', 'up'])
  })
  const guarded = (feeds: string): string =>
    `#include <avr/wdt.h>\nvoid setup() { Serial.begin(9600); Serial.println("up"); wdt_enable(WDTO_1S); }\nvoid loop() { ${feeds} }`
  const uno: Short = { mcu: 'uno-r3', parts: {} }
  it('by a watchdog that nothing feeds, in a wait as in a loop', () => {
    for (const feeds of ['delay(3000);', 'for (;;) { if (millis() > 100000) break; }', 'while (1);', '']) {
      const result = run(uno, guarded(feeds), '', 3)
      expect(said(result), feeds).toEqual(['up', 'up', 'up'])
      expect(kinds(result), feeds).toEqual(['bitten'])
    }
    const fed = run(uno, guarded('delay(500); wdt_reset();'), '', 4)
    expect(said(fed)).toEqual(['up'])
    expect(kinds(fed)).toEqual([])
  })
  it('keeps settings and what is written into memory', () => {
    const text =
      '#include <Preferences.h>\n#include <EEPROM.h>\nPreferences p;\nvoid setup() { Serial.begin(115200); EEPROM.begin(16); p.begin("a"); uint32_t n = p.getUInt("n", 0) + 1; p.putUInt("n", n); uint8_t m = EEPROM.read(3) + 1; EEPROM.write(3, m); EEPROM.commit(); Serial.printf("%lu %d\\n", n, m); delay(700); ESP.restart(); }\nvoid loop() {}'
    expect(said(run(esp, text, '', 2.5))).toEqual(['1 0', '2 1', '3 2'])
  })
  it('ends the watchdog of the life before, however short', () => {
    const text = 'import machine\nprint("up")\nw = machine.WDT(timeout=100)\nmachine.reset()\n'
    const result = python({ mcu: 'pico', parts: {} }, 'main.py', text, 1)
    expect(said(result)).toEqual(['up', 'up', 'up', 'up'])
    expect(kinds(result)).toEqual([])
  })
  it('forgets clocks and handlers of the life before', () => {
    const text =
      '#include <Ticker.h>\nTicker t;\nint n = 0;\nvoid tick() { n++; }\nvoid setup() { Serial.begin(115200); t.attach(0.1, tick); }\nvoid loop() { if (n >= 5) { Serial.println(n); ESP.restart(); } delay(20); }'
    expect(new Set(said(run(esp, text, '', 4)))).toEqual(new Set(['5']))
  })
})
