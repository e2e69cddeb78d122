import { describe, expect, it } from 'vitest'
import type { PlanBoard } from '../plan/planSchema.ts'
import { type Short, wiringOf } from '../testing/plans.ts'
import { bootLines, settingsOf, settingsText } from './settings.ts'

const pi = (parts: Short['parts'], wires: string, entry: Partial<PlanBoard> = {}) =>
  settingsOf(wiringOf({ boards: { PI: { board: 'pi-40', ...entry } }, parts: parts ?? {}, wires }), 'PI')!
const i2c = 'A.SDA PI.GPIO2, A.SCL PI.GPIO3'
const spi = 'A.SCK PI.GPIO11, A.SO PI.GPIO9, A.CS PI.GPIO8'

describe('lines for the boot configuration', () => {
  it.each<[string, ReturnType<typeof pi>, string[]]>([
    ['a lamp needs none', pi({ L: 'led' }, 'L.A PI.GPIO17'), []],
    ['I2C', pi({ A: 'bme280' }, i2c), ['dtparam=i2c_arm=on']],
    [
      'I2C faster than usual',
      pi({ A: 'bme280' }, i2c, { clocks: { i2c1: 400_000 } }),
      ['dtparam=i2c_arm=on', 'dtparam=i2c_arm_baudrate=400000'],
    ],
    [
      'I2C 1 of the model 5 names its pins',
      pi({ A: 'bme280' }, i2c, { variant: '5' }),
      ['dtoverlay=i2c1-pi5,pins_2_3'],
    ],
    [
      'a further bus of the model 4, faster',
      pi({ A: 'bme280' }, 'A.SDA PI.GPIO22, A.SCL PI.GPIO23', { variant: '4b', clocks: { i2c6: 400_000 } }),
      ['dtoverlay=i2c6,pins_22_23,baudrate=400000'],
    ],
    [
      'a bus that the model 3 does not have is made by software',
      pi({ A: 'bme280' }, 'A.SDA PI.GPIO22, A.SCL PI.GPIO23', { variant: '3b-plus' }),
      ['dtoverlay=i2c-gpio,bus=11,i2c_gpio_sda=22,i2c_gpio_scl=23,i2c_gpio_delay_us=2'],
    ],
    ['SPI with its first select', pi({ A: 'max6675' }, spi), ['dtparam=spi=on']],
    ['SPI with its second select alone', pi({ A: 'max6675' }, spi.replace('GPIO8', 'GPIO7')), ['dtparam=spi=on']],
    [
      'SPI with a select elsewhere',
      pi({ A: 'max6675' }, spi.replace('GPIO8', 'GPIO25')),
      ['dtparam=spi=on', 'dtoverlay=spi0-1cs,cs0_pin=25'],
    ],
    [
      'SPI with two selects, one elsewhere',
      pi({ A: 'max6675', B: 'max6675' }, `${spi}, B.SCK PI.GPIO11, B.SO PI.GPIO9, B.CS PI.GPIO24`),
      ['dtparam=spi=on', 'dtoverlay=spi0-2cs,cs1_pin=24'],
    ],
    [
      'the second SPI bus',
      pi({ A: 'max6675' }, 'A.SCK PI.GPIO21, A.SO PI.GPIO19, A.CS PI.GPIO18'),
      ['dtoverlay=spi1-1cs'],
    ],
    [
      'the second SPI bus with its second select alone keeps the first one’s place',
      pi({ A: 'max6675' }, 'A.SCK PI.GPIO21, A.SO PI.GPIO19, A.CS PI.GPIO17'),
      ['dtoverlay=spi1-2cs'],
    ],
    ['a serial line', pi({ G: 'gps-uart' }, 'G.TX PI.GPIO15, G.RX PI.GPIO14'), ['enable_uart=1']],
    [
      'a serial line of the model 5',
      pi({ G: 'gps-uart' }, 'G.TX PI.GPIO15, G.RX PI.GPIO14', { variant: '5' }),
      ['dtparam=uart0=on'],
    ],
    ['1-Wire tells its pin', pi({ P: 'ds18b20' }, 'P.DQ PI.GPIO26'), ['dtoverlay=w1-gpio,gpiopin=26']],
    [
      'two probes on one line are told once',
      pi({ P: 'ds18b20', Q: 'ds18b20' }, 'P.DQ PI.GPIO26, Q.DQ PI.GPIO26'),
      ['dtoverlay=w1-gpio,gpiopin=26'],
    ],
    ['a receiver of remotes', pi({ R: 'ir-receiver' }, 'R.OUT PI.GPIO5'), ['dtoverlay=gpio-ir,gpio_pin=5']],
    [
      'a clock chip is a wish beside its bus',
      pi({ A: 'ds3231' }, i2c),
      ['dtparam=i2c_arm=on', 'dtoverlay=i2c-rtc,ds3231'],
    ],
    [
      'PWM by hardware takes the sound',
      pi({ S: 'servo-sg90' }, 'S.SIG PI.GPIO18'),
      ['dtoverlay=pwm,pin=18,func=2', 'dtparam=audio=off'],
    ],
    [
      'the model 5 has no sound to take',
      pi({ S: 'servo-sg90' }, 'S.SIG PI.GPIO18', { variant: '5' }),
      ['dtoverlay=pwm,pin=18,func=2'],
    ],
    ['PWM by software needs none', pi({ S: 'servo-sg90' }, 'S.SIG PI.GPIO22'), []],
  ])('%s', (_, settings, lines) => expect(bootLines(settings)).toEqual(lines))
})

const titles = (settings: ReturnType<typeof pi>): string[] => settings.settings.map((one) => one.title)

describe('what must be done by hand', () => {
  it('the login console goes when its pins are used, and is kept when the plan keeps it', () => {
    const line = 'G.TX PI.GPIO15, G.RX PI.GPIO14'
    const off = pi({ G: 'gps-uart' }, line)
    expect(titles(off)).toContain('Serial console off: G uses its pins')
    expect(settingsText(off)).toContain('console=serial0,115200 out of /boot/firmware/cmdline.txt')
    expect(titles(pi({ L: 'led' }, 'L.A PI.GPIO14'))).toContain('Serial console off: L uses its pins')
    expect(titles(pi({ L: 'led' }, 'L.A PI.GPIO17'))).not.toContain('Serial console off: L uses its pins')
    const kept = pi({ L: 'led' }, 'L.A PI.GPIO17', { uses: ['serial-console'] })
    expect(kept.settings.find((one) => one.title === 'Serial console is kept')?.needed).toBe(false)
  })

  it('rights are those of the interfaces in use, and no others', () => {
    const rights = (settings: ReturnType<typeof pi>): string =>
      settings.settings.find((one) => one.title === 'Rights of the user')?.steps.join() ?? ''
    expect(rights(pi({ L: 'led' }, 'L.A PI.GPIO17'))).toBe('sudo usermod -aG gpio $USER')
    expect(rights(pi({ A: 'bme280' }, i2c))).toBe('sudo usermod -aG i2c $USER')
    expect(rights(pi({ G: 'gps-uart', L: 'led' }, 'G.TX PI.GPIO15, G.RX PI.GPIO14, L.A PI.GPIO17'))).toBe(
      'sudo usermod -aG dialout,gpio $USER',
    )
    expect(settingsText(pi({}, ''))).toContain('Nothing needs to be set.')
  })

  it('a board that runs the program alone has no settings, one with another system its own', () => {
    expect(settingsOf(wiringOf({ mcu: 'uno-r3' }), 'MCU')).toBeUndefined()
    const jetson = settingsOf(
      wiringOf({ mcu: 'jetson-nano-40', parts: { A: 'bme280' }, wires: 'A.SDA MCU.I2C1_SDA, A.SCL MCU.I2C1_SCL' }),
      'MCU',
    )!
    expect(bootLines(jetson)).toEqual([])
    expect(jetson.settings[0]).toMatchObject({ device: '/dev/i2c-1', steps: ['Always there.'] })
  })
})
