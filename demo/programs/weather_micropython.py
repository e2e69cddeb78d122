"""The weather box of "Mended by Monday" in MicroPython, written in the same hurry as it was wired."""

import time

from machine import ADC, I2C, PWM, Pin

gusts = 0


def on_gust(pin):
    global gusts
    gusts += 1


wind = Pin(3, Pin.IN)
wind.irq(on_gust, Pin.IRQ_FALLING)
lamp = Pin(34, Pin.OUT)
test = Pin(12, Pin.IN)
blower = Pin(13, Pin.OUT)
shade = ADC(Pin(32), atten=ADC.ATTN_11DB)
flap = PWM(Pin(27), freq=50)
bus = I2C(0, scl=Pin(22), sda=Pin(21))

while True:
    level = ADC(Pin(16)).read_u16()
    lamp.value(gusts * 1600 > level)
    flap.duty_ns(500_000 + shade.read_u16() * 2_000_000 // 65535)
    blower.value(test.value() == 0)
    gusts = 0
    time.sleep(1)
