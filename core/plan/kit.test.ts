import { describe, expect, it } from 'vitest'
import { kitReader } from '../catalog/kitText.ts'
import { catalog } from '../testing/plans.ts'
import { applyEdits } from './edit.ts'
import { addKit } from './kit.ts'
import { inContext } from './kitContext.ts'
import { emptyPlan, type Plan } from './planSchema.ts'

const read = kitReader([...catalog.boards.values()], [...catalog.parts.values()])
/** A plan after lines were typed one after the other. */
const typed = (...lines: readonly string[]): Plan =>
  lines.reduce((plan, line) => {
    const { edits } = addKit(plan, catalog, inContext(read(line), plan, catalog))
    return applyEdits(plan, edits)
  }, emptyPlan('kit'))
/** `led, resistor 220`: what lies in the plan, with its amounts. */
const partsOf = ({ parts }: Plan): string =>
  Object.values(parts)
    .map(({ part, options }) => [part, options?.ohms ?? options?.volts].filter((one) => one !== undefined).join(' '))
    .join(', ')

describe('radios of several boards', () => {
  const homes = (...lines: readonly string[]): string =>
    Object.entries(typed(...lines).parts)
      .map(([ref, { on }]) => `${ref} ${on ?? '-'}`)
      .join(', ')
  it.each([
    ['go to one each', ['uno, nano, 2 nrf24l01'], 'RADIO1 MCU, RADIO2 MCU2'],
    ['as do the halves of a pair', ['uno, nano, 433mhz transmitter and receiver'], 'SENDER MCU, RECEIVER MCU2'],
    ['stay on one board', ['uno, 2 nrf24l01'], 'RADIO1 -, RADIO2 -'],
    ['are left open where there are fewer', ['uno, nano, nrf24l01'], 'RADIO -'],
    ['and other parts are', ['uno, nano, 2 bme280'], 'CLIMATE1 -, CLIMATE2 -'],
  ] as const)('%s', (_, lines, there) => {
    expect(homes(...lines)).toBe(there)
  })
})

describe('what hangs on another part and is in no plan', () => {
  it.each([
    ['is the part that reads it, by itself', ['load cell'], 'hx711'],
    ['is nothing more beside that', ['5kg load cell, hx711'], 'hx711'],
    ['in whatever order', ['hx711, load cell'], 'hx711'],
    ['or where another one reads it', ['k type thermocouple, max6675'], 'max6675'],
    ['that lies there already', ['max6675', 'thermocouple'], 'max6675'],
    ['by the first words of what it is called', ['max31865, pt100'], 'max31865'],
    ['each with its own', ['thermocouple, load cell'], 'max31855, hx711'],
    ['and two that read are two', ['hx711, hx711'], 'hx711, hx711'],
  ] as const)('%s', (_, lines, there) => {
    expect(partsOf(typed(...lines))).toBe(there)
  })
})

describe('digits with a transistor each bring the resistors of one', () => {
  const resistors = (...lines: readonly string[]): number =>
    partsOf(typed(...lines))
      .split(', ')
      .filter((one) => one === 'resistor 330').length
  it.each([
    ['of one kit', ['nano, 2 npn, 2 seven segment displays'], 7],
    ['also where the transistors lie there already', ['nano', '2 npn', '2 seven segment displays'], 7],
    ['not without them', ['nano, 2 seven segment displays'], 14],
    ['nor where a load wants one of them', ['nano, 2 npn, pump, 2 seven segment displays'], 14],
    ['but what only a bridge turns wants none', ['nano, 2 npn, nema17, 2 seven segment displays'], 7],
    ['nor what an array is there for', ['nano, 2 npn, pump, uln2003, 2 seven segment displays'], 7],
    ['unless a relay is there for it', ['nano, 2 npn, pump, relay, 2 seven segment displays'], 7],
  ] as const)('%s', (_, lines, count) => {
    expect(resistors(...lines)).toBe(count)
  })
})

describe('a load of which nobody says the volts is made for the supply that comes with it', () => {
  it.each([
    ['a pump with an adapter', ['esp32, relay, pump, 12v adapter'], 'relay-1, pump 12, dc-socket 12'],
    ['whichever came first', ['12v adapter', 'pump'], 'dc-socket 12, pump 12'],
    ['not where it is said', ['5v pump, 12v adapter'], 'pump 5, dc-socket 12'],
    ['where none is labelled so, one that bears it', ['pump, 9v battery'], 'pump 12, battery-box 9'],
    [
      'but not behind a bridge, which keeps some of it',
      ['l298n, dc motor, 9v battery'],
      'l298n, dc-motor, battery-box 9',
    ],
    ['nor where none is made for so much', ['pump, 24v adapter'], 'pump, dc-socket 24'],

    ['nor where a converter makes less of it', ['pump, 12v adapter, buck'], 'pump, dc-socket 12, buck'],
    ['nor where two supplies are there', ['pump, 12v adapter, 5v adapter'], 'pump, dc-socket 12, dc-socket 5'],
    ['nor where it is usual anyway', ['solenoid, 12v adapter'], 'solenoid, dc-socket 12'],
    ['also beside a driver that gives 5 V to others', ['l298n, fan, 12v adapter'], 'l298n, fan 12, dc-socket 12'],
    [
      'by what is printed on a full battery as well',
      ['l298n, dc motor, 11.1v lipo'],
      'l298n, dc-motor 12, battery-box 12.6',
    ],
    ['at the least that it bears', ['fan, 7v adapter'], 'fan 12, dc-socket 7'],
    ['not below', ['fan, 6v adapter'], 'fan, dc-socket 6'],
    ['at the most that it bears', ['pump, 14v adapter'], 'pump 12, dc-socket 14'],
    ['not above', ['pump, 15v adapter'], 'pump, dc-socket 15'],
    ['and not what drives', ['l298n, 12v adapter'], 'l298n, dc-socket 12'],
  ] as const)('%s', (_, lines, there) => {
    expect(partsOf(typed(...lines))).toBe(there)
  })
})

describe('what has just the value that one part wants is kept for that', () => {
  it.each([
    ['whichever comes first', ['ir led, transistor, 100 ohm, 1k'], 'led, npn, resistor 100, resistor 1000'],
    ['and two for two', ['led, 2 npn, 330 ohm, 2 1k'], 'led, npn, npn, resistor 330, resistor 1000, resistor 1000'],
    ['where nobody wants it so, the nearest does', ['led, 470 ohm'], 'led, resistor 470'],
  ] as const)('%s', (_, lines, there) => {
    expect(partsOf(typed(...lines))).toBe(there)
  })
})

describe('lights are switched as a whole where their supply is too much for lights with chips', () => {
  it.each([
    ['a tape of lights with a transistor', ['uno, led strip, 12v supply, mosfet'], 'strip-12v, dc-socket 12, nmos'],
    ['not without the transistor', ['uno, led strip, 12v supply'], 'ws2812-strip, dc-socket 12'],
    ['nor where the supply suits the chips', ['uno, led strip, 5v supply, mosfet'], 'ws2812-strip, dc-socket 5, nmos'],
    [
      'nor where a converter makes less',
      ['led strip, 12v supply, buck, mosfet'],
      'ws2812-strip, dc-socket 12, buck, nmos',
    ],
    ['nor where the chips are named', ['uno, ws2812 strip, 12v supply, mosfet'], 'ws2812-strip, dc-socket 12, nmos'],
  ] as const)('%s', (_, lines, there) => {
    expect(partsOf(typed(...lines))).toBe(there)
  })
})

describe('a display is the one whose small parts come with the kit', () => {
  it.each([
    ['with the knob for its contrast', ['uno, lcd 1602, 10k pot'], 'lcd-parallel, potentiometer 10000'],
    ['by whatever name', ['uno, lcd, contrast knob'], 'lcd-parallel, potentiometer'],
    ['where a knob could not be read', ['pi, lcd 16x2, potentiometer'], 'lcd-parallel, potentiometer'],
    [
      'or the resistor of its light is there',
      ['uno, lcd 16x2, potentiometer, 220 ohm'],
      'lcd-parallel, potentiometer, resistor 220',
    ],
    [
      'unless that is for a lamp',
      ['uno, lcd 16x2, potentiometer, led, 220 ohm'],
      'lcd-i2c, potentiometer, led, resistor 220',
    ],
    [
      'or far from what its light wants',
      ['uno, lcd 16x2, potentiometer, 10k'],
      'lcd-i2c, potentiometer, resistor 10000',
    ],
    ['and not where it may be there to be turned', ['uno, lcd 16x2, potentiometer'], 'lcd-i2c, potentiometer'],
    ['nor with several', ['uno, lcd 16x2, 2 10k potentiometers'], 'lcd-i2c, potentiometer 10000, potentiometer 10000'],
    ['nor where its backpack is named', ['uno, lcd 16x2 i2c, 10k pot'], 'lcd-i2c, potentiometer 10000'],
    ['nor one of another kind', ['uno, oled, 10k pot'], 'ssd1306, potentiometer 10000'],
  ] as const)('%s', (_, lines, there) => {
    expect(partsOf(typed(...lines))).toBe(there)
  })
})

describe('what a part cannot do without', () => {
  it.each([
    ['comes with it', ['led'], 'led, resistor 330'],
    ['is what the kit brings itself', ['led, 220 ohm resistor'], 'led, resistor 220'],
    ['whichever is named first', ['220 ohm resistor, led'], 'led, resistor 220'],
    [
      'with the value that is wanted, where none is said',
      ['3 resistors, 2 leds'],
      'led, led, resistor 330, resistor 330, resistor',
    ],
    ['as far as it reaches', ['2 leds, 220 ohm resistor'], 'led, led, resistor 330, resistor 220'],
    ['or what was there before', ['470 ohm resistor', 'led'], 'resistor 470, led'],
    ['not what is for something else', ['led, 10k resistor'], 'led, resistor 330, resistor 10000'],
    ['the nearest in value', ['ldr, led, 330 ohm resistor, 10k resistor'], 'ldr, led, resistor 330, resistor 10000'],
    ['not what has its place already', ['led', 'led'], 'led, resistor 330, led, resistor 330'],
    ['not another kind of thing', ['led, 100 nF capacitor'], 'led, resistor 330, capacitor'],
  ] as const)('%s', (_, lines, there) => {
    expect(partsOf(typed(...lines))).toBe(there)
  })
})

describe('words that several parts answer to mean what works on this table', () => {
  it.each([
    ['stepper motor', 'stepper-28byj48'],
    ['stepper motor, a4988', 'stepper-bipolar, a4988'],
    ['2 drv8825, 2 stepper motors', 'drv8825, drv8825, stepper-bipolar, stepper-bipolar'],
    ['stepper motor, uln2003 driver board', 'stepper-28byj48, uln2003-board'],
    ['28byj48, a4988', 'stepper-28byj48, a4988'],
    ['microphone', 'inmp441'],
    ['uno, microphone', 'mic-max4466'],
    ['esp32, microphone', 'inmp441'],
    ['uno, inmp441', 'inmp441'],
    ['raspberry pi, sound sensor', 'inmp441'],
    ['raspberry pi, light sensor', 'bh1750'],
    ['raspberry pi, ads1115, ldr', 'ads1115, ldr'],
  ])('%s', (line, there) => {
    const plan = typed(line)
    expect(
      Object.values(plan.parts)
        .map(({ part }) => part)
        .filter((part) => part !== 'capacitor' && part !== 'resistor')
        .join(', '),
    ).toBe(there)
  })

  it('also beside what was there before, and what was understood first is offered', () => {
    const plan = typed('a4988')
    const [item] = inContext(read('2 stepper motors'), plan, catalog)
    expect(item?.found).toMatchObject({ kind: 'part', entry: { id: 'stepper-bipolar' } })
    expect(item?.others[0]?.id).toBe('stepper-28byj48')
    expect(item?.count).toBe(2)
  })
})
