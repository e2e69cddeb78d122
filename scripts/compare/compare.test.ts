import { describe, expect, it } from 'vitest'
import { coreFacts } from './avr.ts'
import { imxrtFunction, rows, rpFunction, stmFunction } from './chips.ts'
import { type Answer, judge } from './comparison.ts'
import { driverAddresses, treeAddresses } from './parts.ts'
import { pinList, treePins } from './singleBoards.ts'

describe('judging what differs', () => {
  const compared = { entry: 'lamp', ours: new Set(['1 a', '2 b']), theirs: new Set(['1 a', '2 c', '3 d']) }
  const answer = (some: Partial<Answer>): Answer => ({
    comparison: 'x',
    only: 'theirs',
    facts: '2 c',
    because: 'they err',
    ...some,
  })

  it('leaves every difference open that no answer covers', () => {
    expect(judge('x', compared, [])).toEqual({
      entry: 'lamp',
      count: 4,
      agreed: 1,
      answered: [],
      open: ['only ours: 2 b', 'only theirs: 2 c', 'only theirs: 3 d'],
    })
  })

  it('covers by comparison, entry, side and the whole of a fact', () => {
    const open = (some: Partial<Answer>) => judge('x', compared, [answer(some)]).open
    expect(open({})).toEqual(['only ours: 2 b', 'only theirs: 3 d'])
    expect(open({ entry: 'lamp' })).toHaveLength(2)
    expect(open({ facts: '\\d [cd]' })).toEqual(['only ours: 2 b'])
    for (const other of [{ entry: 'fan' }, { comparison: 'y' }, { only: 'ours' as const }, { facts: '2' }])
      expect(open(other)).toHaveLength(3)
  })
})

describe('reading other sources', () => {
  it('reads the pin tables of a firmware core', () => {
    const pins = Array.from({ length: 20 }, (_, at) => at)
    const header = `
#define PIN_SPI_SS    (10)
#define PIN_WIRE_SDA        18
#define PIN_A0   (14)
#define PIN_A5   (19)
#define digitalPinToInterrupt(p)  ((p) == 2 ? 0 : ((p) == 3 ? 1 : NOT_AN_INTERRUPT))
const uint8_t PROGMEM digital_pin_to_port_PGM[] = { ${pins.map((at) => `P${at < 8 ? 'D' : 'B'}, /* ${at} */`).join(' ')} };
const uint8_t PROGMEM digital_pin_to_bit_mask_PGM[] = { ${pins.map((at) => `_BV(${at % 8}),`).join(' ')} };
const uint8_t PROGMEM digital_pin_to_timer_PGM[] = {
${pins.map((at) => (at === 3 ? '#if defined(__AVR_ATmega8__)\n NOT_ON_TIMER,\n#else\n TIMER2B,\n#endif' : 'NOT_ON_TIMER, // none')).join('\n')}
};`
    const facts = coreFacts(header)
    for (const fact of ['3 port PD3', '3 timer2.b', '2 interrupt', '10 spi0.cs', '18 i2c0.sda', 'A0 port PB6'])
      expect(facts).toContain(fact)
    expect([...facts].filter((fact) => fact.includes('timer'))).toHaveLength(1)
    expect(() => coreFacts(header.replace('_BV(7),', ''))).toThrow('differ')
  })

  it('names functions of chips as our files do', () => {
    expect(
      ['I2C1_SDA', 'SPI2_NSS', 'USART6_TX', 'TIM3_CH4', 'ADC123_IN5', 'ADC3_IN4', 'TIM1_CH2N'].map(stmFunction),
    ).toEqual(['i2c1.sda', 'spi2.cs', 'uart6.tx', 'tim3.4', 'analog 5', undefined, undefined])
    expect(['SPI0_RX', 'UART1_RTS', 'PWM5_B', 'PIO0'].map(rpFunction)).toEqual([
      'spi0.miso',
      'uart1.rts',
      'slice5.b',
      undefined,
    ])
    expect(imxrtFunction('LPSPI4_PCS1')).toEqual({ unit: 'LPSPI4', signal: 'cs' })
    expect(imxrtFunction('FLEXPWM1_PWM1_A')).toEqual({ unit: 'flexpwm1-1', signal: 'a' })
    expect(imxrtFunction('GPIO3_IO14')).toBeUndefined()
  })

  it('reads rows under a heading, with empty cells and quoted commas', () => {
    expect(rows('# remark\nPin,A,B,C\nP1,,"x,y",z\n', 'Pin')).toEqual([{ Pin: 'P1', A: '', B: 'x,y', C: 'z' }])
    expect(() => rows('P1,x\n', 'Pin')).toThrow('no table')
  })

  it('follows names and ranges in lists of pins', () => {
    expect(pinList({ io: '2-4,boot', boot: '0,15' }, 'io')).toEqual([2, 3, 4, 0, 15])
    expect(pinList({}, 'io')).toEqual([])
  })

  it('reads pin groups of both forms', () => {
    const text = `
      uart0_ctsrts_gpio16: uart0_ctsrts_gpio16 { brcm,pins = <16 17>; };
      i2c3_gpio4: i2c3_gpio4 { pin-sda { pins = "gpio4"; }; pin-scl { pins = "gpio5"; }; };`
    expect([...treePins(text)].sort()).toEqual(
      ['i2c3 GPIO4', 'i2c3 GPIO4 sda', 'i2c3 GPIO5', 'i2c3 GPIO5 scl', 'uart0 GPIO16', 'uart0 GPIO17'].sort(),
    )
  })

  it('reads addresses of devices on a bus, and no selects', () => {
    const text = `
      light@23 { compatible = "maker,bh1750"; reg = <0x23>; };
      adc@0 { compatible = "maker,mcp3008"; reg = <0>; };`
    expect(treeAddresses(text)).toEqual([['bh1750', '0x23']])
    expect(driverAddresses('\n  MPR121: {\n    ADDRESSES: {\n      value: [0x5A, 0x5B]\n    },')).toEqual([
      ['mpr121', '0x5a'],
      ['mpr121', '0x5b'],
    ])
  })
})
