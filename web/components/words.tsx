import type { ReactNode } from 'react'
import { Fragment } from 'react'
import { OverlayTrigger, Tooltip } from 'react-bootstrap'

/** Words of ours and of the trade, as they are used here. */
export const words = {
  post: 'a pin of the board, with its names and what it can do',
  flag: 'a signal that hangs on a post; it points away from the board for an output, towards it for an input',
  host: 'what a signal can hang on: a pin of a board or of an expander, or a switched output',
  fault: 'the build would not work, or something would be damaged',
  caution: 'it may work, and something speaks against it: read why before you build',
  tip: 'it works; this would make it better',
  fix: 'edits that mend a finding, tried before they are offered',
  companion: 'a small part that another one needs: a resistor, a capacitor, a diode',
  strap: 'a pin that is fixed high or low, to set an address or a mode',
  lock: 'the wires stay where they are, whatever the tool moves',
  'output left': 'free pins that can be driven high and low',
  'pulse left': 'free pins that can give pulses of any width (PWM), for servos and dimming',
  'edge left': 'free pins that stop the program at once when their level changes (interrupt)',
  'analog left': 'free pins that measure a voltage',
  selects: 'SPI select lines in use, one for each part on that bus',
  addresses: 'numbers in use on an I2C bus; each part on it needs one of its own',
  I2C: 'a bus of two lines, SDA and SCL, that many parts share, each with an address',
  SPI: 'a bus of three lines that parts share, and one select line for each',
  UART: 'a serial line for two parts: the TX of one goes to the RX of the other',
  '1-Wire': 'one line that many thermometers share, with one pull-up resistor',
  'pull-up': 'a resistor to the supply, which holds a line high while nobody drives it',
  rail: 'a supply or ground that many pins share; on a breadboard the long rows at its sides',
  'pull-down': 'a resistor to ground, which holds a line low while nobody drives it',
  divider: 'two resistors in series to ground; between them is a fixed share of the voltage',
  'level shifter': 'a small module that carries signals between parts of different voltages',
  decoupling: 'a small capacitor close to a chip’s supply, for what it draws in short bursts',
  floats: 'is held neither high nor low: it reads whatever is near',
  PWM: 'pulses whose width changes, quick enough to look like a dimmed level',
  ADC: 'what turns a voltage at a pin into a number',
  'open drain': 'an output that only pulls low; a pull-up makes the high',
  'strapping pin': 'a pin that the board reads once when it starts, to choose how',
  interrupt: 'a change at a pin that stops the program at once to call a function of it',
  'select line': 'the line that says which part on an SPI bus is meant',
  regulator: 'what makes a steady lower voltage out of a higher one',
  converter: 'what makes one steady voltage out of another one',
  'back-feeding': 'current that runs into a part through its signals while its supply is off',
  'flyback diode': 'the way for the current of a coil at the moment when it is switched off',
  stall: 'a motor that is held and cannot turn; it draws its most then',
} as const

/** A word that says on hover and on focus what it means. */
export function Term({ word, children }: { readonly word: keyof typeof words; readonly children?: ReactNode }) {
  return (
    <OverlayTrigger placement="top" overlay={<Tooltip id={`term-${word}`}>{words[word]}</Tooltip>}>
      <span className="term" tabIndex={0}>
        {children ?? word}
      </span>
    </OverlayTrigger>
  )
}

const known = Object.keys(words).filter((word) => !/ left$|^(?:post|flag|host|fix|lock|tip|fault|caution)$/.test(word))
const inProse = new RegExp(`(?<![\\w-])(${known.join('|')})(s?)(?![\\w-])`, 'g')

/** A text in which the words of the trade say what they mean, each where it comes up first. */
export function Explained({ text }: { readonly text: string }) {
  const met = new Set<string>()
  const pieces: ReactNode[] = []
  let from = 0
  for (const { 0: all, 1: word = '', index } of text.matchAll(inProse)) {
    if (met.has(word)) continue
    met.add(word)
    pieces.push(
      <Fragment key={from}>{text.slice(from, index)}</Fragment>,
      <Term key={word} word={word as keyof typeof words}>
        {all}
      </Term>,
    )
    from = index + all.length
  }
  return (
    <>
      {pieces}
      {text.slice(from)}
    </>
  )
}
