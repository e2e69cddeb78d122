"""The board of "Orchard hive watch" in CircuitPython: weighs, feels the air, counts at the gates, opens the vent."""

import struct
import time

import analogio
import busio
import digitalio
import microcontroller

TOO_WARM = 36.0
GATES = 0x20
CLOCK = 0x68


def registers(address, first, count):
    found = bytearray(count)
    bus.writeto_then_readfrom(address, bytes([first]), found)
    return found


def output(pin, high):
    made = digitalio.DigitalInOut(pin)
    made.switch_to_output(value=high)
    return made


class Air:
    """Warmth of a climate sensor, by the numbers that it holds to reckon with."""

    def __init__(self, address):
        self.address = address
        self.first, self.second, self.third = struct.unpack("<Hhh", registers(address, 0x88, 6))
        bus.writeto(address, b"\xf2\x01")
        bus.writeto(address, b"\xf4\x27")

    @property
    def warmth(self):
        high, middle, low = registers(self.address, 0xFA, 3)
        raw = (high << 16 | middle << 8 | low) >> 4
        straight = (raw / 16384 - self.first / 1024) * self.second
        bent = (raw / 131072 - self.first / 8192) ** 2 * self.third
        return (straight + bent) / 5120


def weigh():
    """Counts of the load cell's amplifier: a bit at each rise of the clock, the highest first."""
    while scale_data.value:
        time.sleep(0.001)
    value = 0
    for _ in range(24):
        scale_clock.value = True
        scale_clock.value = False
        value = value << 1 | scale_data.value
    scale_clock.value = True
    scale_clock.value = False
    return value - (1 << 24) if value & 0x800000 else value


def decimal(byte):
    return (byte >> 4) * 10 + (byte & 15)


lamp = output(microcontroller.pin.GPIO13, True)
vent = output(microcontroller.pin.GPIO4, False)
scale_clock = output(microcontroller.pin.GPIO32, False)
scale_data = digitalio.DigitalInOut(microcontroller.pin.GPIO36)
lid = digitalio.DigitalInOut(microcontroller.pin.GPIO14)
lid.switch_to_input(pull=digitalio.Pull.UP)
cell = analogio.AnalogIn(microcontroller.pin.GPIO34)
bus = busio.I2C(microcontroller.pin.GPIO22, microcontroller.pin.GPIO21)
while not bus.try_lock():
    pass
brood = Air(0x76)
attic = Air(0x77)
bus.writeto(GATES, b"\x00\xff")
bus.writeto(GATES, b"\x0c\x07")

was = 0x07
passed = 0
is_open = False
told = time.monotonic()
while True:
    (now,) = registers(GATES, 0x12, 1)
    for gate in range(3):
        if was >> gate & 1 and not now >> gate & 1:
            passed += 1
    was = now
    # The knob moves the limit by three degrees either way.
    limit = TOO_WARM + (cell.value / 65535 - 0.5) * 6
    warmth = brood.warmth
    was_open = is_open
    is_open = warmth > limit or (is_open and warmth > limit - 0.5)
    vent.value = is_open
    if is_open != was_open:
        print("vent on" if is_open else "vent off")
    if not lid.value:
        _, minute, hour = registers(CLOCK, 0, 3)
        print(f"lid at {decimal(hour):02d}:{decimal(minute):02d}")
        time.sleep(0.2)
    if time.monotonic() - told >= 2:
        told = time.monotonic()
        print(f"{warmth:.1f} C, {attic.warmth:.1f} above, {weigh() / 1000:.1f} kg, {passed} passed")
    time.sleep(0.02)
