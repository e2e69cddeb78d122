import { describe, expect, it } from 'vitest'
import type { Short } from '../testing/plans.ts'
import type { RunResult } from './run.ts'
import { run } from './testing/quick.ts'

const said = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind }) => kind)
const board: Short = {
  mcu: 'esp32-devkit-30',
  parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } }, K: 'button' },
  wires: 'L.A R.1, R.2 MCU.26, L.K MCU.GND, K.1 MCU.33, K.2 MCU.GND',
}
/** A sketch with tasks of its own; `start` makes them. */
const sketch = (above: string, start: string, loop = 'delay(10000);'): string =>
  `${above}\nvoid setup() { Serial.begin(115200); ${start} }\nvoid loop() { ${loop} }`
const create = (name: string, parameter = 'NULL', handle = 'NULL'): string =>
  `xTaskCreatePinnedToCore(${name}, "${name}", 2048, ${parameter}, 1, ${handle}, 0);`
const lit = ({ shown }: RunResult): [number, boolean][] =>
  shown.L!.map(({ at, words }): [number, boolean] => [Math.round(at / 100_000), words.startsWith('on')])

describe('tasks', () => {
  it('may be lambdas that take nothing along', () => {
    const result = run(
      board,
      sketch(
        '',
        `${create('[](void *) { for (;;) { Serial.println("tick"); vTaskDelay(pdMS_TO_TICKS(400)); } }').replace(/, "\[.*?", /, ', "tick", ')}`,
        'Serial.println("loop"); delay(1000);',
      ),
      '',
      1.5,
    )
    expect(said(result)).toEqual(['tick', 'loop', 'tick', 'tick', 'loop', 'tick'])
    expect(kinds(result)).toEqual([])
  })

  it('of lambdas that take something along are said', () => {
    const result = run(
      board,
      sketch(
        '',
        'int n = 3; auto count = [n](void *) { for (;;) delay(n); }; xTaskCreate(count, "count", 2048, NULL, 1, NULL);',
      ),
      '',
      0.5,
    )
    expect(kinds(result)).toContain('stopped')
  })

  it('take turns with each other and with the loop', () => {
    const result = run(
      board,
      sketch(
        'void lamp(void *) { pinMode(26, OUTPUT); for (;;) { digitalWrite(26, HIGH); vTaskDelay(400 / portTICK_PERIOD_MS); digitalWrite(26, LOW); vTaskDelay(pdMS_TO_TICKS(600)); } }\nvoid count(void *) { int n = 0; while (true) { Serial.println(n++); delay(500); } }',
        create('lamp') + create('count'),
        'Serial.println("loop"); delay(800);',
      ),
      '',
      1.5,
    )
    expect(said(result)).toEqual(['0', 'loop', '1', 'loop', '2'])
    expect(lit(result)).toEqual([
      [0, false],
      [0, true],
      [4, false],
      [10, true],
      [14, false],
    ])
    expect(kinds(result)).toEqual([])
  })
  it('wait inside of loops, conditions, switches of ways and functions that they call', () => {
    const above =
      'void beat(int n) { for (int i = 0; i < n; i++) { Serial.print(i); if (i == 1) { Serial.print("!"); vTaskDelay(100); } else vTaskDelay(50); } Serial.println(millis() / 10); }\nvoid run(void *) { int round = 1; do { beat(++round); vTaskDelay(100); if (round > 2) continue; } while (round < 3); int k = 0; while (k < 2) { k++; vTaskDelay(10); if (k == 1) break; } Serial.println(k); vTaskDelete(NULL); }'
    expect(said(run(board, sketch(above, create('run')), '', 2))).toEqual(['01!15', '01!245', '1'])
  })
  it('of one function each have their own variables, and their number', () => {
    const above =
      'void run(void *of) { int id = (int)of; int n = 0; for (;;) { n += id; vTaskDelay(100 * id); if (n == 6) { Serial.print(id); Serial.print(" at "); Serial.println(millis() / 100); vTaskDelete(NULL); } } }'
    expect(
      said(run(board, sketch(above, `${create('run', '(void *)1')} ${create('run', '(void *)2')}`), '', 2)),
    ).toEqual(['1 at 6', '2 at 6'])
  })
  it('keep to their times by an even step', () => {
    const above =
      'void run(void *) { TickType_t last = xTaskGetTickCount(); for (;;) { Serial.println(millis() / 50); delay(30); vTaskDelayUntil(&last, pdMS_TO_TICKS(250)); } }'
    expect(said(run(board, sketch(above, create('run')), '', 1.1))).toEqual(['0', '5', '10', '15', '20'])
  })
  it('are held, let go and ended by others', () => {
    const above =
      'TaskHandle_t one;\nvoid run(void *) { for (;;) { Serial.println(millis() / 100); vTaskDelay(100); } }'
    const loop =
      'delay(250); vTaskSuspend(one); delay(300); vTaskResume(one); delay(200); vTaskDelete(one); delay(10000);'
    expect(said(run(board, sketch(above, create('run', 'NULL', '&one'), loop), '', 2))).toEqual([
      '0',
      '1',
      '2',
      '5',
      '6',
    ])
  })
  it('must not come to an end, or run on without a wait', () => {
    const end = run(board, sketch('void run(void *) { Serial.println("once"); }', create('run')), '', 1)
    expect(end.findings.map(({ kind, message }) => [kind, message.includes('vTaskDelete')])).toEqual([
      ['stopped', true],
    ])
    const busy = run(board, sketch('volatile int n;\nvoid run(void *) { for (;;) n++; }', create('run')), '', 8)
    expect(busy.findings.map(({ kind, message }) => [kind, message.includes('watchdog')])).toEqual([['stopped', true]])
    expect(busy.seconds).toBeLessThan(7.5)
  })
  it('are no words of boards without that system', () => {
    expect(
      kinds(run({ ...board, mcu: 'uno-r3', wires: '' }, sketch('void run(void *) {}', 'vTaskDelay(1);'), '', 1)),
    ).toContain('not-understood')
  })
})

describe('what tasks hand on', () => {
  it('waits in a row, and holds up who gives too much', () => {
    const above =
      'QueueHandle_t row;\nstruct Note { int id; float share; };\nvoid give(void *) { Note n; for (int i = 1; ; i++) { n.id = i; n.share = i * 0.5f; Serial.print("+"); xQueueSend(row, &n, portMAX_DELAY); } }\nvoid take(void *) { Note n; for (;;) { vTaskDelay(100); while (xQueueReceive(row, &n, 0) == pdTRUE && n.id % 2 == 0) { } Serial.println(n.share); } }'
    const result = run(
      board,
      sketch(above, `row = xQueueCreate(2, sizeof(Note)); ${create('give')} ${create('take')}`),
      '',
      0.35,
    )
    expect([said(result).slice(0, 2), kinds(result)]).toEqual([['++++0.50', '++1.50'], []])
  })
  it('is a copy of what was given, bytes and numbers alike', () => {
    const above =
      'QueueHandle_t row, numbers;\nvoid take(void *) { char text[8]; int n; for (;;) { if (xQueueReceive(row, text, portMAX_DELAY)) { xQueueReceive(numbers, &n, portMAX_DELAY); Serial.print(text); Serial.println(n); } } }'
    const start = `row = xQueueCreate(3, 8); numbers = xQueueCreate(3, sizeof(int)); ${create('take')} char word[8] = "up"; int n = 4; xQueueSend(row, word, 0); xQueueSend(numbers, &n, 0); strcpy(word, "down"); n = 5; xQueueSend(row, word, 0); xQueueSend(numbers, &n, 0); Serial.println(uxQueueMessagesWaiting(row));`
    expect(said(run(board, sketch(above, start), '', 0.5)).sort()).toEqual(['0', 'down5', 'up4'].sort())
  })
  it('comes in time or not', () => {
    const above =
      'SemaphoreHandle_t gate;\nvoid IRAM_ATTR pressed() { BaseType_t woken = pdFALSE; xSemaphoreGiveFromISR(gate, &woken); portYIELD_FROM_ISR(woken); }\nvoid run(void *) { for (;;) { Serial.println(xSemaphoreTake(gate, 400) == pdTRUE ? "pressed" : "waited"); } }'
    const start = `gate = xSemaphoreCreateBinary(); pinMode(33, INPUT_PULLUP); attachInterrupt(33, pressed, FALLING); ${create('run')}`
    const press = '  - { at: 0.5, set: { K: closed } }\n  - { at: 0.6, set: { K: open } }'
    const result = run(board, sketch(above, start), press, 1.2)
    expect([said(result), kinds(result)]).toEqual([['waited', 'pressed', 'waited'], []])
  })
  it('lets one in at a time, the loop as well', () => {
    const above =
      'SemaphoreHandle_t key; int sum = 0;\nvoid run(void *) { for (;;) { xSemaphoreTake(key, portMAX_DELAY); int was = sum; vTaskDelay(10); sum = was + 1; xSemaphoreGive(key); vTaskDelay(10); } }'
    const loop =
      'delay(205); xSemaphoreTake(key, portMAX_DELAY); int was = sum; delay(50); Serial.println(sum == was); xSemaphoreGive(key); delay(100000);'
    const text = sketch(above, `key = xSemaphoreCreateMutex(); ${create('run')} ${create('run')}`, loop)
    expect(said(run(board, text, '', 1))).toEqual(['1'])
  })
  it('is a notice to one task', () => {
    const above =
      'TaskHandle_t one;\nvoid run(void *) { for (;;) { uint32_t many = ulTaskNotifyTake(pdTRUE, portMAX_DELAY); Serial.print(many); Serial.print(" at "); Serial.println(millis() / 100); } }'
    expect(
      said(run(board, sketch(above, create('run', 'NULL', '&one'), 'delay(300); xTaskNotifyGive(one);'), '', 0.7)),
    ).toEqual(['1 at 3', '1 at 6'])
  })
  it('is used before it was made', () => {
    const { findings } = run(board, sketch('QueueHandle_t row;', 'int n = 1; xQueueSend(row, &n, 0);'), '', 1)
    expect(findings.map(({ kind, message }) => [kind, message.includes('before it has been made')])).toEqual([
      ['stopped', true],
    ])
  })
  it('know their core and priority, and a lock that its holder takes again holds the others up until all is given', () => {
    const tasks = `SemaphoreHandle_t lock;
void first(void *) { for (;;) { xSemaphoreTakeRecursive(lock, portMAX_DELAY); Serial.println(xSemaphoreTakeRecursive(lock, portMAX_DELAY)); delay(200); xSemaphoreGiveRecursive(lock); delay(200); Serial.println("free"); xSemaphoreGiveRecursive(lock); vTaskDelete(NULL); } }
void second(void *) { Serial.print(xPortGetCoreID()); Serial.println(uxTaskPriorityGet(NULL)); delay(50); Serial.println(xSemaphoreTakeRecursive(lock, 100)); Serial.println(xSemaphoreGiveRecursive(lock)); xSemaphoreTakeRecursive(lock, portMAX_DELAY); Serial.println(millis() / 100); vTaskDelete(NULL); }`
    const start = `lock = xSemaphoreCreateRecursiveMutex(); Serial.println(xPortGetCoreID()); ${create('first')} xTaskCreatePinnedToCore(second, "second", 2048, NULL, 3, NULL, 0);`
    expect(said(run(board, sketch(tasks, start), '', 2))).toEqual(['1', '03', '1', '0', '0', 'free', '4'])
  })
  it('whose stack is asked for get nought, until somebody says more of it', () => {
    const result = run(
      board,
      sketch(
        'void t(void *) { for (;;) { Serial.println(uxTaskGetStackHighWaterMark(NULL)); delay(900); } }',
        create('t'),
      ),
      '',
      1,
    )
    expect(said(result)).toEqual(['0', '0'])
  })
})
