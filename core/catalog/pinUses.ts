export interface Use {
  readonly title: string
  readonly role: 'supply' | 'ground' | 'signal' | 'free'
  /** Bus to whose mode the signal belongs. */
  readonly bus?: 'i2c' | 'spi' | 'uart'
  readonly signal?: Readonly<Record<string, unknown>> & { readonly needs: string }
  /** Names that are printed beside such pins. */
  readonly printed: RegExp
}

/** What a pin can be, in the order in which the form offers it. */
export const pinUses = {
  supply: { title: 'supply in', role: 'supply', printed: /^(vcc|vdd|vin|vs|v\+|\+|3v3|3\.3v|5v|vbus)$/ },
  ground: { title: 'ground', role: 'ground', printed: /^(gnd|vss|g|-|0v|gnd\.\d)$/ },
  scl: use('I2C clock', 'i2c', { needs: 'i2c.scl', direction: 'in' }, /^scl$/),
  sda: use('I2C data', 'i2c', { needs: 'i2c.sda', direction: 'open-drain' }, /^sda$/),
  sck: use('SPI clock', 'spi', { needs: 'spi.sck', direction: 'in' }, /^(sck|sclk|clk)$/),
  mosi: use('SPI data into the part', 'spi', { needs: 'spi.mosi', direction: 'in' }, /^(mosi|sdi|din|si|copi)$/),
  miso: use('SPI data out of the part', 'spi', { needs: 'spi.miso', direction: 'out' }, /^(miso|sdo|dout|so|cipo)$/),
  cs: use('SPI select', 'spi', { needs: 'spi.cs', direction: 'in' }, /^(cs|csn|nss|ss|ce)$/),
  tx: use('serial, out of the part', 'uart', { needs: 'uart.rx', direction: 'out' }, /^(tx|txd|t)$/),
  rx: use('serial, into the part', 'uart', { needs: 'uart.tx', direction: 'in' }, /^(rx|rxd|r)$/),
  driven: use(
    'level from the board',
    undefined,
    { needs: 'digital-out', direction: 'in' },
    /^(en|rst|reset|res|dc|in\d?|trig|stby|dir|step)$/,
  ),
  pulses: use(
    'pulses from the board (PWM)',
    undefined,
    { needs: 'pwm', orElse: 'digital-out', direction: 'in' },
    /^(pwm|sig|bl|led)$/,
  ),
  level: use('level to the board', undefined, { needs: 'digital-in', direction: 'out' }, /^(do|out|sw|echo|busy|dt)$/),
  edge: use(
    'level that wakes the board',
    undefined,
    { needs: 'interrupt', orElse: 'digital-in', direction: 'out' },
    /^(int|irq|int1|int2|drdy|rdy|alert|gpio1)$/,
  ),
  analog: use(
    'voltage to the board',
    undefined,
    { needs: 'analog-in', direction: 'out' },
    /^(ao|aout|a|vo|adc|sense)$/,
  ),
  line: use(
    'one line both ways',
    undefined,
    { needs: 'digital-out', direction: 'open-drain', pull: 'up' },
    /^(dq|data|dat|s)$/,
  ),
  free: { title: 'left alone', role: 'free', printed: /^(nc|n\/c)$/ },
} as const satisfies Record<string, Use>

export function use(title: string, bus: Use['bus'], signal: Use['signal'], printed: RegExp): Use {
  return { title, role: 'signal', ...(bus ? { bus } : {}), ...(signal ? { signal } : {}), printed }
}

export type PinUse = keyof typeof pinUses

export const useIds = Object.keys(pinUses) as PinUse[]

export const uses: Readonly<Record<PinUse, Use>> = pinUses

/** What the levels of a part are said to be, in plain words; the figures are those of ordinary CMOS logic. */
export const levelKinds = {
  supply: {
    title: 'as its supply',
    levels: { vih: '0.7 VDD', vil: '0.3 VDD', voh: 'VDD - 0.4', vol: 0.4, most: 'VDD + 0.3', least: -0.3 },
  },
  regulated: {
    title: '3.3 V, whatever its supply',
    logicVolts: 3.3,
    levels: { vih: 2.31, vil: 0.99, voh: 2.9, vol: 0.4, high: 3.3, most: 3.6, least: -0.3 },
  },
  tolerant: {
    title: '3.3 V, and bears 5 V',
    logicVolts: 3.3,
    levels: { vih: 2.31, vil: 0.99, voh: 2.9, vol: 0.4, high: 3.3, most: 5.5, least: -0.3 },
  },
} as const

export type LevelKind = keyof typeof levelKinds

export const buildKinds = {
  'in-line': 'one row of posts',
  'two-row': 'two rows of posts',
  beside: 'posts that do not fit a breadboard',
  leads: 'leads of its own',
} as const

export type BuildKind = keyof typeof buildKinds

/** What a pin of this name most often is. */
export function guessUse(name: string, others: readonly string[]): PinUse {
  const plain = name.toLowerCase()
  const names = others.map((one) => one.toLowerCase())
  // SDA and SCL of a display with a select line are data and clock of SPI.
  const isSpi =
    names.some((one) => uses.cs.printed.test(one)) && names.some((one) => ['dc', 'res', 'rst'].includes(one))
  if (isSpi && plain === 'scl') return 'sck'
  if (isSpi && plain === 'sda') return 'mosi'
  return useIds.find((id) => uses[id].printed.test(plain)) ?? 'level'
}
