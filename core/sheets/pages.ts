import { type TableName, tableNames } from './tables.ts'

/** Pages that are no plain table. */
const figureNames = ['cover', 'drawing', 'build', 'chart', 'strips'] as const
export type FigureName = (typeof figureNames)[number]
export type PageName = TableName | FigureName

/** Every page, in the order in which they print. */
export const pageNames: readonly PageName[] = [
  'cover',
  'wiring',
  'drawing',
  'build',
  'chart',
  'legs',
  'leads',
  'parts',
  'jumpers',
  'supplies',
  'addresses',
  'steps',
  'pins',
  'strips',
  'labels',
]

export const isTable = (name: PageName): name is TableName => (tableNames as readonly string[]).includes(name)

export const pageTitles: Readonly<Record<PageName, string>> = {
  cover: 'Cover',
  wiring: 'Wiring table',
  drawing: 'Breadboard drawing',
  build: 'Drawing of each step',
  chart: 'Pin chart',
  legs: 'Legs in their holes',
  leads: 'Cables and their leads',
  parts: 'Parts',
  jumpers: 'Jumper wires',
  supplies: 'Supplies',
  addresses: 'I2C addresses',
  steps: 'Build steps',
  pins: 'Pin table',
  strips: 'Strips for the posts',
  labels: 'Labels for wires',
}

/** Pages that a maker takes along unless told otherwise. */
export const usualPages: readonly PageName[] = [
  'cover',
  'wiring',
  'drawing',
  'chart',
  'legs',
  'leads',
  'parts',
  'jumpers',
]

/** Pages that show something only once there is a breadboard. */
export const benchPages: readonly PageName[] = ['drawing', 'build', 'legs']
