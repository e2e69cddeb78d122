/** True for a colour on which white letters read better than black ones, by its relative luminance (WCAG 2.2). */
export function isDark(colour: string): boolean {
  const channels = [1, 3, 5].map((at) => {
    const value = Number.parseInt(colour.slice(at, at + 2), 16) / 255
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4
  })
  const [red, green, blue] = channels as [number, number, number]
  const luminance = 0.2126 * red + 0.7152 * green + 0.0722 * blue
  return 1.05 / (luminance + 0.05) > (luminance + 0.05) / 0.05
}
