/** Headings of the Shelf for kinds of parts, in its order. */
export const categoryTitles: Readonly<Record<string, string>> = {
  sensor: 'Sensors',
  input: 'Switches and keys',
  display: 'Displays',
  light: 'Lights',
  radio: 'Radios and readers',
  expander: 'Expanders',
  bus: 'Bus parts',
  driver: 'Drivers',
  load: 'Loads',
  storage: 'Storage',
  clock: 'Clocks',
  passive: 'Passives',
  power: 'Power',
}
