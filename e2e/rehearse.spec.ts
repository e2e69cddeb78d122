import { expect, expectAccessible, test } from './fixture.ts'

const plan = (echo: string): string => `markpost: 1
title: Shed door
boards: { MCU: { board: nano-v3 } }
parts:
  EYE: { part: hc-sr04 }
  GATE: { part: button }
  LAMP: { part: led }
  R1: { part: resistor, options: { ohms: 330 } }
wires:
  - [EYE.VCC, MCU.5V]
  - [EYE.GND, MCU.GND]
  - [EYE.TRIG, MCU.D3]
  - [EYE.ECHO, ${echo}]
  - [GATE.1, MCU.D2]
  - [GATE.2, MCU.GND]
  - [LAMP.A, R1.1]
  - [R1.2, MCU.D5]
  - [LAMP.K, MCU.GND]
`
const sketch = `const int LAMP = 5, TRIG = 3, ECHO = 4, GATE = 2;
void setup() {
  Serial.begin(9600);
  pinMode(LAMP, OUTPUT); pinMode(TRIG, OUTPUT);
  pinMode(GATE, INPUT);
}
void loop() {
  digitalWrite(TRIG, HIGH); delayMicroseconds(10); digitalWrite(TRIG, LOW);
  long cm = pulseIn(ECHO, HIGH, 30000) / 58;
  Serial.println(cm);
  bool held = digitalRead(GATE) == LOW;
  digitalWrite(LAMP, cm < 20 || held);
  delay(100);
}
`

test('a program is dropped in, runs, is moved about, and what it finds is mended', async ({
  page,
  address,
  request,
}) => {
  const made = await request.post(`${address}/api/plans`, { data: { text: plan('MCU.D4') } })
  const { id } = (await made.json()) as { id: string }
  await page.goto(`${address}/plan/${id}/rehearse`)
  const files = page.getByLabel('Files of the program, or a script')
  const give = (name: string, text: string): Promise<void> =>
    files.setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  await give('door.ino', sketch)

  // A pin that floats is found, with its line and its moment.
  const findings = page.getByLabel('Findings of this run')
  await expect(findings.getByText('MCU.D2 is read while GATE is open, and nothing else holds the line.')).toBeVisible()
  await expect(findings.getByText(/door\.ino, line 11/)).toBeVisible()
  await expectAccessible(page)
  // It stands in the list beside every place, and leads back to its moment.
  await page.getByRole('link', { name: /^Pins/ }).click()
  await findings.getByRole('button', { name: /MCU\.D2 is read while GATE is open/ }).click()
  await expect(page).toHaveURL(/rehearse$/)
  await expect(findings.getByText(/door\.ino, line 11/)).toBeVisible()

  // The program is mended: the button has its pull, and nothing is said any more.
  await give('door.ino', sketch.replace('pinMode(GATE, INPUT)', 'pinMode(GATE, INPUT_PULLUP)'))
  await expect(findings.getByText('Nothing stands in the way.')).toBeVisible()
  // It goes on statement by statement, and round by round.
  await page.getByLabel('Moment').fill('2000000')
  const line = page.getByLabel('The program').locator('[aria-current=step]')
  await page.getByRole('button', { name: 'Next loop' }).click()
  await page.getByRole('button', { name: 'Next statement' }).click()
  await expect(line).toHaveText(/digitalWrite\(TRIG, HIGH\)/)
  for (const text of [/digitalWrite\(TRIG, HIGH\)/, /digitalWrite\(TRIG, HIGH\)/, /pulseIn/, /println/]) {
    await page.getByRole('button', { name: 'Next statement' }).click()
    await expect(line).toHaveText(text)
  }
  const rows = page.getByRole('list', { name: 'Lines over time' })
  const lamp = rows.getByRole('listitem').filter({ hasText: 'LAMP A' })
  await page.getByLabel('Moment').fill('4000000')
  await expect(lamp.getByRole('button', { name: 'off' })).toBeVisible()

  // One row is enough for the eye, and the lamp stands at the top.
  const count = await rows.getByRole('listitem').count()
  await rows.getByRole('button', { name: 'Fold EYE' }).click()
  await expect(rows.getByRole('listitem')).toHaveCount(count - 1)
  await rows.getByRole('button', { name: 'LAMP to the top' }).click()
  await expect(rows.getByRole('listitem').first()).toContainText('LAMP A')

  // A hand before the eye: the lamp lights, and that is expected from now on.
  const eye = rows.getByRole('slider', { name: 'EYE' })
  await page.getByLabel('Moment').fill('2000000')
  await eye.focus()
  await page.keyboard.press('Home')
  await page.getByLabel('Moment').fill('4000000')
  const lit = lamp.getByRole('button', { name: /^on, / })
  await expect(lit).toBeVisible()
  await lit.click()
  const script = page.getByLabel('What is done meanwhile')
  await expect(script.getByText('LAMP must be on')).toBeVisible()
  await expect(script.getByText('came')).toBeVisible()

  // Program and script are kept in the plan: they are there after the page was loaded anew, and can be undone.
  await expect(page.getByText(/^saved, rev/)).toBeVisible()
  await page.reload()
  await expect(page.getByRole('heading', { name: 'door.ino' }).first()).toBeVisible()
  await expect(script.getByText('LAMP must be on')).toBeVisible()
  await expect(script.getByText('came')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(script.getByText('LAMP must be on')).toHaveCount(0)

  // Another wire: what is expected does not come, and it is said.
  await page.getByRole('button', { name: 'Put it away' }).click()
  await expect(page.getByRole('heading', { name: 'Rehearse' })).toBeVisible()
  const other = await request.post(`${address}/api/plans`, { data: { text: plan('MCU.D7') } })
  const { id: second } = (await other.json()) as { id: string }
  await page.goto(`${address}/plan/${second}/rehearse`)
  await give('door.ino', sketch.replace('pinMode(GATE, INPUT)', 'pinMode(GATE, INPUT_PULLUP)'))
  await expect(findings.getByText(/pulseIn uses MCU\.D4, to which the plan has wired nothing/)).toBeVisible()

  // What cannot be read is said with its line.
  await give('door.ino', 'void setup() {\n  int x = ;\n}')
  await expect(page.getByRole('alert')).toHaveText('door.ino, line 2: expected a value, found ";"')
})

test('a program in Python runs on the board of the plan that takes Python', async ({ page, address, request }) => {
  const text = `markpost: 1
title: Porch lamp
boards: { MCU: { board: pico } }
parts:
  KEY: { part: button }
  LAMP: { part: led }
  R1: { part: resistor, options: { ohms: 330 } }
  DIM: { part: resistor, options: { ohms: 4700 } }
wires:
  - [KEY.1, MCU.GP14]
  - [KEY.2, MCU.GND]
  - [LAMP.A, R1.1]
  - [R1.2, MCU.GP15]
  - [LAMP.K, MCU.GND]
  - [DIM.1, MCU.GND]
  - [DIM.2, MCU.GP13]
`
  const made = await request.post(`${address}/api/plans`, { data: { text } })
  const { id } = (await made.json()) as { id: string }
  await page.goto(`${address}/plan/${id}/rehearse`)
  const give = (name: string, program: string): Promise<void> =>
    page
      .getByLabel('Files of the program, or a script')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(program) })
  const program = (pull: string): string => `import time
from machine import Pin

lamp = Pin(15, Pin.OUT)
key = Pin(14, Pin.IN${pull})
while True:
    lamp.value(not key.value())
    time.sleep_ms(10)
`
  await give('main.py', program(''))
  const findings = page.getByLabel('Findings of this run')
  await expect(findings.getByText(/main\.py, line 7/)).toBeVisible()
  await expect(findings.getByText('MCU.GP14 is read while KEY is open, and nothing else holds the line.')).toBeVisible()
  await give('main.py', program(', Pin.PULL_UP'))
  await expect(findings.getByText('Nothing stands in the way.')).toBeVisible()
  // Lines on which nothing happens can be left out: only the lamp's has moved, and the key can be.
  const rows = page.getByRole('list', { name: 'Lines over time' }).getByRole('listitem')
  await expect(rows).toHaveCount(3)
  await page.getByLabel('only what moves').check()
  await expect(rows).toHaveCount(2)
  // A text that is no program keeps the last one in sight and says where it ends.
  await give('main.py', 'while True\n  pass\n')
  await expect(page.getByRole('alert')).toContainText('main.py, line 1')
})

test('two boards run together, each its own program', async ({ page, address, request }) => {
  const text = `markpost: 1
title: Two sheds
boards: { NEAR: { board: mega-2560-r3 }, FAR: { board: mega-2560-r3 } }
wires:
  - [NEAR.GND, FAR.GND]
  - [NEAR.D18, FAR.D19]
`
  const made = await request.post(`${address}/api/plans`, { data: { text } })
  const { id } = (await made.json()) as { id: string }
  await page.goto(`${address}/plan/${id}/rehearse`)
  const give = (name: string, program: string): Promise<void> =>
    page
      .getByLabel('Files of the program, or a script')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(program) })
  const near = (baud: number): string =>
    `void setup() { Serial1.begin(${baud}); }\nvoid loop() { Serial1.println("rain"); delay(1000); }`
  const far =
    'void setup() { Serial.begin(9600); Serial1.begin(9600); }\nvoid loop() {\n  if (Serial1.available()) Serial.println(Serial1.readStringUntil(10));\n  delay(5);\n}'
  await expect(page.getByText('Each board has its own program')).toBeVisible()
  await give('near.ino', near(9600))
  await page.getByLabel('Board', { exact: true }).selectOption('FAR')
  await give('far.ino', far)
  await page.getByLabel('Moment').fill('4000000')
  await expect(page.getByLabel('Serial line').getByText('rain')).toHaveCount(4)
  // The other end speaks faster: it is found, in the words of both.
  await page.getByLabel('Board', { exact: true }).selectOption('NEAR')
  await give('near.ino', near(19200))
  await expect(page.getByLabel('Findings of this run')).toContainText(
    'Serial1 listens at 9600 bits a second, and what comes at FAR.D19 is sent at 19200.',
  )
})
