import { describe, expect, it } from 'vitest'
import { parse, stringify } from 'yaml'
import { catalog } from '../testing/plans.ts'
import { withForm } from './formText.ts'
import { readOwnEntry } from './ownEntry.ts'
import { emptyForm, formOf, idOf, isPlain, type PartForm, readPinNames, renamedPins } from './partForm.ts'
import { guessUse } from './pinUses.ts'

const pins = (typed: string) => renamedPins([], typed)
const read = (text: string) => {
  const outcome = readOwnEntry('parts', text, 'line', catalog)
  if (!outcome.ok) return { part: undefined, problems: outcome.problems }
  return { part: outcome.value.kind === 'parts' ? outcome.value.entry : undefined, problems: [] }
}
const light: PartForm = {
  ...emptyForm,
  title: 'Barn light sensor',
  pins: pins('VCC GND SCL SDA INT NC'),
  typical: 0.2,
  peak: 0.5,
  addresses: [0x23, 0x5c],
  pullUpOhms: 10_000,
}

describe('pins as printed', () => {
  it('reads names parted by blanks, commas and lines, and tells doubles apart', () => {
    expect(readPinNames(' VCC, GND\nSCL;SDA GND ')).toEqual(['VCC', 'GND', 'SCL', 'SDA', 'GND.2'])
    expect(readPinNames('  ')).toEqual([])
  })
  it.each([
    ['VCC', 'supply'],
    ['3V3', 'supply'],
    ['GND', 'ground'],
    ['SCL', 'scl'],
    ['TXD', 'tx'],
    ['AO', 'analog'],
    ['INT', 'edge'],
    ['RST', 'driven'],
    ['XYZ', 'level'],
  ])('guesses %s to be %s', (name, use) => {
    expect(guessUse(name, [name, 'GND'])).toBe(use)
  })
  it('takes SCL and SDA of a display with select and reset for SPI', () => {
    const names = ['GND', 'VCC', 'SCL', 'SDA', 'RES', 'DC', 'CS']
    expect(names.map((name) => guessUse(name, names))).toEqual([
      'ground',
      'supply',
      'sck',
      'mosi',
      'driven',
      'driven',
      'cs',
    ])
  })
  it('keeps what was said of pins that stay', () => {
    const set = [{ name: 'OUT', use: 'analog' as const, optional: true }]
    expect(renamedPins(set, 'OUT VCC')).toEqual([...set, { name: 'VCC', use: 'supply', optional: false }])
  })
})

describe('the form and the text', () => {
  it('makes an entry that holds out of nothing but the form', () => {
    const text = withForm('', light, true) as string
    const { part, problems } = read(text)
    expect(problems).toEqual([])
    expect(part?.id).toBe('barn-light-sensor')
    expect(part?.modes[0]?.i2c?.pullUpOhms).toBe(10_000)
    expect(part?.options[0]?.values.map(({ value }) => value)).toEqual([0x23, 0x5c])
    expect(formOf(parse(text))).toEqual(light)
  })
  it.each([
    ['a serial module behind a regulator', 'VIN GND TX RX EN', { levels: 'tolerant' as const, least: 4.5, most: 5.5 }],
    ['a display with two rows', 'VCC GND SCL SDA RES DC CS BL', { build: 'two-row' as const }],
    ['an analog sensor on leads', 'VCC GND AO', { build: 'leads' as const, levels: 'regulated' as const }],
    ['a line of its own', '+ - DATA', {}],
  ])('%s holds and reads back', (title, typed, more) => {
    const form: PartForm = { ...emptyForm, title, pins: pins(typed), typical: 1, peak: 2, ...more }
    const text = withForm('', form, true) as string
    expect(read(text).problems).toEqual([])
    expect(formOf(parse(text))).toEqual(form)
  })
  describe('of every part of the catalogue', () => {
    let plain = 0
    it.each([...catalog.parts.values()])('$id', (part) => {
      const text = stringify(part)
      const raw = parse(text)
      const form = formOf(raw)
      expect(form.pins.map(({ name }) => name)).toEqual(part.pins.map(({ id }) => id))
      // Written back unchanged, a part without levels is given some by the form; nothing else is touched.
      expect({ ...parse(withForm(text, form, false) as string), levels: undefined }).toEqual({
        ...raw,
        levels: undefined,
      })
      // With a pin changed it loses nothing of what the form cannot say.
      const turned = form.pins.map((pin, at) => (at === 0 ? { ...pin, optional: !pin.optional } : pin))
      const back = parse(withForm(text, { ...form, pins: turned, title: 'Other' }, false) as string)
      expect(back.title).toBe('Other')
      const facts = (one: typeof raw) => [...one.signals, ...one.modes.flatMap((mode: typeof raw) => mode.signals)]
      const named = (one: typeof raw) =>
        facts(one)
          .map(({ pin, needs }: typeof raw) => `${pin} ${needs}`)
          .sort()
      expect(named(back)).toEqual(named(raw))
      expect(back.options).toEqual(raw.options)
      expect(back.modes.map(({ i2c }: typeof raw) => i2c?.addresses)).toEqual(
        raw.modes.map(({ i2c }: typeof raw) => i2c?.addresses),
      )
      if (isPlain(raw)) plain += 1
      else expect({ ...back, title: raw.title, levels: raw.levels }).toEqual(raw)
    })
    it('most are plain', () => expect(plain).toBeGreaterThan(100))
  })
  it('is not enough for addresses and pull-ups of their own', () => {
    expect(isPlain(parse(stringify(catalog.parts.get('bme280'))))).toBe(false)
    expect(isPlain(parse(stringify(catalog.parts.get('dht22'))))).toBe(false)
  })
  it('keeps the titles of straps that stay', () => {
    const text = (withForm('', light, true) as string).replace('{ value: 0x23 }', '{ value: 0x23, title: ADDR low }')
    const more = parse(withForm(text, { ...light, addresses: [0x5c, 0x23, 0x24] }, true) as string)
    expect(more.options[0]).toMatchObject({
      usual: 0x5c,
      values: [{ value: 0x5c }, { value: 0x23, title: 'ADDR low' }, { value: 0x24 }],
    })
    const one = parse(withForm(text, { ...light, addresses: [0x23] }, true) as string)
    expect([one.options, one.modes[0].i2c.addresses]).toEqual([[], { fixed: [0x23] }])
    // A part that answers to several at once goes on doing so.
    const both = stringify(catalog.parts.get('ds1307'))
    const added = parse(withForm(both, { ...formOf(parse(both)), addresses: [0x68, 0x50, 0x51] }, false) as string)
    expect([added.options, added.modes[0].i2c.addresses.fixed]).toEqual([[], [0x68, 0x50, 0x51]])
  })
  it('leaves remarks and all that it does not know', () => {
    const text = (withForm('', light, true) as string)
      .replace('title:', '# of the barn\ntitle:')
      .replace('{ id: SCL,', '{ id: SCL, aliases: [CLK],')
      .concat('notes:\n  - Keep it dry.\n')
    const moved = withForm(
      text,
      { ...formOf(parse(text)), title: 'Stable light', pins: pins('GND VCC SDA SCL INT') },
      true,
    )
    expect(moved).toContain('# of the barn')
    expect(moved).toContain('Keep it dry.')
    const { part, problems } = read(moved as string)
    expect(problems).toEqual([])
    expect(part?.id).toBe('stable-light')
    expect(part?.pins.find(({ id }) => id === 'SCL')?.aliases).toEqual(['CLK'])
    expect(part?.footprint).toMatchObject({ pins: ['GND', 'VCC', 'SDA', 'SCL', 'INT'] })
  })
  it('lets an id go its own way once it was set, and keeps that of an entry that exists', () => {
    const own = (withForm('', light, true) as string).replace('id: barn-light-sensor', 'id: mine')
    const renamed = { ...light, title: 'Other' }
    expect(parse(withForm(own, renamed, true) as string).id).toBe('mine')
    expect(parse(withForm(withForm('', light, true) as string, renamed, false) as string).id).toBe('barn-light-sensor')
    expect(idOf('  ÄÖ!! ')).toBe('ao')
    expect(idOf('!!')).toBe('my-part')
  })
  it('changes one thing where one thing was changed', () => {
    const text = withForm('', light, true) as string
    const other = withForm(text, { ...light, most: 5 }, true) as string
    const lines = (one: string) => one.split('\n')
    expect(lines(other).filter((line, at) => line !== lines(text)[at])).toHaveLength(1)
    const optional = light.pins.map((pin) => (pin.name === 'INT' ? { ...pin, optional: true } : pin))
    expect(parse(withForm(text, { ...light, pins: optional }, true) as string).signals[0]).toMatchObject({
      pin: 'INT',
      required: false,
      open: 'Not used.',
    })
  })
  it('has nothing to say to a text that is no entry', () => {
    for (const text of ['- a', 'a: [', 'just words']) expect(withForm(text, light, true)).toBeUndefined()
    expect(formOf('just words')).toEqual(emptyForm)
    expect(formOf({ pins: 3, supplies: 'x', footprint: [] }).pins).toEqual([])
  })
})
