import { expect, it } from 'vitest'
import { catalog } from '../testing/plans.ts'
import { boardFacts, countingHint } from './boardFacts.ts'
import { makeCatalog, readBoard, readPart } from './catalog.ts'
import { lintCatalog } from './lint.ts'
import { editDistance } from './names.ts'

const facts = (id: string) => boardFacts(catalog.boards.get(id)!)

it('has nothing that can be proved wrong', () => {
  expect(lintCatalog(catalog)).toEqual([])
})

it('notices what can be proved wrong', () => {
  const board = structuredClone(catalog.boards.get('uno-r3')!)
  board.controllers[0]!.pins!.sda = ['A9']
  board.headers[0]!.pins.push('A0')
  const part = structuredClone(catalog.parts.get('bme280')!)
  part.supplies[0]!.least = 9
  part.sources = []
  part.footprint = {
    kind: 'in-line',
    pins: ['VCC', 'GND', 'SCLX'],
    posts: 'plug',
    apart: [{ pins: ['VCC'], posts: 'pads' }],
  }
  part.footprints = [{ when: { option: 'size', is: ['small'] }, footprint: part.footprint }]
  const bare = structuredClone(catalog.parts.get('bh1750')!)
  bare.modes[0]!.i2c!.addresses = { fixed: [], shared: [] }
  bare.signals = [
    { ...bare.modes[0]!.signals[0]!, pin: 'ADDR', when: { option: 'kind', is: ['a'] } },
    { ...bare.modes[0]!.signals[0]!, pin: 'ADDR', when: { option: 'kind', is: ['a', 'b'] } },
  ]
  const said = lintCatalog(makeCatalog([board], [part, bare]))
  expect(said).toEqual(
    expect.arrayContaining([
      'uno-r3: i2c0.sda names A9, which is no pin',
      'uno-r3: pin A0 lies on header POWER and on AN',
      'bme280: has no sources',
      'bme280: supply range ends before it starts',
      'bme280: footprint names SCLX, which is no pin',
      'bme280: the footprint names a pin twice',
      'bme280: a footprint hangs on size, which is no option',
      'bh1750: mode i2c has no address; expected one such as 0x3C, or an option that gives it',
      'bh1750: mode i2c uses ADDR twice',
    ]),
  )
})

it.each([
  ['posts that fit', 'bme280', { along: 15.5, across: 11 }, undefined],
  ['posts that are longer', 'bme280', { along: 12, across: 11 }, 'a row of 6 posts, 12.7 mm long'],
  ['posts that begin too late', 'bme280', { along: 15.5, across: 11, first: 3 }, 'a row of 6 posts, 12.7 mm long'],
  ['two rows', 'a4988', { along: 20.3, across: 15 }, 'an outline is for one row of posts'],
] as const)('an outline holds its row of posts: %s', (_, id, outline, wrong) => {
  const part = { ...structuredClone(catalog.parts.get(id)!), outline }
  const said = lintCatalog(makeCatalog([], [part])).filter((one) => one.includes('outline'))
  expect(said.length).toBe(wrong === undefined ? 0 : 1)
  if (wrong !== undefined) expect(said[0]).toContain(wrong)
})

it.each([
  ['the rail that it is made of', { '3V3': '5V' }, undefined],
  ['none', { '3V3': '9V' }, 'rail 3V3 comes through 9V, which is no rail of the board'],
  ['itself', { '3V3': '3V3' }, 'rail 3V3 comes through itself'],
  ['itself over another', { '3V3': '5V', '5V': '3V3' }, 'rail 5V comes through itself'],
])('a rail comes through %s', (_, through: Readonly<Record<string, string>>, wrong) => {
  const board = structuredClone(catalog.boards.get('uno-r3')!)
  const rails = board.rails.map((rail) => ({ ...rail, through: through[rail.id] }))
  const said = lintCatalog(makeCatalog([{ ...board, rails }], []))
  expect(said.filter((one) => one.includes('comes through'))[0]).toEqual(
    wrong === undefined ? undefined : expect.stringContaining(wrong),
  )
})

it.each([
  [50, []],
  [49, ['uno-r3: takes less at peaks than as a rule']],
])('a board that takes 50 mA as a rule takes %d at peaks', (peak, wrong) => {
  const board = structuredClone(catalog.boards.get('uno-r3')!)
  const said = lintCatalog(makeCatalog([{ ...board, own: { typical: 50, peak, why: 'so' } }], []))
  expect(said.filter((one) => one.includes('at peaks'))).toEqual(wrong)
})

it.each([
  ['its own', { plus: ['5V', '3V3'], minus: 'GND' }, undefined],
  ['one that is none', { plus: ['5V', '9V'], minus: 'GND' }, 'overRails names 9V, of which the footprint has none'],
  ['a ground as plus', { plus: ['GND'], minus: 'GND' }, 'overRails feeds the rails from GND, which gives no supply'],
])('a supply over the rails has pins of its own: %s', (_, overRails, wrong) => {
  const part = structuredClone(catalog.parts.get('breadboard-supply')!)
  const said = lintCatalog(makeCatalog([], [{ ...part, footprint: { ...part.footprint, overRails } as never }]))
  expect(said.filter((one) => one.includes('overRails'))[0]).toEqual(
    wrong === undefined ? undefined : expect.stringContaining(wrong),
  )
})

it.each([
  ['uno-r3', 'PB5', ['D13']],
  ['uno-r3', '~9', ['D9']],
  ['uno-r3', '9', ['D9']],
  ['uno-r3', 'sda', ['A4.2']],
  ['uno-r3', 'LOW#1', ['D7']],
  ['uno-r3', 'gnd', ['GND']],
  ['uno-r3', '#1', ['NC', 'A0', 'A5.2', 'D7', 'D12.2']],
  ['esp32-devkit-30', 'gpio4', ['GPIO4']],
  ['esp32-devkit-30', 'D4', ['GPIO4']],
  ['esp32-devkit-30', 'VSPI_MOSI', ['GPIO23']],
  ['esp32-devkit-30', 'ADC1_CH6', ['GPIO34']],
  ['esp32-devkit-30', 'tx2', ['GPIO17']],
  ['esp32-devkit-38', '2', ['GPIO2']],
  ['esp32-devkit-38', 'D2', ['GPIO9']],
  ['pico', '#21', ['GP16']],
  ['pico', '21', ['GP21']],
  ['pi-40', 'J8#11', ['GPIO17']],
  ['pi-40', '#40', ['GPIO21']],
  ['pi-40', '17', ['GPIO17']],
  ['pi-40', 'CE0', ['GPIO8']],
  ['pi-40', 'nonsense', []],
])('finds %s %s', (board, name, ids) => {
  expect(facts(board).names.find(name)).toEqual(ids)
})

it('counts holes as fingers do', () => {
  const hint = (board: string, pin: string): string => countingHint(facts(board).pin(pin)!)
  expect(hint('pi-40', 'GPIO4')).toBe('row 4, left column, counted from the square pad')
  expect(hint('esp32-devkit-30', 'GPIO13')).toBe('left row, 3rd from the USB end')
  expect(hint('esp32-devkit-30', 'GPIO36')).toBe('left row, 2nd from the antenna end')
})

it('expands functions: fixed pins, matrices and joined holes', () => {
  expect(facts('uno-r3').pin('A4.2')?.functions).toContain('i2c0.sda')
  expect(facts('uno-r3').pin('D5')?.functions.has('i2c0.sda')).toBe(false)
  expect(facts('esp32-devkit-30').pin('GPIO34')?.functions.has('spi3.miso')).toBe(true)
  expect(facts('esp32-devkit-30').pin('GPIO34')?.functions.has('spi3.mosi')).toBe(false)
  expect(facts('esp32-devkit-30').pin('GPIO32')?.functions).toContain('uart1.tx')
})

it('names file, line and key of a broken entry', () => {
  const board = readBoard('catalog: 1\nid: X Y\n', 'b.yaml')
  expect(!board.ok && board.problems[0]).toMatchObject({ file: 'b.yaml', line: 2, path: 'id' })
  const part = readPart('catalog: 1\nid: x\nlevels: { logic: { vih: "0.7 VCC" } }\n', 'p.yaml')
  expect(!part.ok && part.problems.find((one) => one.path === 'levels.logic.vih')).toMatchObject({ line: 3 })
})

it('measures slips', () => {
  expect(editDistance('lroa', 'lora')).toBe(1)
  expect(editDistance('', 'abc')).toBe(3)
  expect(editDistance('same', 'same')).toBe(0)
})
