import type { Driver } from '../../catalog/driverSchema.ts'

/**
 * Drivers with their classes and modules under all names by which a program writes them: a library's author may have put
 * a word before, with an underscore between.
 */
export function asWritten(drivers: readonly Driver[], files: readonly { readonly text: string }[]): Driver[] {
  const text = files.map((file) => file.text).join('\n')
  const names = (name: string, first: string): string[] => {
    const found = text.matchAll(new RegExp(`\\b${first}\\w*_${name}\\b`, 'g'))
    return [...new Set([name, ...Array.from(found, ([written]) => written)])].filter(
      (one) => one === name || !new RegExp(`\\b(?:class|struct)\\s+${one}\\b`).test(text),
    )
  }
  return drivers.flatMap((driver) => {
    if (!driver.prefixed) return [driver]
    const { python } = driver
    if (python) return names(python.module, '[a-z]').map((module) => ({ ...driver, python: { ...python, module } }))
    return [{ ...driver, classes: driver.classes.flatMap((name) => names(name, '[A-Z]')) }]
  })
}
