/**
 * The entry of a map under a name that somebody wrote. A plain look-up would find what every object inherits
 * (`toString`, `constructor`) under a name that the map does not have.
 */
export function entryOf<T>(map: Readonly<Record<string, T>> | undefined, name: string): T | undefined {
  return map !== undefined && Object.hasOwn(map, name) ? map[name] : undefined
}
