"""Kiln logger: one line a second, and the moment when the cone bends."""

from time import monotonic, sleep

from gpiozero import LED, Button
from smbus2 import SMBus

CONVERTER = 0x48
SHED = 0x76

hot = LED(27)
cone = Button(17, bounce_time=0.05)
started = monotonic()
bent = []


def mark():
    bent.append(monotonic() - started)
    print(f"cone {len(bent)} bent after {bent[-1]:.1f} s")


def damper(bus):
    """Position of the damper in percent; the converter counts to 32767."""
    high, low = bus.read_i2c_block_data(CONVERTER, 0, 2)
    return (high << 8 | low) / 327.67


cone.when_pressed = mark
with SMBus(1) as bus:
    bus.write_i2c_block_data(CONVERTER, 1, [0xC3, 0x83])
    bus.read_byte_data(SHED, 0xD0)
    while len(bent) < 2:
        hot.toggle()
        print(f"{monotonic() - started:4.0f} s, damper at {damper(bus):.0f} %")
        sleep(1)
hot.off()
print("done:", ", ".join(f"{moment:.1f}" for moment in bent))
