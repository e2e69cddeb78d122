/** A kit as it is typed, and what must come of it. */
export interface TypedKit {
  readonly typed: string
  readonly why: string
  /** Nets that must be: ends of each, as patterns. */
  readonly wired: string
  /** Ends that no wire reaches: what nobody needs stays in the box. */
  readonly open?: string
  /** Options that must come out: `BUCK.volts 5`. */
  readonly set?: string
  /** Rules that may still cry fault, where the kit is too small for what it is to do. */
  readonly faults?: readonly string[]
  /** Parts of the catalogue that are added; none where left out. */
  readonly adds?: readonly string[]
}

/** From the words to the wires: what an experienced maker makes of what is typed. */
export const typedKits: readonly TypedKit[] = [
  {
    typed: 'raspberry pi, ldr, 1uF capacitor, led',
    why: 'the board measures nothing: a plain pin counts how long the capacitor takes to fill',
    wired: 'LDR.2 C1.1, C1.2 MCU.GND, LDR.1 MCU.3V3',
  },
  {
    typed: 'raspberry pi, ldr, 1uF capacitor, pcf8591',
    why: 'the converter measures a divider',
    wired: 'LDR.2 R1.1 ADDA.AIN0',
    open: 'C1.1',
  },
  {
    typed: 'nano, ldr, 1uF capacitor',
    why: 'the board measures, and a divider is quicker',
    wired: 'LDR.2 R1.1 MCU.A0',
    open: 'C1.1',
  },
  {
    typed: 'nano, 4 seven segment digits, 4 2n2222',
    why: 'lit one after the other they share seven lines and seven resistors',
    wired:
      'DIGIT1.COM TRANSISTOR1.C, DIGIT4.COM TRANSISTOR4.C, DIGIT1.A DIGIT2.A DIGIT3.A DIGIT4.A R1.1, TRANSISTOR4.E MCU.GND',
  },
  {
    typed: 'mega, 2 seven segment displays, 2 npn, 5v fan',
    why: 'one transistor is for the fan, and each digit has its own lines',
    wired: 'DIGIT1.COM DIGIT2.COM MCU.GND, FAN.- TRANSISTOR1.C',
  },
  {
    typed: 'nano, 4 seven segment digits, 4 2n2222, relay, pump, 12v adapter',
    why: 'the relay leads the adapter to the pump, and each transistor is for a digit',
    wired: 'DIGIT1.COM TRANSISTOR1.C, DIGIT4.COM TRANSISTOR4.C, PUMP.+ RELAY.NO, RELAY.COM SOCKET.+',
    set: 'PUMP.volts 12',
  },
  {
    typed: 'esp32, mosfet, 12v fan, 12v adapter, ds18b20, 4.7k',
    why: 'the one resistor of the kit is that of the probe',
    wired: 'R1.1 WARMTH.DQ, FAN.- SWITCH.D',
    adds: ['resistor'],
  },
  {
    typed: 'nano, l298n, 2 dc motors, 2 18650',
    why: 'two cells in a holder are one battery of 8.4 V',
    wired: 'BATTERY.+ DRIVERB.12V',
    set: 'BATTERY.volts 8.4',
  },
  {
    typed: 'esp32, tp4056, 2x 18650, boost, servo',
    why: 'a charger for one cell takes them one by one',
    wired: 'BATTERY1.+ CHARGER.B+, BOOST.IN+ CHARGER.OUT+',
    set: 'BATTERY1.volts 4.2',
  },
  {
    typed: 'raspberry pi, lcd 16x2, potentiometer',
    why: 'a computer reads no knob, so it is that of the contrast, between the rails of the display',
    wired: 'KNOB.W LCD.V0, KNOB.3 LCD.VDD MCU.5V, KNOB.1 MCU.GND',
  },
  {
    typed: 'pico, pico w, nrf24l01 x2, button, led',
    why: 'radios talk from board to board',
    wired: 'RADIO1.VCC MCU.3V3, RADIO2.VCC MCU2.3V3, RADIO2.SCK MCU2.GP18',
  },
  {
    typed: 'pi, l298n, 2 motors, 2 servos, 2s lipo, buck, hc-sr04, 1k, 2k',
    why: 'servos get the pulses of hardware, whoever was named before them and would like them for speed',
    wired: 'SERVO1.SIG MCU.GPIO1[28], SERVO2.SIG MCU.GPIO1[39], SERVO1.VCC BUCK.OUT+',
  },
  {
    typed: 'pico, 5v fan, 12v led strip, 2n2222, irlz44n, 12v 2a',
    why: 'of two that ask much the one that the base cannot carry goes to the other transistor',
    wired: 'FAN.- TRANSISTOR.C, TAPE.- SWITCH.D',
  },
  {
    typed: 'leonardo, 10 buttons, 2 joysticks',
    why: 'ten buttons stand in a row, and none on the block for programming the chip',
    wired: 'BUTTON1.1 MCU.D3, BUTTON5.1 MCU.D7, BUTTON6.1 MCU.D8, BUTTON10.1 MCU.D12',
  },
  {
    typed: 'raspberry pi, 2 inmp441, max98357a',
    why: 'two microphones speak in the two halves of one line, and the amplifier hears on the same clock',
    wired: 'MIC1.SD MIC2.SD MCU.GPIO20, MIC1.SCK MIC2.SCK AMP.BCLK MCU.GPIO18, AMP.DIN MCU.GPIO21, MIC2.L/R MCU.3V3',
    set: 'MIC2.channel right',
  },
  {
    typed: 'raspberry pi, 3 inmp441',
    why: 'a frame has two halves: the third one finds no place',
    wired: 'MIC1.SD MIC2.SD MCU.GPIO20',
    open: 'MIC3.SD',
    faults: ['pins-short'],
  },
  {
    typed: 'uno, 3 irlz44n, 12v rgb strip, 12v 2a, 3 potentiometers',
    why: 'colours are dimmed, so the gates get pins with pulses',
    wired: 'RGBTAPE.+ SOCKET.+, SWITCH1.G MCU.D5, SWITCH2.G MCU.D6, SWITCH3.G MCU.D9, RGBTAPE.R SWITCH1.D',
    set: 'SOCKET.milliamps 2000',
    adds: ['resistor', 'resistor', 'resistor'],
  },
  {
    typed: 'pico, buzzer, solenoid 12v, npn transistor, 12v 2a',
    why: 'the lock is too much for the transistor, which takes the buzzer off its pin then',
    wired: 'BUZZER.- TRANSISTOR.C, BUZZER.+ MCU.VBUS, TRANSISTOR.E MCU.GND',
    open: 'SOLENOID.-',
  },
  {
    typed: 'pico, buzzer, 5v fan, 2n2222, bc337',
    why: 'the stronger transistor is for the larger load, in whatever order they are named',
    wired: 'FAN.- TRANSISTOR2.C, BUZZER.- TRANSISTOR.C',
  },
  {
    typed: 'uno, dc motor, 2n2222, irlz44n, 9v battery',
    why: 'the motor starts with more than the small transistor bears',
    wired: 'MOTOR.M2 SWITCH.D, SWITCH.G MCU.D[3569]',
    open: 'TRANSISTOR.E TRANSISTOR.C',
    adds: ['resistor', 'diode'],
  },
  {
    typed: 'nano, 2n2222, relay',
    why: 'a relay board has its transistor; another one stays in the box, with its resistor',
    wired: 'RELAY.IN MCU.D[4-8]',
    open: 'TRANSISTOR.E TRANSISTOR.C R1.2',
  },
  {
    typed: 'arduino nano, 2 n20 motors, drv8833, 2x 18650 battery, buck, hc-sr04, servo',
    why: 'two cells in a row are 8.4 V, of which the converter makes what motors and servo take',
    wired: 'BATTERY.+ BUCK.IN+, BUCK.OUT+ DRIVERD.VCC SERVO.VCC, MOTOR1.M1 DRIVERD.AOUT1, BATTERY.- MCU.GND',
    set: 'BATTERY.volts 8.4',
  },
  {
    typed: 'pi, 2 stepper motors, 2 a4988, 12v power supply, limit switch x2',
    why: 'the drivers say which stepper motors are meant',
    wired: 'STEPN1.A+ STEPPER1.1A, STEPN2.B- STEPPER2.2B, SOCKET.+ STEPPER1.VMOT STEPPER2.VMOT',
    set: 'SOCKET.volts 12',
  },
  {
    typed: 'uno, keypad, lcd with i2c, 2 leds, 2 220 ohm resistors',
    why: 'the resistors of the kit are those of its lamps',
    wired: 'LED1.A R1.1, LED2.A R2.1',
    set: 'R1.ohms 220',
  },
  {
    typed: 'uno, hc-sr04, green led, yellow led, red led, 3 resistors',
    why: 'resistors of which nothing is said are what the lamps want',
    wired: 'LED.A R1.1, LED2.A R2.1, LED3.A R3.1',
    set: 'R3.ohms 330',
  },
  {
    typed: 'uno, tip120, 12v fan, 12v power supply, 1n4007, 1k resistor',
    why: 'a fan of 12 V hangs on the 12 V',
    wired: 'FAN.+ SOCKET.+ D1.K, FAN.- TRANSISTOR.C D1.A, TRANSISTOR.B R1.1, SOCKET.- MCU.GND',
    set: 'FAN.volts 12',
  },
  {
    typed: 'uno, servo, l293d, 2 dc motors, 9v battery',
    why: 'nor where something else has asked for more than the board gives before',
    wired: 'DRIVER.VS BATTERY.+, SERVO.VCC MCU.5V',
  },
  {
    typed: 'uno, l293d, 2 dc motors, 9v battery, servo',
    why: 'what the motors draw does not come from the board where there is a battery',
    wired: 'DRIVER.VS BATTERY.+, DRIVER.VSS MCU.5V',
  },
  {
    typed: 'esp32, l9110s, motor',
    why: 'a motor shakes the rail of 3.3 V that the board runs on, and 5 V are there',
    wired: 'DRIVERL.VCC MCU.(5V|VIN), MOTOR.M1 DRIVERL.OA1',
  },
  {
    typed: 'uno, 2n2222, dc motor, 1k resistor, 1n4001',
    why: 'the 3.3 V of an Uno give no 50 mA: a motor hangs on 5 V',
    wired: 'MOTOR.M1 MCU.5V D1.K, TRANSISTOR.B R1.1',
    set: 'D1.model 1n4001',
  },
  {
    typed: 'uno, sim800l, lm2596, 12v power supply',
    why: 'a converter that nobody has set yet is set to what the radio takes',
    wired: 'GSM.VCC BUCK.OUT+, BUCK.IN+ SOCKET.+',
    set: 'BUCK.volts 4',
  },
  {
    typed: 'esp32, 12v led strip, mosfet, boost, lipo battery',
    why: 'and one that raises to what the strip takes',
    wired: 'TAPE.+ BOOST.OUT+, BOOST.IN+ BATTERY.+, TAPE.- SWITCH.D',
    set: 'BOOST.volts 12',
    adds: ['resistor'],
  },
  {
    typed: 'esp32, 12v led strip, mosfet, 5v boost, lipo battery',
    why: 'what is said stays as it is',
    wired: 'TAPE.- SWITCH.D',
    set: 'BOOST.volts 5',
    adds: ['resistor'],
    faults: ['supply-missing'],
  },
  {
    typed: 'esp8266 nodemcu, door reed switch, 18650, tp4056, boost',
    why: 'the cell goes to its charger, and the converter raises what that gives',
    wired: 'BATTERY.+ CHARGER.B+, BATTERY.- CHARGER.B-, CHARGER.OUT+ BOOST.IN+, BOOST.OUT+ MCU.VIN',
    set: 'BATTERY.volts 4.2',
  },
  {
    typed: 'pi, hc-sr04, 1k resistor, 2k resistor',
    why: 'an echo of 5 V is divided by the two resistors of the kit',
    wired: 'ECHO.ECHO R1.1, R1.2 R2.1 MCU.GPIO27, R2.2 MCU.GND',
  },
  {
    typed: 'arduino mega, 4 relay board, 12v solenoid lock, 12v adapter',
    why: 'one board with four relays, the lock behind the first',
    wired: 'SOLENOID.+ RELAYS.NO1, RELAYS.COM1 SOCKET.+, SOLENOID.- SOCKET.-',
    set: 'SOCKET.volts 12',
  },
  {
    typed: 'uno, ws2812 strip, 5v power supply, 330 ohm resistor, 1000 uF capacitor, microphone',
    why: 'a board without I2S gets a microphone that is read as a voltage',
    wired: 'STRIP.DIN R1.1, C1.1 STRIP.5V SOCKET.+, MICA.OUT MCU.A\\d',
  },
  {
    typed: 'pi, 2 mcp3008, 3 potentiometers',
    why: 'the first takes the first select',
    wired: 'SAMPLER1.CS MCU.GPIO8, SAMPLER2.CS MCU.GPIO7, KNOB1.W SAMPLER1.CH0',
  },
  {
    typed: 'uno, 74hc595, 4 leds, 4 220 ohm resistors',
    why: 'a register bears four lamps of 12 mA together, and is there for them',
    wired: 'R1.2 SHIFT.QA, R4.2 SHIFT.QD, SHIFT.SER MCU.D4',
  },
  {
    typed: 'uno, 74hc595, 8 leds, 8 220 ohm resistors',
    why: 'eight lamps of 12 mA are more than the chip bears, and the pins of the board are enough',
    wired: 'R1.2 MCU.D8, R8.2 MCU.D2',
    open: 'SHIFT.QA',
  },
  {
    typed: 'pro mini, ft232, bme280',
    why: 'nothing else feeds the board, and its header is that of the adapter',
    wired: 'SERIALF.VCC MCU.VCC CLIMATE.VCC, SERIALF.TX MCU.D0, SERIALF.DTR MCU.DTR',
  },
  {
    typed: 'pro mini, ft232, 9v battery',
    why: 'the battery feeds the board, and the adapter only talks to it',
    wired: 'BATTERY.+ MCU.RAW, SERIALF.DTR MCU.DTR',
    open: 'SERIALF.VCC',
  },
  {
    typed: 'uno, ft232',
    why: 'a board with a socket of its own needs no volts and no reset from an adapter',
    wired: 'SERIALF.GND MCU.GND',
    open: 'SERIALF.VCC SERIALF.DTR',
  },
  {
    typed: 'mega, l298n, 4 motors, 7.4v battery',
    why: 'a car with four wheels and one bridge runs the two wheels of a side together',
    wired: 'MOTOR1.M1 MOTOR3.M1 DRIVERB.OUT1, MOTOR1.M2 MOTOR3.M2 DRIVERB.OUT2, MOTOR2.M1 MOTOR4.M1 DRIVERB.OUT3',
  },
  {
    typed: 'uno, l293d, 4 motors, 9v battery',
    why: 'two motors that start together are more than this bridge bears',
    wired: 'MOTOR1.M1 DRIVER.1Y, MOTOR2.M1 DRIVER.3Y',
    open: 'MOTOR3.M1 MOTOR4.M1',
  },
  {
    typed: 'uno, tb6612, 3 motors, 6v battery',
    why: 'three motors and two bridges: nobody knows which two should turn together',
    wired: 'MOTOR1.M1 DRIVERC.AO1, MOTOR2.M1 DRIVERC.BO1',
    open: 'MOTOR3.M1',
  },
  {
    typed: 'uno, l298n, 2 12v motors, 11.1v lipo, buck converter',
    why: 'a full battery is too much for the regulator of the bridge: its jumper comes off, and the converter makes the 5 V',
    wired: 'DRIVERB.12V BATTERY.+, DRIVERB.5V BUCK.OUT+ MCU.5V',
    set: 'DRIVERB.jumper off',
  },
  {
    typed: 'esp32 feather, lipo, neopixel 8',
    why: 'the board charges the cell and runs from it, and the lights hang on the same post',
    wired: 'BATTERY.+ MCU.BAT STRIP.5V',
  },
  {
    typed: 'uno, 2 servos, rgb led, 3 220 ohm resistors, 5v 2a supply',
    why: 'the library for servos takes the PWM of two pins: colours go where some is left, and servos need none',
    wired: 'R1.2 MCU.D(3|5|6|11), R2.2 MCU.D(3|5|6|11), R3.2 MCU.D(3|5|6|11)',
  },
  {
    typed: 'uno, led strip, 12v supply, mosfet, 10k resistor',
    why: 'what a transistor switches and 12 V feed is a tape that lights as a whole',
    wired: 'TAPE.- SWITCH.D, TAPE.+ SOCKET.+',
  },
  {
    typed: 'uno, 12v supply, buck converter, ldr, 10k resistor, 12v led strip, mosfet',
    why: 'the converter feeds the board at its 5 V, and the divider takes the same',
    wired: 'BUCK.OUT+ MCU.5V LDR.1, LDR.2 R1.1',
    adds: ['resistor'],
  },
  {
    typed: 'esp32, 4 channel relay, 5v 3a supply, oled, 4 soil sensors',
    why: 'four coils leave the board too little: they take the supply, and the small things stay with the board',
    wired: 'RELAYS.VCC SOCKET.+, OLED.VCC MCU.3V3, SOIL4.VCC MCU.3V3',
  },
  {
    typed: 'uno, ir receiver, 2 ir leds, 2 transistors, 2 100 ohm, 2 1k',
    why: 'infrared lamps bear more than a pin gives: the transistors switch them, and the values say which resistor is whose',
    wired: 'LED1.K TRANSISTOR1.C, LED2.K TRANSISTOR2.C, LED1.A R1.1, LED2.A R2.1, R1.2 R2.2 MCU.5V, TRANSISTOR1.B R3.1',
  },
  {
    typed: 'uno, ir led, transistor, 1k, 5v fan',
    why: 'the fan needs the transistor, and the lamp is seen near by with what a pin gives',
    wired: 'FAN.- TRANSISTOR.C, LED.K MCU.GND, TRANSISTOR.B R2.1',
  },
  {
    typed: 'mega, 24 leds',
    why: 'all lit at once they would be too much for the chip: the resistors, which nobody has yet, are larger',
    wired: 'LED1.A R1.1, LED24.A R24.1',
    set: 'R24.ohms 470',
  },
  {
    typed: 'mega, 20 leds',
    why: 'these the chip bears',
    wired: 'LED1.A R1.1',
    set: 'R20.ohms 330',
  },
  {
    typed: 'uno, 8 leds, 74hc595',
    why: 'the register carries them with resistors that suit its outputs',
    wired: 'R1.2 SHIFT.QA, R8.2 SHIFT.QH',
    set: 'R1.ohms 560',
  },
  {
    typed: 'uno, 8 leds, 74hc595, 8 330 ohm resistors',
    why: 'with those of the kit each output gives a little more than recommended, and the chip bears all of it',
    wired: 'R1.2 SHIFT.QA, R8.2 SHIFT.QH',
    set: 'R1.ohms 330',
  },
  {
    typed: 'uno, 8 channel relay, mcp23017',
    why: 'ports that would be idle take the relays, which they leave alone until the first message',
    wired: 'RELAYBANK.IN1 MORE.GPA0, RELAYBANK.IN8 MORE.GPB0',
    adds: ['resistor', 'resistor'],
  },
  {
    typed: 'raspberry pi, hc-sr04, 330 ohm, 470 ohm, led',
    why: 'the two resistors bring the echo down, and a third one before a lamp is easily had',
    wired: 'ECHO.ECHO R1.1, R1.2 R2.1 MCU.GPIO27, R2.2 MCU.GND, LED.A R3.1',
    adds: ['resistor'],
  },
  {
    typed: 'raspberry pi, hc-sr04, 2 leds, 2 330 ohm resistors',
    why: 'two resistors that do not bring the echo down are for the lamps',
    wired: 'LED1.A R1.1, LED2.A R2.1',
    open: 'ECHO.ECHO',
  },
  {
    typed: 'uno, a4988, nema 17, 12v supply, 100uf capacitor, fuse',
    why: 'nobody said what the fuse is made for: it has to bear the motor',
    wired: 'FUSE.1 SOCKET.+, FUSE.2 STEPPER.VMOT',
    set: 'FUSE.milliamps 2500',
  },
  {
    typed: 'uno, hc-sr04, 9v battery, fuse',
    why: 'the usual fuse bears what little flows',
    wired: 'FUSE.1 BATTERY.+, FUSE.2 MCU.VIN',
    set: 'FUSE.milliamps undefined',
  },
  {
    typed: 'esp32, lipo, tp4056, boost, ina219',
    why: 'the meter counts what goes into the cell and what it gives',
    wired: 'METER.VIN+ BATTERY.+, METER.VIN- CHARGER.B+, CHARGER.OUT- MCU.GND',
  },
  {
    typed: 'd1 mini, neopixel 8, level shifter, 7 buttons',
    why: 'the channel pulls its line up, so that it keeps off the pin that has to be low while the board starts',
    wired: 'SHIFTER.HV1 STRIP.DIN, SHIFTER.LV1 MCU.GPIO(4|5|12|13|14|16)',
    adds: ['resistor'],
  },
  {
    typed: 'esp32, l293d, dc motor, 9v battery',
    why: 'what this bridge keeps for itself leaves a small motor what it takes; from 5 V it would get too little',
    wired: 'DRIVER.VS BATTERY.+, DRIVER.VSS MCU.VIN, MOTOR.M1 DRIVER.1Y, BATTERY.- MCU.GND',
  },
  {
    typed: 'nano, mosfet, dc motor, 9v battery',
    why: 'a motor that comes with 9 V is made for them, and does not hang on the regulator of the board',
    wired: 'MOTOR.M1 BATTERY.+, MOTOR.M2 SWITCH.D, BATTERY.- MCU.GND',
    set: 'MOTOR.volts 12',
    adds: ['resistor', 'diode'],
  },
  {
    typed: 'uno, mosfet, dc motor, 6v battery',
    why: 'this is what its label says as a rule',
    wired: 'MOTOR.M1 BATTERY.+, MOTOR.M2 SWITCH.D',
    set: 'MOTOR.volts undefined',
    adds: ['resistor', 'diode'],
  },
  {
    typed: 'pico, tb6612, 2 dc motors, 9v battery',
    why: 'behind a bridge pulses lower what a motor gets: nobody says that it is one of 12 V',
    wired: 'DRIVERC.VM BATTERY.+, MOTOR1.M1 DRIVERC.AO1',
    set: 'MOTOR1.volts undefined',
  },
  {
    typed: 'uno, led, button, 220 ohm, 10k',
    why: 'what lies beside a button and a lamp is the pull of the one and the resistor of the other',
    wired: 'LED.A R1.1, R2.1 BUTTON.1, R2.2 MCU.5V, BUTTON.2 MCU.GND',
  },
  {
    typed: 'esp32, 2 buttons, reed switch, 3 10k resistors',
    why: 'each contact has its own',
    wired: 'R1.1 BUTTON1.1, R2.1 BUTTON2.1, R3.1 REED.1, R1.2 R2.2 R3.2 MCU.3V3',
  },
  {
    typed: 'uno, 2 buttons, 10k',
    why: 'one resistor does not do for two buttons, and the pins have pulls inside',
    wired: 'BUTTON1.2 BUTTON2.2 MCU.GND',
    open: 'R1.1 R1.2',
  },
  {
    typed: 'uno, button, dht22, 10k',
    why: 'the line of the sensor works only with it',
    wired: 'R1.1 DHT.DATA',
  },
  {
    typed: 'uno, button, 100k',
    why: 'a weak pull stays in the box: the one inside the pin is stronger',
    wired: 'BUTTON.2 MCU.GND',
    open: 'R1.1 R1.2',
  },
  {
    typed: 'esp32, 24 buttons, 24 10k resistors',
    why: 'a pin that has to be low while the board starts keeps its own pull',
    wired: 'R1.1 BUTTON1.1, R1.2 MCU.3V3',
    open: 'R24.1',
    faults: ['pins-short'],
  },
  {
    typed: 'jetson nano, mosfet, 12v fan, 12v supply',
    why: 'behind the shifters of this board a pin hardly bears a pull: it is a weak one',
    wired: 'SWITCH.G R1.1, R1.2 SWITCH.S, FAN.- SWITCH.D',
    set: 'R1.ohms 150000',
    adds: ['resistor'],
  },
  {
    typed: 'jetson nano, button',
    why: 'a contact works against its pull, not a pin: the usual one will do',
    wired: 'R1.1 BUTTON.1, R1.2 MCU.3V3',
    set: 'R1.ohms 10000',
    adds: ['resistor'],
  },
  {
    typed: 'jetson nano, keypad 4x4',
    why: 'a row bears the pulls of all columns while the keys of it are held',
    wired: 'R1.1 KEYS.C1, R1.2 MCU.3V3, R4.1 KEYS.C4',
    set: 'R1.ohms 680000',
    adds: ['resistor', 'resistor', 'resistor', 'resistor'],
  },
]
