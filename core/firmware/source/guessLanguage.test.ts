import { expect, it } from 'vitest'
import { languageOfFiles } from './guessLanguage.ts'

it.each([
  ['a.ino', '', 'cpp'],
  ['a.py', 'from machine import Pin', 'micropython'],
  ['a.py', 'import time, machine', 'micropython'],
  ['a.py', 'import time, board', 'circuitpython'],
  ['a.py', '    import  neopixel ,\tdigitalio', 'circuitpython'],
  ['a.py', 'import machinery, boards', 'python'],
  ['a.py', '# import machine', 'python'],
  ['a.py', 'from gpiozero import LED', 'python'],
  ['a.txt', 'import machine', undefined],
] as const)('%s with "%s" is %s', (name, text, language) => {
  expect(languageOfFiles([{ name, text }])).toBe(language)
})
