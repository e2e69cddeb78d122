import type { Short } from './plans.ts'
import { led, ohms } from './short.ts'
import { mistakenBetween, soundBetween } from './suiteBetween.ts'
import { mistakenChanged, soundChanged } from './suiteChanged.ts'
import { mistakenClassic, soundClassic } from './suiteClassic.ts'
import { mistakenEveryday, soundEveryday } from './suiteEveryday.ts'
import { mistakenForgotten, soundForgotten } from './suiteForgotten.ts'
import { mistakenModes, soundModes } from './suiteModes.ts'
import { mistakenModules, soundModules } from './suiteModules.ts'
import { soundMoreParts } from './suiteMoreParts.ts'
import { mistakenOver, soundOver } from './suiteOver.ts'
import { soundParts } from './suiteParts.ts'
import { mistakenPosts, soundPosts } from './suitePosts.ts'
import { mistakenAlone, soundAlone } from './suiteSmall.ts'
import { soundMore } from './suiteSound.ts'
import { mistakenSystems, soundSystems } from './suiteSystems.ts'
import { mistakenTooMany, soundTooMany } from './suiteTooMany.ts'
import { mistakenValues, soundValues } from './suiteValues.ts'

/** Pins of each board that carry a lamp and a button well. */
const spare: Readonly<Record<string, readonly string[]>> = {
  'uno-r3': ['7', '8', '4', '3'],
  'nano-v3': ['7', '8', '5', '3'],
  'mega-2560-r3': ['30', '31', '32'],
  'leonardo-32u4': ['7', '8', '4'],
  'micro-32u4': ['4', '5', '6'],
  'pro-mini-3v3': ['7', '8', '4'],
  'esp32-devkit-30': ['32', '33', '26', '25'],
  'esp32-feather': ['27', '33', '32'],
  'esp32-s3-devkitc-1': ['4', '5', '6'],
  'esp32-c3-supermini': ['3', '10', '1'],
  'xiao-esp32c3': ['D2', 'D1', 'D10'],
  'esp8266-d1-mini': ['D5', 'D6', 'D7'],
  pico: ['GP21', 'GP22', 'GP26'],
  'pico-w': ['GP21', 'GP22', 'GP26'],
  'pi-40': ['GPIO22', 'GPIO23', 'GPIO24'],
  'stm32f103-bluepill': ['PB8', 'PB9', 'PB5'],
  'stm32f411-blackpill': ['PB8', 'PB9', 'PB5'],
  'teensy-4-1': ['D2', 'D3', 'D4'],
  'microbit-v2': ['P8', 'P12', 'P13'],
}

/** A small wiring with what stands beside it on most breadboards: a lamp with its resistor and a button. */
function inCompany(short: Short & { title: string }): Short & { title: string } {
  const board = short.boards ? undefined : (short.mcu ?? 'esp32-devkit-30')
  const taken = new Set([...(short.wires ?? '').matchAll(/MCU\.([^\s,]+)/g)].map((found) => found[1]))
  const [lamp, key] = (spare[board ?? ''] ?? []).filter((pin) => !taken.has(pin))
  if (Object.keys(short.parts ?? {}).length >= 3 || lamp === undefined || key === undefined) return short
  return {
    ...short,
    parts: { ...short.parts, GLOW: led('red'), SERIES: ohms(470), PRESS: 'button' },
    wires: `${short.wires}, GLOW.A SERIES.1, SERIES.2 MCU.${lamp}, GLOW.K MCU.GND, PRESS.1 MCU.${key}, PRESS.2 MCU.GND`,
  }
}

export const sound: readonly (Short & { title: string })[] = [
  ...soundAlone.map(inCompany),
  ...soundBetween,
  ...soundModules,
  ...soundSystems,
  ...soundParts,
  ...soundMoreParts,
  ...soundMore,
  ...soundForgotten,
  ...soundEveryday,
  ...soundOver,
  ...soundPosts,
  ...soundTooMany,
  ...soundChanged,
  ...soundClassic,
  ...soundModes,
  ...soundValues,
]

export const mistaken: readonly (Short & { title: string; rule: string })[] = [
  ...mistakenBetween,
  ...mistakenModules,
  ...mistakenSystems,
  ...mistakenAlone,
  ...mistakenForgotten,
  ...mistakenEveryday,
  ...mistakenOver,
  ...mistakenPosts,
  ...mistakenTooMany,
  ...mistakenChanged,
  ...mistakenClassic,
  ...mistakenModes,
  ...mistakenValues,
]
