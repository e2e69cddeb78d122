"""Kiln logger by the numbers of the pins: one line a second, and the moment when the cone bends."""

import time

import RPi.GPIO as GPIO
import smbus

CONVERTER = 0x48
SHED = 0x76
CONE = 17
HOT = 27

started = time.time()
bent = []


def mark(pin):
    bent.append(time.time() - started)
    print("cone %d bent after %.1f s" % (len(bent), bent[-1]))


def damper():
    """Position of the damper in percent; the converter counts to 32767."""
    high, low = bus.read_i2c_block_data(CONVERTER, 0, 2)
    return (high << 8 | low) / 327.67


GPIO.setmode(GPIO.BCM)
GPIO.setup(HOT, GPIO.OUT, initial=GPIO.LOW)
GPIO.setup(CONE, GPIO.IN, pull_up_down=GPIO.PUD_UP)
GPIO.add_event_detect(CONE, GPIO.FALLING, callback=mark, bouncetime=50)
bus = smbus.SMBus(1)
try:
    bus.write_i2c_block_data(CONVERTER, 1, [0xC3, 0x83])
    bus.read_byte_data(SHED, 0xD0)
    is_hot = False
    while len(bent) < 2:
        is_hot = not is_hot
        GPIO.output(HOT, is_hot)
        print("%4.0f s, damper at %.0f %%" % (time.time() - started, damper()))
        time.sleep(1)
    GPIO.output(HOT, GPIO.LOW)
    print("done:", ", ".join("%.1f" % moment for moment in bent))
finally:
    bus.close()
