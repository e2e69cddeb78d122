import { fed } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { busPinsRule } from './busPins.ts'

const fiveVolts = 'D.VCC MCU.5V, D.GND MCU.GND'

/** Two sensors behind a bus switch. */
const behindSwitch = (wires: string) => ({
  parts: { X: 'tca9548a', A: 'bme280', B: 'bme280' },
  wires: `X.VIN MCU.3V3, X.GND MCU.GND, X.SDA MCU.21, X.SCL MCU.22, A.VCC MCU.3V3, A.GND MCU.GND, B.VCC MCU.3V3, B.GND MCU.GND, ${wires}`,
})

/** A receiver of positions that only speaks. */
const spoken = (mcu: string, pin: string) => ({
  mcu,
  parts: { G: 'gps-uart' },
  wires: `G.VCC MCU.5V, G.GND MCU.GND, G.TX MCU.${pin}`,
})

testRule(busPinsRule, {
  valid: [
    { title: 'a serial line by software at a pin that reports changes', ...spoken('leonardo-32u4', 'D8') },
    {
      title: 'and at one that wakes a handler, where the board makes no difference',
      ...spoken('esp8266-d1-mini', 'D5'),
    },
    {
      title: 'a serial line by software that is only spoken on',
      mcu: 'leonardo-32u4',
      parts: { P: 'uart-panel' },
      wires: 'P.5V MCU.5V, P.GND MCU.GND, P.RX MCU.D5',
    },
    { title: 'fixed pins', mcu: 'uno-r3', parts: { D: 'ds3231' }, wires: 'D.SDA MCU.A4, D.SCL MCU.A5' },
    {
      title: 'the same pins at the other holes',
      mcu: 'uno-r3',
      parts: { D: 'ds3231' },
      wires: 'D.SDA MCU.SDA, D.SCL MCU.SCL',
    },
    { title: 'any pins through the matrix', parts: { D: 'ds3231' }, wires: 'D.SDA MCU.D32, D.SCL MCU.D33' },
    {
      title: 'two buses on two controllers',
      parts: { C: 'ds3231', D: 'ds3231' },
      wires: 'C.SDA MCU.D21, C.SCL MCU.D22, D.SDA MCU.D32, D.SCL MCU.D33',
    },
    {
      title: 'the second SPI of the header',
      mcu: 'pi-40',
      parts: { S: { part: 'bme280', mode: 'spi' } },
      wires: 'S.SCL MCU.GPIO21, S.SDA MCU.GPIO20, S.SDO MCU.GPIO19, S.CSB MCU.GPIO5',
    },
    {
      title: 'sound by programmable input and output, word select behind the bit clock',
      mcu: 'pico',
      parts: { A: 'max98357a', M: 'inmp441' },
      wires: 'A.BCLK MCU.10, A.LRC MCU.11, A.DIN MCU.2, M.SCK MCU.26, M.WS MCU.27, M.SD MCU.12',
    },
    {
      title: 'sound on the sending set of an ESP8266',
      mcu: 'esp8266-nodemcu-v2',
      parts: { A: 'max98357a' },
      wires: 'A.BCLK MCU.GPIO15, A.LRC MCU.GPIO2, A.DIN MCU.GPIO3',
    },
    {
      title: 'a channel each behind a bus switch',
      ...behindSwitch('A.SDA X.SD0, A.SCL X.SC0, B.SDA X.SD1, B.SCL X.SC1'),
    },
    { title: 'one line of a channel', ...behindSwitch('A.SDA X.SD0') },
    { title: 'a bus that is only begun', mcu: 'uno-r3', parts: { D: 'ds3231' }, wires: 'D.SDA MCU.A4' },
  ],
  invalid: [
    {
      title: 'a serial line by software at a pin of which no change is reported',
      ...spoken('leonardo-32u4', 'D5'),
      says: ['fault: G cannot be heard at MCU.D5: no change there wakes a program that listens.'],
    },
    {
      title: 'or only by a handler that such a program does not use',
      ...spoken('leonardo-32u4', 'D7'),
      says: ['fault: G cannot be heard at MCU.D7: no change there wakes a program that listens.'],
    },
    {
      title: 'or which wakes nothing',
      ...spoken('esp8266-d1-mini', 'D0'),
      says: ['fault: G cannot be heard at MCU.GPIO16: no change there wakes a program that listens.'],
    },
    {
      title: 'the usual pins of a bus, exchanged',
      parts: { A: 'sht31' },
      wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.GPIO22, A.SCL MCU.GPIO21, A.ADDR MCU.GND',
      says: ['caution: SDA and SCL of A are on the pins that I2C 0 usually takes, the other way round.'],
      fix: 'Place the I2C lines of A anew',
      changes: [
        'wire A.SDA to MCU.GPIO22 removed',
        'wire A.SCL to MCU.GPIO21 removed',
        'wire A.SCL to MCU.GPIO22 added',
        'wire A.SDA to MCU.GPIO21 added',
      ],
    },
    {
      title: 'I2C on plain pins of a fixed controller',
      mcu: 'uno-r3',
      parts: { D: 'ds3231' },
      wires: `${fiveVolts}, D.SDA MCU.2, D.SCL MCU.3`,
      says: ['fault: No I2C controller of MCU reaches SCL on D3 and SDA on D2 (D).'],
      fix: 'Place the I2C lines of D anew',
      changes: [
        'wire D.SDA to MCU.D2 removed',
        'wire D.SCL to MCU.D3 removed',
        'wire D.SCL to MCU.A5 added',
        'wire D.SDA to MCU.A4 added',
      ],
    },
    {
      title: 'bit clock and word select swapped',
      mcu: 'pico',
      parts: { A: 'max98357a' },
      wires: 'A.VIN MCU.VBUS, A.GND MCU.GND, A.BCLK MCU.11, A.LRC MCU.10, A.DIN MCU.9',
      says: ['fault: BCK and WS of A are swapped.'],
      fix: 'Swap the wires of A.BCLK and A.LRC',
      changes: [
        'wire A.BCLK to MCU.GP11 removed',
        'wire A.LRC to MCU.GP10 removed',
        'wire A.LRC to MCU.GP11 added',
        'wire A.BCLK to MCU.GP10 added',
      ],
    },
    {
      title: 'word select two pins behind the bit clock',
      mcu: 'pico',
      parts: { A: 'max98357a' },
      wires: 'A.VIN MCU.VBUS, A.GND MCU.GND, A.BCLK MCU.16, A.LRC MCU.18, A.DIN MCU.17',
      says: ['fault: No I2S controller of MCU reaches BCK on GP16, WS on GP18 and DOUT on GP17 (A).'],
    },
    {
      title: 'bit clock of one set and data of the other',
      mcu: 'esp8266-nodemcu-v2',
      parts: { A: 'max98357a' },
      wires: 'A.VIN MCU.VIN, A.GND MCU.GND, A.BCLK MCU.GPIO13, A.LRC MCU.GPIO14, A.DIN MCU.GPIO3',
      says: ['fault: No I2S controller of MCU reaches BCK on GPIO13, WS on GPIO14 and DOUT on GPIO3 (A).'],
    },
    {
      title: 'a reader that speaks faster than a program follows',
      mcu: 'uno-r3',
      parts: { F: 'tfmini' },
      wires: 'F.5V MCU.5V, F.GND MCU.GND, F.TX MCU.2',
      says: [
        'fault: F speaks at 115200 baud or more, and on these pins of MCU a program has to listen: up to 57600 baud.',
      ],
    },
    {
      title: 'SDA and SCL swapped',
      mcu: 'uno-r3',
      parts: { D: 'ds3231' },
      wires: `${fiveVolts}, D.SDA MCU.A5, D.SCL MCU.A4`,
      says: ['fault: SDA and SCL of D are swapped.'],
      fix: 'Place the I2C lines of D anew',
      changes: [
        'wire D.SDA to MCU.A5 removed',
        'wire D.SCL to MCU.A4 removed',
        'wire D.SCL to MCU.A5 added',
        'wire D.SDA to MCU.A4 added',
      ],
    },
    {
      title: 'MISO and MOSI swapped',
      mcu: 'pi-40',
      parts: { R: 'sx1276' },
      wires: 'R.SCK MCU.GPIO11, R.MOSI MCU.GPIO9, R.MISO MCU.GPIO10',
      says: ['fault: MOSI and MISO of R are swapped.'],
    },
    {
      title: 'lines of two controllers mixed',
      mcu: 'pi-40',
      parts: { R: 'sx1276' },
      wires: 'R.SCK MCU.GPIO11, R.MOSI MCU.GPIO20, R.MISO MCU.GPIO9',
      says: ['fault: No SPI controller of MCU reaches SCK on GPIO11, MISO on GPIO9 and MOSI on GPIO20 (R).'],
    },
    {
      title: 'an input-only pin',
      parts: { D: 'ds3231' },
      wires: `${fed('D')}, D.SDA MCU.D34, D.SCL MCU.D22`,
      says: ['fault: No I2C controller of MCU reaches SCL on GPIO22 and SDA on GPIO34 (D).'],
    },
    {
      title: 'more buses than controllers',
      parts: { A: 'ds3231', B: 'ds3231', C: 'ds3231' },
      wires: 'A.SDA MCU.21, A.SCL MCU.22, B.SDA MCU.32, B.SCL MCU.33, C.SDA MCU.25, C.SCL MCU.26',
      says: ['fault: MCU has no I2C controller left for C.'],
    },
    {
      title: 'a bus line on an expander',
      parts: { X: 'mcp23017', D: 'ds3231' },
      wires: 'D.SDA X.GPA0',
      says: ['fault: D.SDA needs I2C SDA, and X.GPA0 is an expander pin.'],
    },
    {
      title: 'lines of two channels of a bus switch, exchanged',
      ...behindSwitch('A.SDA X.SD0, A.SCL X.SC1, B.SDA X.SD1, B.SCL X.SC0'),
      says: [
        'fault: SCL and SDA of A lie on different channels: SCL on X.SC1 and SDA on X.SD0.',
        'fault: SCL and SDA of B lie on different channels: SCL on X.SC0 and SDA on X.SD1.',
      ],
      fix: 'Swap the wires of A.SDA and B.SDA',
      changes: [
        'wire A.SDA to X.SD0 removed',
        'wire B.SDA to X.SD1 removed',
        'wire B.SDA to X.SD0 added',
        'wire A.SDA to X.SD1 added',
      ],
    },
    {
      title: 'one line on a channel, the other on the bus before the switch',
      ...behindSwitch('A.SDA X.SD0, A.SCL MCU.22'),
      says: ['fault: SCL and SDA of A lie on different channels: SCL on MCU.GPIO22 and SDA on X.SD0.'],
      fix: 'Move A.SCL to X.SC0',
      changes: ['wire A.SCL to MCU.GPIO22 removed', 'wire A.SCL to X.SC0 added'],
    },
    {
      title: 'lines of one channel, exchanged',
      ...behindSwitch('A.SDA X.SC3, A.SCL X.SD3'),
      says: ['fault: SCL and SDA of A are swapped.'],
      fix: 'Swap the wires of A.SCL and A.SDA',
      changes: [
        'wire A.SDA to X.SC3 removed',
        'wire A.SCL to X.SD3 removed',
        'wire A.SCL to X.SC3 added',
        'wire A.SDA to X.SD3 added',
      ],
    },
    {
      title: 'a receiver on the ports of two senders of a bridge',
      parts: { H: 'sc16is752', G: 'gps-uart' },
      wires: 'H.VCC MCU.3V3, H.GND MCU.GND, H.I2C MCU.3V3, H.SDA MCU.21, H.SCL MCU.22, G.TX H.RXA, G.RX H.TXB',
      says: ['fault: RX and TX of G lie on different channels: RX on H.RXA and TX on H.TXB.'],
    },
  ],
})
