/** Voltage over a shunt and the heat in it: V = I · R, P = I² · R; amperes, ohms, volts, watts. */
export const shunt = (amperes: number, ohms: number): { volts: number; watts: number } => ({
  volts: amperes * ohms,
  watts: amperes ** 2 * ohms,
})

export interface BatteryQuestion {
  /** Capacity on the label in milliampere-hours. */
  readonly capacity: number
  /** Share of it that can be used, 0 to 1. */
  readonly derating: number
  /** Milliamperes while awake and asleep. */
  readonly awake: number
  readonly asleep: number
  /** Share of the time awake, 0 to 1. */
  readonly duty: number
}

/** Mean current in milliamperes and hours until empty: capacity · derating / mean. */
export function batteryLife({ capacity, derating, awake, asleep, duty }: BatteryQuestion): {
  milliamps: number
  hours: number
} {
  const milliamps = awake * duty + asleep * (1 - duty)
  return { milliamps, hours: milliamps <= 0 ? Number.POSITIVE_INFINITY : (capacity * derating) / milliamps }
}
