"""The weather box of "Mended by Monday" in CircuitPython, written in the same hurry as it was wired."""

import time

import analogio
import digitalio
import microcontroller
import pwmio

wind = digitalio.DigitalInOut(microcontroller.pin.GPIO3)
lamp = digitalio.DigitalInOut(microcontroller.pin.GPIO34)
lamp.direction = digitalio.Direction.OUTPUT
test = digitalio.DigitalInOut(microcontroller.pin.GPIO12)
blower = digitalio.DigitalInOut(microcontroller.pin.GPIO13)
blower.switch_to_output()
dial = analogio.AnalogIn(microcontroller.pin.GPIO16)
shade = analogio.AnalogIn(microcontroller.pin.GPIO32)
flap = pwmio.PWMOut(microcontroller.pin.GPIO27, frequency=50)

was = wind.value
gusts = 0
told = time.monotonic()
while True:
    now = wind.value
    if was and not now:
        gusts += 1
    was = now
    if time.monotonic() - told >= 1:
        told = time.monotonic()
        lamp.value = gusts * 1600 > dial.value
        flap.duty_cycle = int((0.5 + shade.value / 65535 * 2) / 20 * 65535)
        blower.value = not test.value
        gusts = 0
    time.sleep(0.001)
