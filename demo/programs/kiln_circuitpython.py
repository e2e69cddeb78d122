"""Kiln logger in CircuitPython: one line a second, and the moment when the cone bends."""

import time

import board
import busio
import digitalio

CONVERTER = 0x48
SHED = 0x76

hot = digitalio.DigitalInOut(board.D27)
hot.switch_to_output(value=False)
cone = digitalio.DigitalInOut(board.D17)
cone.switch_to_input(pull=digitalio.Pull.UP)
bus = busio.I2C(board.SCL, board.SDA)


def damper():
    """Position of the damper in percent; the converter counts to 32767."""
    counts = bytearray(2)
    bus.writeto_then_readfrom(CONVERTER, b"\x00", counts)
    return (counts[0] << 8 | counts[1]) / 327.67


while not bus.try_lock():
    pass
if SHED not in bus.scan():
    print("no climate")
bus.writeto(CONVERTER, bytes([1, 0xC3, 0x83]))

started = told = time.monotonic()
bent = []
was = True
hot.value = True
while len(bent) < 2:
    now = time.monotonic()
    level = cone.value
    if was and not level:
        bent.append(now - started)
        print(f"cone {len(bent)} bent after {bent[-1]:.1f} s")
    was = level
    if now - told >= 1:
        told = now
        hot.value = not hot.value
        print(f"{now - started:4.0f} s, damper at {damper():.0f} %")
    # Long enough for the contact to come to rest.
    time.sleep(0.02)
hot.value = False
print("done:", ", ".join(f"{moment:.1f}" for moment in bent))
