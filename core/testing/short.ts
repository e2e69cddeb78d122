/** What the tables of wirings say again and again. */

/** A pack of batteries called PACK, in volts and milliamperes. */
export const pack = (volts: number, limitMilliamps = 5000) => ({ PACK: { volts, limitMilliamps } })
export const led = (colour = 'red') => ({ part: 'led', options: { colour } })
export const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
export const cap = (farads: number, kind = 'electrolytic', volts = 25) => ({
  part: 'capacitor',
  options: { farads, kind, volts },
})
/** A motor by its running and its stall current in milliamperes. */
export const motor = (milliamps = 200, stall = 800) => ({ part: 'dc-motor', options: { milliamps, stall } })
/** Parts fed with VCC at the board's 5 V. */
export const five = (...refs: string[]): string => refs.map((ref) => `${ref}.VCC MCU.5V, ${ref}.GND MCU.GND`).join(', ')
/** Parts on one I2C bus. */
export const i2c = (sda: string, scl: string, ...refs: string[]): string =>
  refs.map((ref) => `${ref}.SDA MCU.${sda}, ${ref}.SCL MCU.${scl}`).join(', ')
/** Ground of pack and board in common. */
export const gnd = 'PACK.- MCU.GND'
