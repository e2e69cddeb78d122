import { expect, it } from 'vitest'
import { catalog, planOf } from '../../testing/plans.ts'
import { resolve } from '../../wiring/resolve.ts'
import { rehearse } from '../run.ts'

const printed = (text: string): string[] => {
  const wiring = resolve(
    planOf({
      mcu: 'pico',
      parts: { O: 'ssd1306' },
      wires: 'O.VCC MCU.3V3, O.GND MCU.GND, O.SDA MCU.GP4, O.SCL MCU.GP5',
    }),
    catalog,
  )
  const result = rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { seconds: 1 })
  expect(result.findings.filter(({ kind }) => kind === 'stopped' || kind === 'unknown-class')).toEqual([])
  return result.printed.flatMap(({ text: said }) => said.split('\n').filter((line) => line !== ''))
}

it('a picture lies in its bytes as the platform has it', () => {
  // Of MONO_HLSB the leftmost place is the highest bit, of HMSB the lowest; of VLSB a byte is eight places of a column.
  const text = `import framebuf
for name in ('MONO_HLSB', 'MONO_HMSB', 'MONO_VLSB', 'GS8', 'RGB565', 'GS4_HMSB', 'GS2_HMSB'):
    data = bytearray(32)
    f = framebuf.FrameBuffer(data, 4, 4, getattr(framebuf, name))
    f.pixel(1, 0, 1); f.pixel(0, 2, 1); f.pixel(9, 9, 1)
    print(name, [(at, one) for at, one in enumerate(data) if one], f.pixel(1, 0), f.pixel(2, 2), f.pixel(9, 9))
try: framebuf.FrameBuffer(bytearray(3), 8, 4, framebuf.MONO_HLSB)
except ValueError as e: print(e)
`
  expect(printed(text)).toEqual([
    'MONO_HLSB [(0, 64), (2, 128)] 1 0 None',
    'MONO_HMSB [(0, 2), (2, 1)] 1 0 None',
    'MONO_VLSB [(0, 4), (1, 1)] 1 0 None',
    'GS8 [(1, 1), (8, 1)] 1 0 None',
    'RGB565 [(2, 1), (16, 1)] 1 0 None',
    'GS4_HMSB [(0, 1), (4, 16)] 1 0 None',
    'GS2_HMSB [(0, 4), (2, 1)] 1 0 None',
    'buffer too small',
  ])
})

it('is drawn, moved and put into another, and onto a display', () => {
  const text = `from machine import Pin, I2C
import framebuf, ssd1306
def rows(f, w, h): return [''.join('#' if f.pixel(x, y) else '.' for x in range(w)) for y in range(h)]
a = framebuf.FrameBuffer(bytearray(8), 8, 8, framebuf.MONO_VLSB)
a.rect(0, 0, 4, 3, 1); a.hline(4, 7, 9, 1); a.line(4, 0, 7, 3, 1)
print(rows(a, 8, 8))
b = framebuf.FrameBuffer(bytearray(4), 4, 4, framebuf.MONO_HLSB)
b.fill(1); b.fill_rect(1, 1, 2, 2, 0)
a.blit(b, 2, 3, 0); a.scroll(0, 1)
print(rows(a, 8, 8))
d = ssd1306.SSD1306_I2C(128, 64, I2C(0, sda=Pin(4), scl=Pin(5)))
d.fill(0); d.blit(a, 10, 10); d.text('hi', 0, 0); d.show()
print('shown')
`
  expect(printed(text)).toEqual([
    "['#####...', '#..#.#..', '####..#.', '.......#', '........', '........', '........', '....####']",
    "['#####...', '#####...', '#..#.#..', '####..#.', '..####.#', '..#..#..', '..#..#..', '..####..']",
    'shown',
  ])
})
