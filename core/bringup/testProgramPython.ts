import type { TestStep } from './testProgram.ts'

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

/** The test program for a board that runs MicroPython. */
export function microProgram(
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

/** The test program for a board with an operating system, which runs it itself. */
export function systemProgram(about: readonly string[], hello: string, steps: readonly TestStep[]): string {
  return `${about.map((line) => `# ${line}`).join('\n')}
# Run it on the board itself, and paste what it prints or send it to the page; lines are asked for on standard input.
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
