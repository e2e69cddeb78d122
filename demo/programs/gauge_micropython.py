"""The post in the meadow of "Two-post rain gauge" in MicroPython: each tip of the bucket is 0.2 mm of rain."""

import time

from machine import I2C, Pin

PER_TIP = 0.2
MEADOW = 0x76

tips = 0
last = 0


def on_tip(pin):
    global tips, last
    now = time.ticks_ms()
    # The magnet passes once; what follows at once is the reed of the switch.
    if time.ticks_diff(now, last) > 50:
        tips += 1
    last = now


bucket = Pin(32, Pin.IN, Pin.PULL_UP)
bucket.irq(on_tip, Pin.IRQ_FALLING)
bus = I2C(0, scl=Pin(22), sda=Pin(21), freq=100000)
if MEADOW not in bus.scan():
    print("no climate")
while True:
    print("{:.1f} mm".format(tips * PER_TIP))
    time.sleep(1)
