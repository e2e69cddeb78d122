import { expect, it } from 'vitest'
import { catalog } from '../../testing/plans.ts'
import { asWritten } from './writtenNames.ts'

const classes = (text: string, id: string): readonly string[] =>
  asWritten(catalog.drivers, [{ text }]).find((driver) => driver.id === id)!.classes

it.each([
  ['Barn_SSD1306 door(128, 64);', 'dot-display', ['SSD1306', 'Barn_SSD1306']],
  ['SSD1306 door(128, 64);', 'dot-display', ['SSD1306']],
  // A class of the program's own, a variable, and a longer name are not it.
  ['class Barn_SSD1306 {}; Barn_SSD1306 door;', 'dot-display', ['SSD1306']],
  ['SSD1306 my_SSD1306(128, 64); Barn_SSD1306_Big two;', 'dot-display', ['SSD1306']],
  // A driver whose name nobody puts a word before.
  ['Barn_DHT air(2, 22);', 'dht', ['DHT']],
] as const)('%s', (text, id, wanted) => {
  expect(classes(text, id)).toEqual(wanted)
})

it('a module of Python is there under each of its names', () => {
  const found = asWritten(catalog.drivers, [{ text: 'import barn_dht\nimport loft_dht' }])
  const modules = found.filter(({ id }) => id === 'python-dht-property').map(({ python }) => python!.module)
  expect(modules).toEqual(['dht', 'barn_dht', 'loft_dht'])
})
