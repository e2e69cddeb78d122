import type { Machine } from '../cpp/machine.ts'
import type { Library, NativeClass } from '../cpp/program.ts'
import { basicTypes, type Type } from '../cpp/types.ts'
import type { Value } from '../cpp/values.ts'
import type { Chip } from './avr/chip.ts'
import type { Hardware } from './hardware.ts'
import type { Platform } from './platform.ts'
import { eepromClass, twoWire } from './sketchBuses.ts'
import { sketchCalls, sketchConstants } from './sketchCalls.ts'
import { printingWays, readingWays, Serial, serialClasses } from './sketchSerial.ts'
import { sleepFunctions } from './sketchSleep.ts'
import { spiClasses } from './sketchSpi.ts'
import { Tasks } from './sketchTasks.ts'
import { chipTimers, timerClasses } from './sketchTimers.ts'
import { largeFunctions, standardFunctions } from './standard.ts'
import { chipMacros, smallMacros, standardMacros } from './standardMacros.ts'
import { touchFunctions } from './touch.ts'

/** Above this a number is no plain one. */
const MOST_INT = 0x7fff_ffff

/** Something that is there by itself. */
type Given = [string, { of: string; value: object }]

/** With the chip whose registers the sketch may use. */
export interface SketchLibrary extends Library {
  readonly chip: Chip | undefined
  readonly tasks: Tasks | undefined
}

/** What a sketch finds without making it itself, on a board of a platform. */
export function sketchLibrary(platform: Platform, hardware: Hardware, machine: Machine): SketchLibrary {
  const { widths, costs } = platform
  const types = basicTypes(widths)
  const t = (name: string): Type => types.get(name)!
  const [int, ulong, byte, bool, size] = [t('int'), t('unsigned long'), t('byte'), t('bool'), t('size_t')]
  const sleeping = sleepFunctions(platform, hardware, { int, ulong })
  const chip = platform.chip(hardware, machine)
  const tasks = 'ESP32' in platform.macros ? new Tasks(hardware, machine, { int, ulong }) : undefined
  const timers = 'ESP32' in platform.macros ? chipTimers(hardware, { int }) : undefined
  const functions = new Map([
    ...standardFunctions(widths, machine),
    ...(widths.int === 32 ? largeFunctions(widths) : []),
    ...sketchCalls(platform, hardware, machine, t, chip),
    ...sleeping.functions,
    ...(timers?.functions ?? []),
    ...(tasks?.functions ?? []),
    ...(platform.touch ? touchFunctions(hardware, platform.touch, { int, count: t('uint32_t') }) : []),
  ])
  const constants = new Map<string, { type: Type; value: Value }>()
  for (const numbers of [
    Object.entries(sketchConstants),
    Object.entries(sleeping.constants),
    Object.entries(tasks?.constants ?? {}),
    platform.constants,
  ])
    for (const [name, value] of numbers) constants.set(name, { type: value > MOST_INT ? ulong : int, value })
  for (const [name, value] of platform.pinNames) constants.set(name, { type: byte, value })
  for (const [at, pin] of (platform.touch?.pins ?? []).entries())
    if (pin !== undefined) constants.set(`T${at}`, { type: byte, value: pin })
  // Names of bits come before those of pins: PB5 is the sixth bit of a port here.
  for (const [name, value] of chip?.bits ?? []) constants.set(name, { type: int, value })
  const printing = printingWays(size, widths.int === 32)
  const reading = readingWays(machine, hardware, costs, t)
  const wire = twoWire(platform, hardware, { int, byte, size }, printing, reading)
  const classes = new Map<string, NativeClass>([
    ...serialClasses(hardware, costs, t, printing, reading),
    ['TwoWire', wire.of],
    ...spiClasses(hardware, { int, byte, word: t('uint16_t') }),
    ...timerClasses(hardware, { bool, ulong }),
    ['EEPROMClass', eepromClass(hardware, machine, { int, byte }, platform.keeps)],
    ...sleeping.classes,
    ...platform.classes(hardware, machine, { types, printing, reading }),
  ])
  const objects = new Map<string, { of: string; value: object }>([
    ...['Serial', 'Serial1', 'Serial2', 'Serial3'].map(
      (name): Given => [name, { of: 'HardwareSerial', value: new Serial(hardware.serial(name)) }],
    ),
    ['Wire', { of: 'TwoWire', value: wire.make('Wire') }],
    ['Wire1', { of: 'TwoWire', value: wire.make('Wire1') }],
    ['Timer1', { of: 'TimerOne', value: classes.get('TimerOne')!.make([], [], 0) }],
    ['SPI', { of: 'SPIClass', value: { name: 'SPI' } }],
    ['SPI1', { of: 'SPIClass', value: { name: 'SPI1' } }],
    ['EEPROM', { of: 'EEPROMClass', value: {} }],
    ...sleeping.classes.map(([of]): Given => [sleeping.objects[of] ?? of, { of, value: {} }]),
  ])
  return {
    widths,
    macros: {
      ...standardMacros,
      ...(widths.int === 16 ? smallMacros : {}),
      ...(chip ? chipMacros : {}),
      ...(tasks ? Tasks.macros : {}),
      ...platform.macros,
    },
    types: new Map([
      ...[...sleeping.types, ...(timers?.types ?? [])].map((name) => [name, int] as const),
      ...(tasks?.types ?? []),
    ]),
    constants,
    registers: chip?.registers ?? new Map(),
    functions,
    asked: (name) => hardware.answer(name),
    classes,
    objects,
    waited: tasks?.waited,
    chip,
    tasks,
  }
}
