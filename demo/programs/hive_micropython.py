"""The board of "Orchard hive watch" in MicroPython: weighs, feels the air, counts at the gates, opens the vent."""

import struct
import time

from machine import ADC, I2C, Pin

TOO_WARM = 36.0
GATES = 0x20
CLOCK = 0x68


class Air:
    """Warmth of a climate sensor, by the numbers that it holds to reckon with."""

    def __init__(self, bus, address):
        self.bus = bus
        self.address = address
        self.first, self.second, self.third = struct.unpack("<Hhh", bus.readfrom_mem(address, 0x88, 6))
        bus.writeto_mem(address, 0xF2, b"\x01")
        bus.writeto_mem(address, 0xF4, b"\x27")

    def warmth(self):
        high, middle, low = self.bus.readfrom_mem(self.address, 0xFA, 3)
        raw = (high << 16 | middle << 8 | low) >> 4
        straight = (raw / 16384 - self.first / 1024) * self.second
        bent = (raw / 131072 - self.first / 8192) ** 2 * self.third
        return (straight + bent) / 5120


class Scale:
    """Amplifier of a load cell: a bit at each rise of the clock, the highest first."""

    def __init__(self, data, clock):
        self.data = Pin(data, Pin.IN)
        self.clock = Pin(clock, Pin.OUT, value=0)

    def read(self):
        while self.data.value():
            time.sleep_ms(1)
        value = 0
        for _ in range(24):
            self.clock.on()
            self.clock.off()
            value = value << 1 | self.data.value()
        self.clock.on()
        self.clock.off()
        return value - (1 << 24) if value & 0x800000 else value


class Gates:
    """Entrance gates at the first port of an expander, pulled up."""

    def __init__(self, bus, address):
        self.bus = bus
        self.address = address
        bus.writeto_mem(address, 0x00, b"\xff")
        bus.writeto_mem(address, 0x0C, b"\x07")
        self.was = 0x07
        self.passed = 0

    def look(self):
        now = self.bus.readfrom_mem(self.address, 0x12, 1)[0] & 0x07
        for gate in range(3):
            bit = 1 << gate
            if self.was & bit and not now & bit:
                self.passed += 1
        self.was = now


def decimal(byte):
    return (byte >> 4) * 10 + (byte & 15)


bus = I2C(0, scl=Pin(22), sda=Pin(21), freq=100000)
brood = Air(bus, 0x76)
attic = Air(bus, 0x77)
gates = Gates(bus, GATES)
scale = Scale(36, 32)
cell = ADC(Pin(34), atten=ADC.ATTN_11DB)
vent = Pin(4, Pin.OUT, value=0)
lid = Pin(14, Pin.IN, Pin.PULL_UP)
Pin(13, Pin.OUT, value=1)

is_open = False
told = time.ticks_ms()
while True:
    gates.look()
    # The knob moves the limit by three degrees either way.
    limit = TOO_WARM + (cell.read_u16() / 65535 - 0.5) * 6
    warmth = brood.warmth()
    was_open = is_open
    is_open = warmth > limit or (is_open and warmth > limit - 0.5)
    vent.value(is_open)
    if is_open != was_open:
        print("vent on" if is_open else "vent off")
    if lid.value() == 0:
        _, minute, hour = bus.readfrom_mem(CLOCK, 0, 3)
        print("lid at {:02d}:{:02d}".format(decimal(hour), decimal(minute)))
        time.sleep_ms(200)
    if time.ticks_diff(time.ticks_ms(), told) >= 2000:
        told = time.ticks_ms()
        kilos = scale.read() / 1000
        print("{:.1f} C, {:.1f} above, {:.1f} kg, {} passed".format(warmth, attic.warmth(), kilos, gates.passed))
    time.sleep_ms(20)
