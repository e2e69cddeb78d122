import { describe, expect, it } from 'vitest'
import type { Short } from '../testing/plans.ts'
import type { RunResult } from './run.ts'
import { run } from './testing/quick.ts'

const said = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind }) => kind)
const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
const lampAt = (pin: string, mcu = 'uno-r3'): Short => ({
  mcu,
  parts: { L: 'led', R: ohms(330) },
  wires: `L.A R.1, R.2 MCU.${pin}, L.K MCU.GND`,
})
const none: Short = { mcu: 'uno-r3', parts: { L: 'led' }, wires: '' }
const key: Short = { mcu: 'uno-r3', parts: { K: 'button' }, wires: 'K.1 MCU.8, K.2 MCU.GND' }
/** A sketch that does something once and prints. */
const once = (text: string, above = ''): string =>
  `${above}\nvoid setup() {\n  Serial.begin(9600);\n${text}\n}\nvoid loop() {}`
const lit = ({ shown }: RunResult): [number, boolean][] =>
  shown.L!.map(({ at, words }): [number, boolean] => [Math.round(at / 100_000), words.startsWith('on')])

describe('ports by their registers', () => {
  it('set, let go and turn round pins', () => {
    const result = run(
      lampAt('8'),
      'void setup() { DDRB |= 1 << PB0; }\nvoid loop() { PINB = 1 << PB0; delay(400); PORTB &= ~_BV(PB0); delay(400); }',
      '',
      1.5,
    )
    expect(lit(result)).toEqual([
      [0, false],
      [0, true],
      [4, false],
      [8, true],
      [12, false],
    ])
    expect(kinds(result)).toEqual([])
  })
  it('agree with the calls of the platform', () => {
    const text = once(
      '  pinMode(13, OUTPUT); digitalWrite(13, HIGH); pinMode(9, INPUT_PULLUP);\n  Serial.println(DDRB, BIN); Serial.println(PORTB, BIN);\n  PORTB = 0; Serial.println(digitalRead(13)); Serial.println(digitalRead(9) == HIGH);\n  DDRB = 0xFF; Serial.println(DDRB);',
    )
    expect(said(run(lampAt('13'), text, '', 1)).slice(0, 3)).toEqual(['100000', '100010', '0'])
  })
  it('read keys, whose pull they switch on', () => {
    const text =
      'void setup() { Serial.begin(9600); DDRB &= ~(1 << DDB0); PORTB |= 1 << PORTB0; }\nvoid loop() { Serial.println(PINB & (1 << PINB0) ? "up" : "down"); delay(1000); }'
    expect(said(run(key, text, '  - { at: 0.5, set: { K: closed } }', 2))).toEqual(['up', 'down'])
  })
  it('are reached through pointers and by pins', () => {
    const text = once(
      '  volatile uint8_t *out = portOutputRegister(digitalPinToPort(22)); uint8_t mask = digitalPinToBitMask(22);\n  pinMode(22, OUTPUT); *out |= mask; Serial.println(digitalRead(22)); *out &= ~mask; Serial.println(digitalRead(22));\n  volatile uint8_t *way = &DDRA; *way = 0; Serial.println(DDRA);',
    )
    expect(said(run(lampAt('22', 'mega-2560-r3'), text, '', 1))).toEqual(['1', '0', '0'])
  })
  it('name bits, not pins', () => {
    expect(said(run(none, once('  Serial.println(PB5); Serial.println(PORTD7);'), '', 1))).toEqual(['5', '7'])
  })
  it('are no words of other boards', () => {
    expect(kinds(run({ ...none, mcu: 'esp32-devkit-30' }, once('  DDRB = 1;'), '', 1))).toContain('not-understood')
  })
})

describe('timers by their registers', () => {
  const counted = (set: string, vector: string, plan = none, seconds = 1): RunResult =>
    run(
      plan,
      `volatile unsigned int n = 0;\nISR(${vector}) { n++; }\nvoid setup() { Serial.begin(9600);\n  cli();\n${set}\n  sei(); }\nvoid loop() { delay(${seconds * 1000 - 20}); Serial.println(n); }`,
      '',
      seconds,
    )
  it.each([
    [
      'to a value and over',
      'TCCR1A = 0; TCCR1B = _BV(WGM12) | _BV(CS12); OCR1A = 6249; TIMSK1 = _BV(OCIE1A);',
      'TIMER1_COMPA_vect',
      9,
    ],
    ['over the end of sixteen bits', 'TCCR1A = 0; TCCR1B = _BV(CS11); TIMSK1 = _BV(TOIE1);', 'TIMER1_OVF_vect', 29],
    [
      'from where it is put',
      'TCCR1A = 0; TCCR1B = _BV(CS12); TCNT1 = 3036; TIMSK1 = _BV(TOIE1);',
      'TIMER1_OVF_vect',
      0,
    ],
    [
      'eight bits, divided by their own steps',
      'TCCR2A = _BV(WGM21); TCCR2B = _BV(CS22); OCR2A = 249; TIMSK2 = _BV(OCIE2A);',
      'TIMER2_COMPA_vect',
      979,
    ],
    [
      'up and down to a top',
      'TCCR1A = 0; TCCR1B = _BV(WGM13) | _BV(CS11); ICR1 = 10000; TIMSK1 = _BV(TOIE1);',
      'TIMER1_OVF_vect',
      97,
    ],
    [
      'up and down, met twice a round',
      'TCCR1A = 0; TCCR1B = _BV(WGM13) | _BV(CS11); ICR1 = 10000; OCR1B = 5000; TIMSK1 = _BV(OCIE1B);',
      'TIMER1_COMPB_vect',
      195,
    ],
    ['beside the clock of the core', 'OCR0A = 128; TIMSK0 |= _BV(OCIE0A);', 'TIMER0_COMPA_vect', 956],
  ])('%s', (_, set, vector, times) => {
    const result = counted(set, vector)
    const [count] = said(result).map(Number)
    expect(Math.abs(count! - times)).toBeLessThanOrEqual(times > 500 ? 3 : 1)
    expect(kinds(result)).toEqual([])
  })
  it('run at half the speed on a board of eight megahertz', () => {
    const set = 'TCCR1A = 0; TCCR1B = _BV(WGM12) | _BV(CS12); OCR1A = 6249; TIMSK1 = _BV(OCIE1A);'
    expect(said(counted(set, 'TIMER1_COMPA_vect', { ...none, mcu: 'pro-mini-3v3' }))).toEqual(['4'])
  })
  it('whose mode is left as the core has set it never come to a large value', () => {
    const { findings } = counted(
      'TCCR1B = _BV(WGM12) | _BV(CS12); OCR1A = 6249; TIMSK1 = _BV(OCIE1A);',
      'TIMER1_COMPA_vect',
    )
    expect(findings.map(({ kind, message }) => [kind, message])).toEqual([
      ['never-comes', 'Timer 1 counts to 255 and never comes to 6249, the value of OCR1A.'],
    ])
  })
  it('to whose bits of the clock those of the core are added stand still', () => {
    const { findings } = counted(
      'TCCR1A = 0; TCCR1B |= _BV(WGM12) | _BV(CS12); OCR1A = 6249; TIMSK1 = _BV(OCIE1A);',
      'TIMER1_COMPA_vect',
    )
    expect(findings.map(({ kind, message }) => [kind, message])).toEqual([
      ['never-comes', 'Timer 1 is clocked from outside, by the bits CS12 to CS10 together, and stands still.'],
    ])
  })
  it('that count to a value never run over', () => {
    const { findings } = counted(
      'TCCR2A = _BV(WGM21); TCCR2B = _BV(CS22); OCR2A = 99; TIMSK2 = _BV(TOIE2);',
      'TIMER2_OVF_vect',
    )
    expect(findings.map(({ message }) => message)).toEqual([
      'Timer 2 starts again at 99 and never runs over: TIMER2_OVF never comes.',
    ])
  })
  it('without a handler for what they call start the board anew', () => {
    const { findings } = run(none, once('  TCCR2A = 0; TCCR2B = _BV(CS22); TIMSK2 = _BV(TOIE2);'), '', 1)
    expect(findings.map(({ kind, message }) => [kind, message.includes('ISR(TIMER2_OVF_vect)')])).toEqual([
      ['stopped', true],
    ])
  })
  it('are waited for by their flags', () => {
    const wait = 'void wait() { TCNT1 = 0; TIFR1 = _BV(OCF1A); while (!(TIFR1 & _BV(OCF1A))); }'
    const text = once(
      '  TCCR1A = 0; TCCR1B = _BV(WGM12) | _BV(CS12); OCR1A = 6249;\n  unsigned long a = millis(); wait(); Serial.println(millis() - a); wait(); wait(); Serial.println(millis() - a);',
      wait,
    )
    expect(said(run(none, text, '', 1))).toEqual(['100', '300'])
  })
  it('make pulses at their pins while these are outputs', () => {
    const text = (way: string): string =>
      `void setup() { ${way} TCCR1A = _BV(COM1A1) | _BV(WGM11); TCCR1B = _BV(WGM13) | _BV(WGM12) | _BV(CS11); ICR1 = 39999; OCR1A = 19999; }\nvoid loop() {}`
    const half = run(lampAt('9'), text('DDRB |= _BV(DDB1);'), '', 0.2)
    expect(half.shown.L!.at(-1)!.words).toBe('on, 4.2 mA')
    expect(run(lampAt('9'), text(''), '', 0.2).shown.L!.at(-1)!.words).toBe('off')
    expect(half.trace.lines.get('MCU.D9')!.at(-1)!.is).toMatchObject({ duty: 0.5, hertz: 50 })
  })
  it('change the pulses of analogWrite, and the clock where that counts their rounds', () => {
    const pulses = (text: string, pin: string) =>
      run(lampAt(pin), text, '', 0.2).trace.lines.get(`MCU.D${pin}`)!.at(-1)!.is
    expect(
      pulses('void setup() { TCCR1B = (TCCR1B & 0xF8) | 1; analogWrite(9, 64); }\nvoid loop() {}', '9'),
    ).toMatchObject({ hertz: 16e6 / 510 })
    expect(
      pulses('void setup() { analogWrite(9, 64); TCCR1B = (TCCR1B & 0xF8) | 1; }\nvoid loop() {}', '9'),
    ).toMatchObject({ hertz: 16e6 / 510 })
    const fast = once(
      '  TCCR0B = (TCCR0B & 0xF8) | 2; unsigned long a = millis(); delay(800); Serial.println(millis() - a);',
    )
    const { printed } = run(none, fast, '', 1)
    expect(printed.map(({ at, text }) => [Math.round(at / 10_000), text])).toEqual([[10, '800']])
  })
})

describe('interrupts by their registers', () => {
  const presses =
    '  - { at: 0.2, set: { K: closed } }\n  - { at: 0.4, set: { K: open } }\n  - { at: 0.6, set: { K: closed } }'
  const text = (set: string, vector: string): string =>
    `volatile int n = 0;\nISR(${vector}) { n++; }\nvoid setup() { Serial.begin(9600); ${set} }\nvoid loop() { delay(900); Serial.println(n); }`
  it('of a port call at each change', () => {
    const result = run(
      key,
      text('pinMode(8, INPUT_PULLUP); PCMSK0 |= _BV(PCINT0); PCICR |= _BV(PCIE0);', 'PCINT0_vect'),
      presses,
      1,
    )
    expect([said(result), kinds(result)]).toEqual([['3'], []])
    const off = 'pinMode(8, INPUT_PULLUP); PCMSK0 |= _BV(PCINT0); PCICR |= _BV(PCIE0); PCMSK0 = 0;'
    expect(said(run(key, text(off, 'PCINT0_vect'), presses, 1))).toEqual(['0'])
  })
  it.each([
    ['falling', '_BV(ISC11)', '2'],
    ['rising', '_BV(ISC11) | _BV(ISC10)', '1'],
    ['changing', '_BV(ISC10)', '3'],
  ])('of one pin call when it is %s', (_, sense, times) => {
    const plan: Short = { ...key, wires: 'K.1 MCU.3, K.2 MCU.GND' }
    const result = run(
      plan,
      text(`pinMode(3, INPUT_PULLUP); EICRA = ${sense}; EIMSK = _BV(INT1);`, 'INT1_vect'),
      presses,
      1,
    )
    expect([said(result), kinds(result)]).toEqual([[times], []])
  })
  it('wait while the status says so', () => {
    const text = once(
      '  uint8_t kept = SREG; cli(); Serial.println(SREG >> 7); SREG = kept; Serial.println(SREG >> 7);',
    )
    expect(said(run(none, text, '', 1))).toEqual(['0', '1'])
  })
  it('of the watchdog come again and again, or start the program anew', () => {
    const set = (bits: string): string => `WDTCSR = _BV(WDCE) | _BV(WDE); WDTCSR = ${bits};`
    expect(said(run(none, text(set('_BV(WDIE) | _BV(WDP2)'), 'WDT_vect'), '', 1))).toEqual(['3'])
    const anew = `void setup() { Serial.begin(9600); Serial.println("begins"); ${set('_BV(WDE) | _BV(WDP2)')} }\nvoid loop() {}`
    expect(said(run(none, anew, '', 1.5)).length).toBeGreaterThan(1)
  })
})

describe('the converter and the serial unit by their registers', () => {
  const halves: Short = {
    mcu: 'uno-r3',
    parts: { R: ohms(1000), S: ohms(1000) },
    wires: 'R.1 MCU.5V, R.2 MCU.A1, S.1 MCU.A1, S.2 MCU.GND',
  }
  it('reads a channel by its number, and its own reference', () => {
    const read = 'int read(uint8_t mux) { ADMUX = mux; ADCSRA |= _BV(ADSC); while (ADCSRA & _BV(ADSC)); return ADC; }'
    const text = once(
      '  Serial.println(read(_BV(REFS0) | 1)); Serial.println(read(_BV(REFS0) | 14)); Serial.println(read(_BV(REFS0) | 15)); Serial.println(read(_BV(REFS1) | _BV(REFS0) | 1)); ADMUX |= _BV(ADLAR); Serial.println(ADCH);',
      read,
    )
    const result = run(halves, text, '', 1)
    expect([said(result), kinds(result)]).toEqual([['512', '225', '0', '1023', '255'], []])
  })
  it('calls when a reading is there, and goes on by itself where asked', () => {
    const text = `volatile long n = 0; volatile int last = 0;\nISR(ADC_vect) { n++; last = ADCL; last |= ADCH << 8; }\nvoid setup() { Serial.begin(9600); ADMUX = _BV(REFS0) | 1; ADCSRA |= _BV(ADATE) | _BV(ADIE) | _BV(ADSC); }\nvoid loop() { delay(500); Serial.println(last); Serial.println(n > 4000 && n < 5000); }`
    expect(said(run(halves, text, '', 0.6))).toEqual(['512', '1'])
  })
  it('sends and hears bytes', () => {
    const text =
      'ISR(USART_RX_vect) { char c = UDR0; while (!(UCSR0A & _BV(UDRE0))); UDR0 = c + 1; UDR0 = 10; }\nint main() { UBRR0 = 103; UCSR0B = _BV(TXEN0) | _BV(RXEN0) | _BV(RXCIE0); sei(); for (;;) { } }'
    expect(said(run(none, text, '  - { at: 0.2, type: "ad" }', 0.5)).slice(0, 2)).toEqual(['b', 'e'])
  })
})
