import { describe, expect, it } from 'vitest'
import { adoptLayout, layOut, layoutData, layoutOf } from '../breadboard/layout.ts'
import { suggestBreadboards } from '../breadboard/suggest.ts'
import { applyEdits } from '../plan/edit.ts'
import { catalog, wiringOf } from '../testing/plans.ts'
import { samplePlans } from '../testing/samples.ts'
import { resolve } from '../wiring/resolve.ts'
import { benchPicture } from './benchPicture.ts'
import { writeBenchSvg } from './benchSvg.ts'
import { pathOf, tagBox, turnBox, turnInk, turnPlace, unturnPlace } from './ink.ts'
import { makeSheet } from './sheet.ts'
import { isDark } from './wireInk.ts'

const drawn = (plan: Parameters<typeof resolve>[0], pose: 'stands' | 'lies' = 'stands') => {
  const wiring = resolve(applyEdits(plan, suggestBreadboards(plan, catalog)), catalog)
  const layout = layoutOf(wiring)!
  const sheet = makeSheet(wiring, layout)
  return { wiring, layout, sheet, picture: benchPicture(wiring, layout, sheet, pose) }
}

describe('a drawing that lies', () => {
  it('is the standing one turned by a quarter to the left, and back again', () => {
    expect(turnPlace('lies', { x: 2, y: 7 })).toEqual({ x: 7, y: -2 })
    expect(unturnPlace('lies', turnPlace('lies', { x: 2, y: 7 }))).toEqual({ x: 2, y: 7 })
    expect(unturnPlace('stands', { x: 2, y: 7 })).toEqual({ x: 2, y: 7 })
    expect(turnBox('lies', { left: 1, top: 2, width: 3, height: 5 })).toEqual({ left: 2, top: -4, width: 5, height: 3 })
  })
  it('keeps tags level and turns what runs along a leg', () => {
    const tag = { is: 'tag', role: 'tag', x: 1, y: 2, size: 1, text: 'LAMP', upwards: true } as const
    expect(turnInk('lies', tag)).toMatchObject({ upwards: false, x: 2, y: -1 })
    const along = { is: 'text', role: 'pin', x: 1, y: 2, size: 1, text: 'D4', anchor: 'start', along: true } as const
    expect(turnInk('lies', along)).toMatchObject({ upwards: true })
    expect(turnInk('lies', { ...along, along: false })).not.toHaveProperty('upwards')
    expect(turnInk('stands', along)).toBe(along)
  })
})

describe('ink', () => {
  it('becomes a path, and a tag is as broad as its name', () => {
    expect(
      pathOf(
        [
          { x: 0, y: 1 },
          { x: 2.005, y: 1 },
        ],
        true,
        10,
      ),
    ).toBe('M0 10L20.05 10Z')
    const tag = { is: 'tag', role: 'tag', x: 0, y: 0, size: 1, text: 'ABCDE' } as const
    expect(tagBox(tag)).toMatchObject({ width: 3.5, height: 1.4 })
    expect(tagBox({ ...tag, upwards: true })).toMatchObject({ width: 1.4, height: 3.5 })
  })
  it('is white on dark wires and black on light ones', () => {
    expect(['#1d1d1b', '#2a63b0', '#7b4f2c'].map(isDark)).toEqual([true, true, true])
    expect(['#ffffff', '#e5bf26'].map(isDark)).toEqual([false, false])
  })
})

describe.each(samplePlans.map(({ plan }) => [plan.title, plan] as const))('the picture of %s', (_, plan) => {
  const { picture, sheet, layout } = drawn(plan)
  it('leads every wire of the table from its hole to its hole', () => {
    expect(picture.wires.map(({ number }) => number)).toEqual(sheet.wiring.map(({ number }) => number))
    for (const [index, row] of sheet.wiring.entries()) {
      const { ends, lane } = picture.wires[index]!
      for (const [at, one] of [row.from, row.to].entries()) {
        const hole = one.hole === null ? undefined : layout.grid.parse(one.hole)
        const post = layout.posts.get(`${one.ref}.${one.pin}`)
        const x = hole === undefined ? post?.x : layout.grid.x(hole)
        expect(ends[at]!.x).toBe(x)
        expect(lane.at(at === 0 ? 0 : -1)).toMatchObject({ x })
        // What goes to a post says where its other end is.
        expect(ends[at]!.goes !== undefined).toBe(hole === undefined)
      }
    }
  })
  it('puts no number on a hole, and hardly ever two on one place', () => {
    const places = picture.wires.flatMap(({ ends }) => ends.map(({ plate }) => `${plate.x} ${plate.y}`))
    for (const { ends } of picture.wires)
      for (const { plate, goes } of ends)
        if (!goes) expect(Number.isInteger(plate.x) && Number.isInteger(plate.y)).toBe(false)
    expect(places.length - new Set(places).size).toBeLessThanOrEqual(1)
  })
  it('covers no name of a leg with the name of its part', () => {
    for (const { ref, kind, ink } of picture.bodies) {
      const tags = ink.flatMap((one) => (one.is === 'tag' ? [tagBox(one)] : []))
      if (kind !== 'straddle') continue
      for (const name of ink)
        if (name.is === 'text' && name.role === 'pin')
          for (const { left, top, width, height } of tags) {
            const broad = name.text.length * name.size * 0.6
            const from = name.anchor === 'start' ? name.x : name.x - broad
            const isApart = from + broad <= left || from >= left + width || name.y < top || name.y > top + height
            expect([ref, name.text, isApart]).toEqual([ref, name.text, true])
          }
    }
  })
  it('lets no words at a post, no number there and no name of a post lie over another', () => {
    const wide = (one: { text: string; size: number; x: number; anchor: string }): [number, number] => {
      const long = one.text.length * one.size * 0.6
      return one.anchor === 'start' ? [one.x, one.x + long] : [one.x - long, one.x]
    }
    const things = [
      ...picture.labels.flatMap((ink) => (ink.is === 'text' ? [{ what: ink.text, y: ink.y, span: wide(ink) }] : [])),
      ...picture.wires.flatMap(({ number, ends }) =>
        ends.flatMap(({ plate, goes }) =>
          goes
            ? [
                { what: `${number} at ${goes.text}`, y: goes.y, span: wide(goes) },
                { what: `number ${number}`, y: plate.y, span: [plate.x - 0.37, plate.x + 0.37] as [number, number] },
              ]
            : [],
        ),
      ),
    ]
    for (const [at, one] of things.entries())
      for (const other of things.slice(at + 1)) {
        const isOver = one.y === other.y && one.span[0] < other.span[1] && other.span[0] < one.span[1]
        expect([one.what, other.what, isOver]).toEqual([one.what, other.what, false])
      }
  })
  it('has everything within its frame, standing or lying', () => {
    const lies = drawn(plan, 'lies').picture
    for (const one of [picture, lies])
      for (const { left, top, width, height } of [
        ...one.bodies,
        ...one.wires.flatMap(({ ends }) =>
          ends.flatMap(({ goes }) => (goes ? [{ left: goes.x, top: goes.y, width: 0, height: 0 }] : [])),
        ),
      ]) {
        expect(left).toBeGreaterThanOrEqual(one.left)
        expect(top).toBeGreaterThanOrEqual(one.top)
        expect(left + width).toBeLessThanOrEqual(one.left + one.width)
        expect(top + height).toBeLessThanOrEqual(one.top + one.height)
      }
    expect([lies.width, lies.height]).toEqual([picture.height, picture.width])
  })
  it('is written on paper with a number at both ends of each wire, or of the wires of a step', () => {
    const numbers = (text: string): number =>
      text.match(/text-anchor="middle" fill="#(?:fff|16130d)">\d+<\/text>/g)?.length ?? 0
    expect(numbers(writeBenchSvg(picture, { title: 'all' }).text)).toBe(2 * sheet.wiring.length)
    const step = sheet.wiring.at(-1)!.step
    // A step is shown from near, with all that it plugs in.
    const [left, top, width, height] = /viewBox="([^"]+)"/
      .exec(writeBenchSvg(picture, { title: 'near', step }).text)![1]!
      .split(' ')
      .map((one) => Number(one) / 14) as [number, number, number, number]
    expect(width).toBeLessThanOrEqual(picture.width + 0.1)
    expect(height).toBeLessThanOrEqual(picture.height + 0.1)
    for (const wire of picture.wires)
      if (wire.step === step)
        for (const { x, y } of wire.lane) {
          expect(x >= left - 0.1 && x <= left + width + 0.1).toBe(true)
          expect(y >= top - 0.1 && y <= top + height + 0.1).toBe(true)
        }
    const own = sheet.wiring.filter((row) => row.step === step).length
    expect(numbers(writeBenchSvg(picture, { title: 'one', step }).text)).toBe(2 * own)
  })
})

describe('bodies', () => {
  const roles = (ref: string, wiring = small): string[] => {
    const layout = layoutOf(wiring)!
    const body = benchPicture(wiring, layout, makeSheet(wiring, layout)).bodies.find((one) => one.ref === ref)!
    return [...new Set(body.ink.map(({ role }) => role))]
  }
  const small = wiringOf({
    mcu: 'nano-v3',
    parts: { LAMP: 'led', R1: 'resistor', D1: 'diode', CHIP: 'mcp23017', SENSE: 'bme280' },
    wires: 'LAMP.A R1.1, R1.2 MCU.D5, LAMP.K MCU.GND, D1.K MCU.5V, D1.A MCU.GND',
    bench: { breadboards: { BB1: { kind: 'full' } } },
  })
  it('show the ring of a diode and the flat and plus of a lamp, and neither for a resistor', () => {
    expect(roles('D1')).toEqual(expect.arrayContaining(['ring', 'pole']))
    expect(roles('LAMP')).toEqual(expect.arrayContaining(['ring', 'pole']))
    expect(roles('R1')).not.toEqual(expect.arrayContaining(['ring']))
  })
  it('show the notch at the end of pin 1, also of a chip that stands the other way round, and none on a button', () => {
    for (const turned of [false, true]) {
      const wiring = wiringOf({
        mcu: 'nano-v3',
        parts: { CHIP: 'mcp23017', KEY: 'button' },
        wires: 'KEY.1 MCU.D5',
        bench: { breadboards: { BB1: { kind: 'full' } }, places: { CHIP: { at: 'BB1.e30', turned } } },
      })
      const layout = layoutOf(wiring)!
      const { bodies } = benchPicture(wiring, layout, makeSheet(wiring, layout))
      const chip = bodies.find(({ ref }) => ref === 'CHIP')!
      const first = chip.legs.find(({ pin }) => pin === 'GPB0')!
      const dot = chip.ink.find(({ role }) => role === 'first')
      expect(dot?.is === 'dot' && Math.hypot(dot.x - first.x, dot.y - first.y)).toBeLessThan(0.6)
      expect(first.y < chip.top + chip.height / 2).toBe(!turned)
      expect(bodies.find(({ ref }) => ref === 'KEY')!.ink.some(({ role }) => role === 'mark')).toBe(false)
    }
  })
  it('show where pin 1 of a chip is, and no such mark on a board', () => {
    expect(roles('CHIP')).toEqual(expect.arrayContaining(['mark', 'first']))
    expect(roles('MCU')).not.toContain('mark')
    expect(roles('SENSE')).not.toContain('mark')
  })
})

describe('what lies beside', () => {
  const base = {
    mcu: 'uno-r3',
    parts: { SERVO: 'servo-sg90', FAN: 'dc-motor' },
    wires: 'SERVO.SIG MCU.D9, SERVO.VCC MCU.5V, SERVO.GND MCU.GND',
  }
  const wiring = wiringOf({ ...base, bench: { breadboards: { BB1: { kind: 'half' } } } })
  it('lies where the maker laid it, on that side and from that row on', () => {
    const first = layOut(wiring)
    for (const side of ['left', 'right'] as const) {
      const places = {
        SERVO: { side, row: 24 },
        MCU: { side: side === 'left' ? ('right' as const) : ('left' as const), row: 2 },
      }
      const again = layOut(wiringOf({ ...base, bench: { breadboards: { BB1: { kind: 'half' } }, places } }))
      expect(again.asides.get('SERVO')).toMatchObject({ side, row: 24 })
      expect(again.asides.get('MCU')).toMatchObject(places.MCU)
      const x = again.posts.get('SERVO.SIG')!.x
      expect(side === 'left' ? x < 0 : x > 11).toBe(true)
      expect([...again.posts.keys()].sort()).toEqual([...first.posts.keys()].sort())
    }
  })
  it('keeps to itself: no two things lie in the same rows of one side', () => {
    const { asides, posts } = layOut(wiring)
    const rows = [...asides].map(([ref, { side }]) => {
      const ys = [...posts].filter(([end]) => end.startsWith(`${ref}.`)).map(([, { y }]) => y)
      return { side, from: Math.min(...ys), to: Math.max(...ys) }
    })
    for (const [index, one] of rows.entries())
      for (const two of rows.slice(index + 1))
        expect(one.side !== two.side || one.to < two.from || two.to < one.from).toBe(true)
  })
  it('crosses to another thread with the rest', () => {
    const layout = layOut(wiring)
    expect(adoptLayout(wiring, structuredClone(layoutData(layout))).asides).toEqual(layout.asides)
  })
})

describe('a plug on a row of posts', () => {
  const wires = (plugged: boolean): string =>
    `X.VCC MCU.5V, X.GND MCU.GND, X.SDA MCU.A4, X.SCL MCU.A5, X.V+ MCU.5V, ${
      plugged ? 'S.SIG X.PWM3, S.VCC X.V+, S.GND X.GND' : 'S.SIG MCU.D9, S.VCC MCU.5V, S.GND MCU.GND'
    }`
  const words = (plugged: boolean, ref: string): string[] => {
    const { plan } = wiringOf({ mcu: 'uno-r3', parts: { X: 'pca9685', S: 'servo-sg90' }, wires: wires(plugged) })
    const body = drawn(plan).picture.bodies.find((one) => one.ref === ref)!
    return body.ink.flatMap((ink) => (ink.is === 'text' && ink.role === 'goes' ? [ink.text] : []))
  }
  it('says where it goes, and the post that is its alone what sits there', () => {
    expect(words(true, 'S')).toEqual(['X GND', 'X V+', 'X PWM3'])
    // Ground and supply stand at every channel.
    expect(words(true, 'X')).toEqual(['S'])
  })
  it('says nothing where wires do', () => {
    expect([...words(false, 'S'), ...words(false, 'X')]).toEqual([])
  })
})
