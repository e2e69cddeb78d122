/** `1 wire`, `2 wires`: an amount with its word; `many` where more is not just an `s`. */
export const counted = (amount: number, one: string, many = `${one}s`): string =>
  `${amount} ${amount === 1 ? one : many}`
