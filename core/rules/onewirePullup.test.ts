import { testRule } from '../testing/rules.ts'
import { onewirePullup } from './onewirePullup.ts'

const probe = (ohms: number) => ({
  parts: { D: 'ds18b20-probe', A: { part: 'resistor', options: { ohms } } },
  wires: 'D.VDD MCU.3V3, D.GND MCU.GND, D.DQ MCU.27, A.1 MCU.27, A.2 MCU.3V3',
})

testRule(onewirePullup, {
  valid: [
    {
      title: 'one resistor for two probes',
      parts: { A: 'ds18b20-probe', B: 'ds18b20-probe', R: { part: 'resistor', options: { ohms: 4700 } } },
      wires: 'A.DQ MCU.27, B.DQ MCU.27, R.1 A.DQ, R.2 MCU.3V3',
    },
    {
      title: 'a humidity sensor with 10 kΩ',
      parts: { A: 'dht22', R: { part: 'resistor', options: { ohms: 10000 } } },
      wires: 'A.DATA MCU.27, R.1 A.DATA, R.2 MCU.3V3',
    },
    {
      title: 'a humidity sensor on the 10 kΩ that hold a boot pin of the board high',
      mcu: 'esp8266-d1-mini',
      parts: { A: 'dht22' },
      wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.DATA MCU.D4',
    },
  ],
  invalid: [
    {
      title: 'a pull-up that is too strong',
      mcu: 'pico',
      parts: { T: 'ds18b20-probe', R: { part: 'resistor', options: { ohms: 100 } } },
      wires: 'T.VDD MCU.3V3, T.GND MCU.GND, T.DQ MCU.GP4, R.1 T.DQ, R.2 MCU.3V3',
      says: ['caution: The pull-up of T.DQ is 100 Ω, and 725 Ω is the least at 3.3 V.'],
    },
    {
      title: 'a humidity sensor on a boot pin that only the chip pulls up',
      parts: { A: 'dht22' },
      wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.DATA MCU.5',
      says: ['fault: The line of A.DATA on MCU.GPIO5 has no pull-up resistor.'],
    },
    {
      title: 'a probe without a resistor',
      parts: { A: 'ds18b20-probe' },
      wires: 'A.VDD MCU.3V3, A.GND MCU.GND, A.DQ MCU.27',
      says: ['fault: The line of A.DQ on MCU.GPIO27 has no pull-up resistor.'],
      fix: 'Add 4.7 kΩ from A.DQ to MCU.3V3',
      changes: ['part R1 added (resistor)', 'wire R1.1 to A.DQ added', 'wire R1.2 to MCU.3V3 added'],
    },
    {
      title: 'a resistor too weak',
      mcu: 'pico',
      parts: { A: 'dht22', R: { part: 'resistor', options: { ohms: 47000 } } },
      wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.DATA MCU.GP2, R.1 A.DATA, R.2 MCU.3V3',
      says: ['fault: The pull-up of A.DATA on MCU.GP2 is 47 kΩ, and 10 kΩ is the most.'],
      fix: 'Add 4.7 kΩ from A.DATA to MCU.3V3',
      changes: ['part R2 added (resistor)', 'wire R2.1 to A.DATA added', 'wire R2.2 to MCU.3V3 added'],
    },
    {
      title: 'a resistor to too low a voltage',
      mcu: 'uno-r3',
      supplies: { LOW: { volts: 1.8 } },
      parts: { A: 'ds18b20-probe', R: { part: 'resistor', options: { ohms: 4700 } } },
      wires: 'A.VDD MCU.5V, A.GND MCU.GND, LOW.- MCU.GND, A.DQ MCU.4, R.1 A.DQ, R.2 LOW.+',
      says: ['fault: The line of A.DQ on MCU.D4 is pulled to 1.8 V only.'],
    },
  ],
  edges: [
    {
      says: 'strong',
      because: 'of an open collector that sinks 20 mA: (5 V − 0.4 V) / 20 mA = 230 Ω, less a hundredth',
      at: (value) => ({
        mcu: 'uno-r3',
        parts: { H: 'hall-a3144', R: { part: 'resistor', options: { ohms: value } } },
        wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.OUT MCU.2, R.1 H.OUT, R.2 MCU.5V',
      }),
      said: 227,
      quiet: 228,
    },
    { says: 'strong', because: '(3.3 V − 0.4 V) / 4 mA = 725 Ω, less a hundredth', at: probe, said: 715, quiet: 720 },
    {
      says: 'weak',
      because: 'at most 10 kΩ, and 5 % on top for what the resistor is not',
      at: probe,
      said: 10510,
      quiet: 10490,
    },
  ],
})
