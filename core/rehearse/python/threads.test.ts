import { describe, expect, it } from 'vitest'
import { catalog, planOf } from '../../testing/plans.ts'
import { resolve } from '../../wiring/resolve.ts'
import { rehearse } from '../run.ts'

const led = { L: 'led', R: { part: 'resistor', options: { ohms: 330 } } }
const run = (mcu: string, text: string, seconds = 3, pin?: string) => {
  const short = pin === undefined ? { mcu } : { mcu, parts: led, wires: `L.A R.1, R.2 MCU.${pin}, L.K MCU.GND` }
  const wiring = resolve(planOf(short), catalog)
  return rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { seconds })
}
const printed = (mcu: string, text: string, seconds?: number): string[] =>
  run(mcu, text, seconds).printed.flatMap(({ text: said }) => said.split('\n').filter((line) => line !== ''))

describe('threads', () => {
  it('run beside the program, each to its next wait', () => {
    const text = `import threading, time
stop = threading.Event()
seen = []
def work(name, every):
    while not stop.is_set():
        seen.append(name + str(round(time.monotonic(), 1)))
        time.sleep(every)
for name, every in (('a', 0.2), ('b', 0.5)):
    threading.Thread(target=work, args=(name,), kwargs={'every': every}, daemon=True).start()
time.sleep(0.9)
stop.set()
time.sleep(0.6)
print(seen)
`
    expect(printed('pi-40', text)).toEqual(["['a0.0', 'b0.0', 'a0.2', 'a0.4', 'b0.5', 'a0.6', 'a0.8']"])
  })

  it('wait inside of functions that they call, and give their values on', () => {
    const text = `import threading, time
def ask(n):
    time.sleep(n)
    return n * 2
def pick(on):
    if on and ask(0.25) > 0.4:
        return [ask(0.25) for _ in range(2)]
    return None
def both():
    total = ask(0.25) + ask(0.5)
    print('sum', total, round(time.monotonic(), 2))
    print(pick(True), round(time.monotonic(), 2))
t = threading.Thread(target=both)
t.start()
print('begun', t.is_alive())
t.join()
print('joined', t.is_alive(), round(time.monotonic(), 2))
`
    expect(printed('pi-40', text)).toEqual(['begun True', 'sum 1.5 0.75', '[0.5, 0.5] 1.5', 'joined False 1.5'])
  })

  it('keep out of each other’s way with a lock, and hand on over a queue', () => {
    const text = `import threading, queue, time
lock = threading.Lock()
line = queue.Queue(maxsize=2)
class Worker(threading.Thread):
    def __init__(self, label):
        super().__init__(daemon=True)
        self.label = label
    def run(self):
        while True:
            item = line.get()
            with lock:
                print(self.label, item, round(time.monotonic(), 1))
                time.sleep(0.3)
            time.sleep(0.05)
for label in 'xy':
    Worker(label).start()
for item in range(4):
    line.put(item)
time.sleep(1.5)
print(lock.locked(), line.empty())
try:
    line.get(timeout=0.2)
except queue.Empty:
    print('empty', round(time.monotonic(), 1))
`
    expect(printed('pi-40', text)).toEqual(['x 0 0.0', 'y 1 0.3', 'x 2 0.6', 'y 3 0.9', 'False True', 'empty 1.7'])
  })

  it('light a lamp from the second core', () => {
    const text = `import _thread, time
from machine import Pin
lamp = Pin(15, Pin.OUT)
def other(times):
    for _ in range(times):
        lamp.toggle()
        time.sleep_ms(200)
_thread.start_new_thread(other, (3,))
while True:
    time.sleep(1)
`
    const { shows, findings } = run('pico', text, 2, 'GP15')
    expect(shows.L).toContain('on')
    expect(findings.filter(({ kind }) => kind === 'unknown-class' || kind === 'stopped')).toEqual([])
  })

  it('an error in one of them is told', () => {
    const { findings } = run(
      'pi-40',
      'import threading\ndef work():\n    return 1 / 0\nthreading.Thread(target=work).start()\nimport time\ntime.sleep(1)\n',
    )
    expect(findings.map(({ message }) => message).join()).toContain('ZeroDivisionError')
  })

  it('a timer runs once, unless it is called off', () => {
    const text = `import threading, time
threading.Timer(0.3, print, ['one']).start()
late = threading.Timer(0.5, print, ['two'])
late.start()
time.sleep(0.4)
late.cancel()
time.sleep(0.5)
print('end')
`
    expect(printed('pi-40', text)).toEqual(['one', 'end'])
  })
})

describe('the calendar of a rehearsal', () => {
  it('begins at midnight of the first of January 2026, a Thursday, and goes on with the clock', () => {
    const text = `import time
from datetime import datetime, timedelta, date
time.sleep(1.5)
now = datetime.now()
print(now.strftime('%A %d.%m.%Y %H:%M:%S'), now.second, now.microsecond // 100000, now.weekday(), date.today())
later = now + timedelta(days=58, hours=25, minutes=1)
print(later, later.date(), later - now, (later - now).total_seconds(), later > now)
print(datetime(2024, 2, 28) + timedelta(days=2), datetime(2026, 12, 31, 23, 59, 30).isoformat(), timedelta(seconds=90), timedelta(days=-1, hours=1))
print(datetime(2026, 3, 1).timetuple if False else datetime(2026, 3, 1, 4, 5, 6).strftime('%j %I%p %b %y %f'), time.strftime('%H:%M:%S'))
try: date(2026, 2, 29)
except ValueError as e: print(e)
`
    expect(printed('pi-40', text)).toEqual([
      'Thursday 01.01.2026 00:00:01 1 5 3 2026-01-01',
      '2026-03-01 01:01:01.500000 2026-03-01 59 days, 1:01:00 5101260.0 True',
      '2024-03-01 00:00:00 2026-12-31T23:59:30 0:01:30 -1 day, 1:00:00',
      '060 04AM Mar 26 000000 00:00:01',
      'day is out of range for month',
    ])
  })
})
