/** Frame of a hobby servo in microseconds: 50 Hz. */
export const SERVO_FRAME = 20_000

/** Pulse in microseconds for an angle, linear between the two end pulses over `span` degrees. */
export const servoPulse = (degrees: number, span: number, least: number, most: number): number =>
  least + ((most - least) * Math.max(0, Math.min(span, degrees))) / span

/** Speed of sound in air in metres a second: 331.3 + 0.606 for each degree Celsius. */
export const soundSpeed = (celsius: number): number => 331.3 + 0.606 * celsius

/** Time of an echo there and back, in microseconds, for a distance in metres: t = 2 · d / c. */
export const echoMicroseconds = (metres: number, celsius: number): number => ((2 * metres) / soundSpeed(celsius)) * 1e6
