import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import type { Value } from '../cpp/values.ts'
import type { Hardware, StartCause } from './hardware.ts'
import type { Platform } from './platform.ts'

/** What a sketch finds for sleeping, waking and beginning anew. */
export interface Sleeping {
  readonly functions: ReadonlyMap<string, NativeFunction>
  readonly constants: Readonly<Record<string, number>>
  readonly classes: readonly [string, NativeClass][]
  /** Names of the objects that are there of some classes; otherwise they are called as their class. */
  readonly objects: Readonly<Record<string, string>>
  /** Names of types that are whole numbers. */
  readonly types: readonly string[]
}

type Run = (args: readonly Value[], at: number) => Value

/** Milliseconds of the eight-bit watchdog, by its setting from 0 on: 16 ms doubled nine times, rounded by its names. */
const WATCHDOG = [16, 32, 64, 125, 250, 500, 1000, 2000, 4000, 8000]

/** `SLEEP_MODE_…` of the eight-bit boards in which the clock of `millis` goes on. */
const IDLE = 0

/** Numbers of what has woken an ESP32, by its reference. */
const CAUSES: Readonly<Record<StartCause, number>> = { power: 0, pin: 7, time: 4, restart: 0, watchdog: 0 }
const [ALL, EXT0, EXT1, TIMER] = [1, 2, 3, 4]
const [ALL_LOW, ANY_HIGH] = [0, 1]

/** What functions of sleep are made of. */
interface Making {
  readonly hardware: Hardware
  readonly ulong: Type
  readonly int: Type
  readonly add: (name: string, returns: Type, run: Run) => void
  /** Functions that do nothing that is seen. */
  readonly quiet: (...names: readonly string[]) => void
}
type Family = (making: Making) => Omit<Sleeping, 'functions'>

/** Sleep as the cores of the families document it. */
export function sleepFunctions(
  { macros }: Platform,
  hardware: Hardware,
  { int, ulong }: Readonly<Record<'int' | 'ulong', Type>>,
): Sleeping {
  const functions = new Map<string, NativeFunction>()
  const add: Making['add'] = (name, returns, run) => {
    functions.set(name, { returns, least: 0, most: 4, run: (_, args, _types, at) => run(args, at) })
  }
  const quiet: Making['quiet'] = (...names) => {
    for (const name of names) add(name, int, () => 0)
  }
  const family = '__AVR__' in macros ? avr : 'ESP32' in macros ? esp32 : 'ESP8266' in macros ? esp8266 : others
  return { ...family({ hardware, int, ulong, add, quiet }), functions }
}

const method = (run: Run, returns: Type = VOID): NativeFunction<never> => ({
  returns,
  least: 0,
  most: 4,
  run: (_self, args, _types, at) => run(args, at),
})

/** Pins of a mask, the lowest first. */
const pinsOf = (mask: number): number[] =>
  Array.from({ length: 40 }, (_, pin) => pin).filter((pin) => Math.floor(mask / 2 ** pin) % 2 === 1)

const avr: Family = ({ hardware, add, quiet }) => {
  const { sleep } = hardware
  let mode = IDLE
  const rest: Run = (_, at) => {
    // In idle mode the clock of `millis` wakes it at its next tick.
    if (mode === IDLE) hardware.wait(1000, at)
    else sleep.light(at, { stands: true, served: true })
  }
  add('set_sleep_mode', VOID, ([to]) => {
    mode = Number(to)
  })
  add('sleep_mode', VOID, rest)
  add('sleep_cpu', VOID, rest)
  quiet('sleep_enable', 'sleep_disable', 'sleep_bod_disable')
  for (const what of ['adc', 'spi', 'twi', 'timer0', 'timer1', 'timer2', 'usart0', 'all'])
    quiet(`power_${what}_disable`, `power_${what}_enable`)
  add('wdt_enable', VOID, ([setting]) => sleep.guard((WATCHDOG[Number(setting)] ?? 8000) * 1000))
  add('wdt_disable', VOID, () => sleep.guard(undefined))
  add('wdt_reset', VOID, () => sleep.feed())
  const down: Run = ([period], at) => {
    const setting = Number(period)
    sleep.after(setting < WATCHDOG.length ? WATCHDOG[setting]! * 1000 : undefined)
    sleep.light(at, { stands: true, served: true })
    sleep.after(undefined)
  }
  const kinds = ['powerDown', 'powerSave', 'powerStandby', 'powerExtStandby', 'adcNoiseReduction', 'idle']
  const wide = Object.fromEntries(kinds.map((name) => [name, { ...method(down), most: 12 }]))
  const names = ['15MS', '30MS', '60MS', '120MS', '250MS', '500MS', '1S', '2S', '4S', '8S']
  const parts = [
    'ADC',
    'BOD',
    'TIMER0',
    'TIMER1',
    'TIMER2',
    'TIMER3',
    'TIMER4',
    'SPI',
    'USART0',
    'USART1',
    'TWI',
    'USB',
  ]
  return {
    constants: {
      SLEEP_MODE_IDLE: IDLE,
      SLEEP_MODE_ADC: 2,
      SLEEP_MODE_PWR_DOWN: 4,
      SLEEP_MODE_PWR_SAVE: 6,
      SLEEP_MODE_STANDBY: 12,
      SLEEP_FOREVER: names.length,
      ...Object.fromEntries(
        names.flatMap((name, at) => [
          [`WDTO_${name}`, at],
          [`SLEEP_${name}`, at],
        ]),
      ),
      ...Object.fromEntries(
        parts.flatMap((name) => [
          [`${name}_OFF`, 0],
          [`${name}_ON`, 1],
        ]),
      ),
    },
    classes: [['LowPowerClass', { make: () => ({}), methods: wide }]],
    objects: { LowPowerClass: 'LowPower' },
    types: [],
  }
}

/** Numbers behind words of the ESP32, by its reference. */
const espConstants: Readonly<Record<string, number>> = {
  ESP_SLEEP_WAKEUP_UNDEFINED: 0,
  ESP_SLEEP_WAKEUP_ALL: ALL,
  ESP_SLEEP_WAKEUP_EXT0: 2,
  ESP_SLEEP_WAKEUP_EXT1: 3,
  ESP_SLEEP_WAKEUP_TIMER: 4,
  ESP_SLEEP_WAKEUP_TOUCHPAD: 5,
  ESP_SLEEP_WAKEUP_ULP: 6,
  ESP_SLEEP_WAKEUP_GPIO: 7,
  ESP_EXT1_WAKEUP_ALL_LOW: ALL_LOW,
  ESP_EXT1_WAKEUP_ANY_HIGH: ANY_HIGH,
  // On later chips nought; a program says it by its name.
  ESP_EXT1_WAKEUP_ANY_LOW: 2,
  ESP_GPIO_WAKEUP_GPIO_LOW: 0,
  ESP_GPIO_WAKEUP_GPIO_HIGH: 1,
  GPIO_INTR_LOW_LEVEL: 4,
  GPIO_INTR_HIGH_LEVEL: 5,
  ...Object.fromEntries(
    ['RTC_PERIPH', 'RTC_SLOW_MEM', 'RTC_FAST_MEM', 'XTAL'].map((name, at) => [`ESP_PD_DOMAIN_${name}`, at]),
  ),
  ...Object.fromEntries(['OFF', 'ON', 'AUTO'].map((name, at) => [`ESP_PD_OPTION_${name}`, at])),
  ...Object.fromEntries(Array.from({ length: 49 }, (_, pin) => [`GPIO_NUM_${pin}`, pin])),
}

const esp32: Family = (making) => {
  const { hardware, int, add, quiet } = making
  const { sleep } = hardware
  add('esp_sleep_enable_timer_wakeup', int, ([us]) => {
    sleep.after(Number(us))
    return 0
  })
  add('esp_sleep_enable_ext0_wakeup', int, ([pin, high]) => {
    sleep.onPins({ numbers: [Number(pin)], high: Number(high) !== 0, as: EXT0 })
    return 0
  })
  add('esp_sleep_enable_ext1_wakeup', int, ([mask, mode]) => {
    const [high, all] = [Number(mode) === ANY_HIGH, Number(mode) === ALL_LOW]
    sleep.onPins({ numbers: pinsOf(Number(mask)), high, all, as: EXT1 })
    return 0
  })
  add('esp_deep_sleep_enable_gpio_wakeup', int, ([mask, high]) => {
    sleep.onPins({ numbers: pinsOf(Number(mask)), high: Number(high) !== 0 })
    return 0
  })
  add('gpio_wakeup_enable', int, ([pin, level]) => {
    // GPIO_INTR_LOW_LEVEL is 4, GPIO_INTR_HIGH_LEVEL 5.
    sleep.onPins({ numbers: [Number(pin)], high: Number(level) === 5 })
    return 0
  })
  add('esp_sleep_disable_wakeup_source', int, ([source]) => {
    const isAll = Number(source) === ALL
    if (isAll || Number(source) === TIMER) sleep.after(undefined)
    if (isAll || Number(source) !== TIMER) sleep.onPins(undefined)
    return 0
  })
  const deep: Run = ([us], at) => {
    if (us !== undefined) sleep.after(Number(us))
    return sleep.deep(at)
  }
  add('esp_deep_sleep_start', VOID, deep)
  add('esp_deep_sleep', VOID, deep)
  add('esp_light_sleep_start', int, (_, at) => {
    sleep.light(at)
    return 0
  })
  add(
    'esp_sleep_get_wakeup_cause',
    int,
    () => (sleep.cause === 'pin' ? sleep.wokenAs : undefined) ?? CAUSES[sleep.cause],
  )
  add('esp_restart', VOID, () => sleep.restart('restart'))
  quiet(
    'esp_sleep_enable_gpio_wakeup',
    'esp_sleep_pd_config',
    'gpio_hold_en',
    'gpio_hold_dis',
    'gpio_deep_sleep_hold_en',
  )
  for (const what of [
    'pullup_en',
    'pullup_dis',
    'pulldown_en',
    'pulldown_dis',
    'deinit',
    'init',
    'hold_en',
    'hold_dis',
  ])
    quiet(`rtc_gpio_${what}`)
  return {
    constants: espConstants,
    ...chip(making, deep),
    types: ['esp_sleep_wakeup_cause_t', 'esp_sleep_source_t', 'gpio_num_t', 'esp_err_t'],
  }
}

const esp8266: Family = (making) => {
  const { sleep } = making.hardware
  return {
    constants: { WAKE_RF_DEFAULT: 0, WAKE_RFCAL: 1, WAKE_NO_RFCAL: 2, WAKE_RF_DISABLED: 4, RF_DEFAULT: 0 },
    ...chip(making, ([us], at) => {
      // Nought sleeps until the reset is pulled low.
      sleep.after(Number(us) > 0 ? Number(us) : undefined)
      return sleep.deep(at, Number(us) > 0)
    }),
    types: [],
  }
}

/** The object that stands for the chip itself. */
function chip({ hardware: { sleep }, ulong }: Making, deep: Run): Pick<Sleeping, 'classes' | 'objects'> {
  const restart: Run = () => sleep.restart('restart')
  const told: Readonly<Record<string, number>> = {
    getFreeHeap: 200_000,
    getHeapSize: 300_000,
    getChipId: 0x00c0ffee,
    getChipRevision: 1,
    getChipCores: 2,
    getEfuseMac: 0x24_0a_c4_00_00_01,
    getCpuFreqMHz: 160,
    getFlashChipSize: 4_194_304,
    getVcc: 3300,
  }
  return {
    classes: [
      [
        'EspClass',
        {
          make: () => ({}),
          methods: {
            restart: method(restart),
            reset: method(restart),
            deepSleep: method(deep),
            wdtFeed: method(() => sleep.feed()),
            wdtEnable: method(() => undefined),
            wdtDisable: method(() => undefined),
            ...Object.fromEntries(Object.entries(told).map(([name, value]) => [name, method(() => value, ulong)])),
          },
        },
      ],
    ],
    objects: { EspClass: 'ESP' },
  }
}

const others: Family = ({ hardware: { sleep }, add }) => {
  const restart: Run = () => sleep.restart('restart')
  add('NVIC_SystemReset', VOID, restart)
  add('watchdog_enable', VOID, ([ms]) => sleep.guard(Number(ms) * 1000))
  add('watchdog_update', VOID, () => sleep.feed())
  add('watchdog_reboot', VOID, restart)
  /** Sleeps so many milliseconds, or until a handler is called, and goes on. */
  const rest: Run = ([ms], at) => {
    sleep.after(ms === undefined ? undefined : Number(ms) * 1000)
    sleep.light(at, { served: true })
    sleep.after(undefined)
  }
  const object: [string, NativeClass][] = [
    [
      'LowPowerClass',
      { make: () => ({}), methods: { sleep: method(rest), deepSleep: method(rest), idle: method(rest) } },
    ],
    [
      'RP2040',
      {
        make: () => ({}),
        methods: {
          reboot: method(restart),
          wdt_begin: method(([ms]) => sleep.guard(Number(ms) * 1000)),
          wdt_reset: method(() => sleep.feed()),
        },
      },
    ],
  ]
  return { constants: {}, classes: object, objects: { LowPowerClass: 'LowPower', RP2040: 'rp2040' }, types: [] }
}
