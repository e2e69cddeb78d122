import { testRule } from '../testing/rules.ts'
import { driverNeeded } from './driverNeeded.ts'

testRule(driverNeeded, {
  valid: [
    {
      title: 'a motor behind a transistor',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { M: { part: 'dc-motor', mode: 'switched' }, T: 'nmos', D: 'diode' },
      wires: 'T.G MCU.27, T.S MCU.GND, PACK.- MCU.GND, M.M1 PACK.+, M.M2 T.D, D.A M.M2, D.K M.M1',
    },
    {
      title: 'a small sensor fed from a pin',
      mcu: 'uno-r3',
      parts: { H: { part: 'hall-a3144', mode: 'level' } },
      wires: 'H.VCC MCU.7, H.GND MCU.GND, H.OUT MCU.8',
    },
  ],
  invalid: [
    {
      title: 'a motor between two pins',
      mcu: 'uno-r3',
      parts: { M: 'dc-motor' },
      wires: 'M.M1 MCU.9, M.M2 MCU.10',
      says: ['fault: M.M1 and M.M2 hang straight on MCU.D9 and MCU.D10; each needs a half-bridge output.'],
      fix: 'Take M off the pins until a driver is there',
      changes: ['wire M.M1 to MCU.D9 removed', 'wire M.M2 to MCU.D10 removed'],
    },
    {
      title: 'a fan on a pin',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { F: 'fan' },
      wires: 'F.+ PACK.+, PACK.- MCU.GND, F.- MCU.27',
      says: ['fault: F.- hangs straight on MCU.GPIO27; it needs a switch to ground.'],
      fix: 'Take F off the pin until a driver is there',
      changes: ['wire F.- to MCU.GPIO27 removed'],
    },
    {
      title: 'a display fed from a pin that is good for a little less',
      mcu: 'uno-r3',
      parts: { D: 'ssd1306' },
      wires: 'D.VCC MCU.8, D.GND MCU.GND',
      says: ['caution: D takes up to 25 mA and is fed from the pin MCU.D8, which is good for 20 mA.'],
    },
    {
      title: 'the same on a pin that breaks at less',
      mcu: 'pi-40',
      parts: { D: 'ssd1306' },
      wires: 'D.VCC MCU.GPIO13, D.GND MCU.GND',
      says: ['fault: D takes up to 25 mA and is fed from the pin MCU.GPIO13, which is good for 8 mA.'],
    },
    {
      title: 'a strip fed from a pin',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { P: 'ws2812-strip' },
      wires: 'P.5V MCU.27, P.GND MCU.GND, P.DIN MCU.26, PACK.- MCU.GND',
      says: ['fault: P takes up to 480 mA and is fed from the pin MCU.GPIO27, which is good for 20 mA.'],
      fix: 'Feed P.5V from MCU.VIN',
      changes: ['wire P.5V to MCU.GPIO27 removed', 'wire P.5V to MCU.VIN added'],
    },
  ],
})
