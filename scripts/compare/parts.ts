import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Catalog } from '../../core/catalog/catalog.ts'
import type { Part } from '../../core/catalog/partSchema.ts'
import type { Compared, Comparison } from './comparison.ts'
import { KERNEL } from './packages.ts'

/** Addresses of parts against drivers and device trees. */

/** Chips behind entries whose id is not the chip's name. */
const CHIPS: Readonly<Record<string, readonly string[]>> = {
  aht20: ['aht20', 'aht10'],
  at24c32: ['24c32', 'at24c32'],
  at24c256: ['24c256', 'at24c256'],
  ens160: ['ens160', 'aht21'],
  si7021: ['si7021', 'si7020'],
  htu21d: ['htu21', 'htu21d'],
  'lcd-i2c': ['pcf8574'],
  mpu6050: ['mpu6050'],
}

/** Names under which drivers may know the chip of an entry. */
function chipNames(part: Part): readonly string[] {
  return CHIPS[part.id] ?? [part.id.replace(/-.*$/, '')]
}

const hex = (address: number) => `0x${address.toString(16).padStart(2, '0')}`

/** All addresses that an entry can have. */
function addresses(part: Part): Set<string> {
  const found = new Set<string>()
  for (const { i2c } of part.modes) {
    if (i2c === undefined) continue
    for (const address of [...i2c.addresses.fixed, ...i2c.addresses.shared]) found.add(hex(address))
    const option = part.options.find(({ id }) => id === i2c.addresses.option)
    for (const { value } of option?.values ?? []) found.add(hex(Number(value)))
  }
  return found
}

/**
 * Ours against addresses that a source uses: a source rarely names them all, so only those of its own are facts.
 */
function usedAddresses(catalog: Catalog, known: ReadonlyMap<string, ReadonlySet<string>>): Compared[] {
  return [...catalog.parts.values()].flatMap((part): Compared[] => {
    const mine = addresses(part)
    if (mine.size === 0) return []
    const theirs = new Set(chipNames(part).flatMap((chip) => [...(known.get(chip) ?? [])]))
    if (theirs.size === 0) return []
    return [{ entry: part.id, ours: new Set([...mine].filter((one) => theirs.has(one))), theirs }]
  })
}

function filesBelow(folder: string, ending: RegExp): string[] {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((one) => one.isFile() && ending.test(one.name))
    .map((one) => join(one.parentPath, one.name))
}

/** Addresses of chips in the text of a device tree or of an example: nodes with `compatible` and `reg`. */
export function treeAddresses(text: string): [chip: string, address: string][] {
  const found: [string, string][] = []
  for (const node of text.matchAll(/\w[\w-]*@([0-9a-f]{1,2})\s*\{([^{}]*)/g)) {
    const reg = /\breg\s*=\s*<\s*(0x[0-9a-f]{1,2}|\d{1,3})\s*>/i.exec(node[2] ?? '')
    const compatible = /\bcompatible\s*=\s*([^;]+);/.exec(node[2] ?? '')?.[1] ?? ''
    if (reg === null) continue
    const address = Number(reg[1])
    // Numbers below eight are selects of SPI devices and channels of switches, not addresses of this bus.
    if (address < 8 || address > 0x77) continue
    for (const name of compatible.matchAll(/"[\w-]+,([\w-]+)"/g)) found.push([name[1] ?? '', hex(address)])
  }
  return found
}

export const kernelAddresses: Comparison = {
  id: 'kernel-addresses',
  from: KERNEL,
  source: 'device trees and bindings of the kernel',
  facts: 'I2C addresses at which the kernel finds the chip are among ours',
  quick: false,
  run(folder, catalog) {
    const known = new Map<string, Set<string>>()
    const places = ['Documentation/devicetree/bindings', 'arch/arm/boot/dts', 'arch/arm64/boot/dts']
    for (const place of places)
      for (const file of filesBelow(join(folder, place), /\.(ya?ml|txt|dtsi?)$/))
        for (const [chip, address] of treeAddresses(readFileSync(file, 'utf8')))
          known.set(chip, (known.get(chip) ?? new Set()).add(address))
    return usedAddresses(catalog, known)
  },
}

/** Default addresses in a library of drivers: a chip's name and the list that follows it. */
export function driverAddresses(text: string): [chip: string, address: string][] {
  return [...text.matchAll(/\n\s*([A-Z][A-Z0-9_]{3,}): \{\s*\n\s*ADDRESSES: \{\s*\n?\s*value: \[([^\]]*)\]/g)].flatMap(
    ([, chip, list]) =>
      [...(list ?? '').matchAll(/0x([0-9a-f]+)/gi)].map((one): [string, string] => [
        (chip ?? '').toLowerCase(),
        hex(Number.parseInt(one[1] ?? '', 16)),
      ]),
  )
}

export const libraryAddresses: Comparison = {
  id: 'library-addresses',
  from: { kind: 'npm', name: 'johnny-five', version: '2.1.0' },
  source: 'default addresses in a hardware library',
  facts: 'the default I2C address is among ours',
  quick: true,
  run(folder, catalog) {
    const known = new Map<string, Set<string>>()
    for (const file of filesBelow(join(folder, 'lib'), /\.js$/))
      for (const [chip, address] of driverAddresses(readFileSync(file, 'utf8')))
        known.set(chip, (known.get(chip) ?? new Set()).add(address))
    if (known.size < 20) throw new Error(`${known.size} chips found`)
    return usedAddresses(catalog, known)
  },
}
