"""The post in the meadow of "Two-post rain gauge" in CircuitPython: each tip of the bucket is 0.2 mm of rain."""

import time

import busio
import digitalio
import microcontroller

PER_TIP = 0.2
MEADOW = 0x76

bucket = digitalio.DigitalInOut(microcontroller.pin.GPIO32)
bucket.switch_to_input(pull=digitalio.Pull.UP)
bus = busio.I2C(microcontroller.pin.GPIO22, microcontroller.pin.GPIO21)
while not bus.try_lock():
    pass
if MEADOW not in bus.scan():
    print("no climate")
bus.unlock()

tips = 0
was = True
fell = told = 0.0
while True:
    now = time.monotonic()
    level = bucket.value
    # The magnet passes once; what follows at once is the reed of the switch.
    if was and not level:
        if now - fell > 0.05:
            tips += 1
        fell = now
    was = level
    if now - told >= 1:
        told = now
        print(f"{tips * PER_TIP:.1f} mm")
    time.sleep(0.001)
