import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { run } from './testing/quick.ts'

/** The header by which programs ask for it, as its file has it. */
const header = /headers: \[(.+?)\]/.exec(readFileSync('catalog/drivers/documents.yaml', 'utf8'))?.[1]

const said = (body: string, mcu = 'esp32-devkit-30', above = ''): string[] => {
  const result = run(
    { mcu },
    `#include <${header}>\n${above}\nvoid setup() { Serial.begin(115200); ${body} }\nvoid loop() { delay(1000); }`,
    '',
    0.5,
  )
  expect(result.findings.filter(({ kind }) => kind !== 'made-up').map(({ message }) => message)).toEqual([])
  return result.printed.map(({ text }) => text)
}

describe('documents of names and values', () => {
  it('are built and written', () => {
    expect(
      said(`JsonDocument doc; doc["name"] = "shed"; doc["on"] = true; doc["at"] = 7; doc["t"] = -2.50; doc["none"] = nullptr;
        doc["list"][0] = 1; doc["list"][2] = "three"; JsonObject in = doc["in"].to<JsonObject>(); in["x"] = 5; in["y"]["z"] = "a \\"b\\"";
        serializeJson(doc, Serial); Serial.println(); Serial.println(measureJson(doc)); Serial.println(doc.size());
        doc.remove("list"); doc["at"] = "gone"; String text; serializeJson(doc, text); Serial.println(text);
        char small[8]; serializeJson(doc["at"].isNull() ? doc : doc, small, sizeof(small)); Serial.println(small);`),
    ).toEqual([
      '{"name":"shed","on":true,"at":7,"t":-2.5,"none":null,"list":[1,null,"three"],"in":{"x":5,"y":{"z":"a \\"b\\""}}}',
      '110',
      '7',
      '{"name":"shed","on":true,"at":"gone","t":-2.5,"none":null,"in":{"x":5,"y":{"z":"a \\"b\\""}}}',
      '{"name"',
    ])
  })

  it('are read, with what stands in where nothing is', () => {
    expect(
      said(`const char *text = "{\\"lamp\\": {\\"level\\": 42, \\"names\\": [\\"a\\", \\"b\\\\n\\"]}, \\"ok\\": true, \\"t\\": 1.5e1, \\"big\\": 1700000000, \\"nil\\": null}";
        DynamicJsonDocument doc(1024); DeserializationError error = deserializeJson(doc, text); Serial.println(error.c_str());
        int level = doc["lamp"]["level"]; bool ok = doc["ok"]; float t = doc["t"]; unsigned long big = doc["big"]; const char *first = doc["lamp"]["names"][0];
        Serial.println(level); Serial.println(ok); Serial.println(t); Serial.println(big); Serial.println(first);
        Serial.println(doc["no"] | 9); Serial.println(doc["lamp"]["level"] | 9); Serial.println(doc["no"] | "none"); Serial.println(doc["no"].isNull()); Serial.println(doc["nil"].isNull());
        Serial.println(doc["lamp"]["level"].is<int>()); Serial.println(doc["ok"].is<const char *>()); Serial.println(doc["lamp"]["names"].as<JsonArray>().size());
        if (doc["lamp"]["names"][0] == "a") Serial.println("same"); if (doc.containsKey("t") && !doc.containsKey("u")) Serial.println("keys");
        String s = doc["lamp"]["names"][0].as<String>() + "!"; Serial.println(s); Serial.println(doc["lamp"].as<String>());`),
    ).toEqual([
      'Ok',
      '42',
      '1',
      '15.00',
      '1700000000',
      'a',
      '9',
      '42',
      'none',
      '1',
      '1',
      '1',
      '0',
      '2',
      'same',
      'keys',
      'a!',
      '{"level":42,"names":["a","b\\n"]}',
    ])
  })

  it('are gone through, by place and by name', () => {
    expect(
      said(`JsonDocument doc; deserializeJson(doc, "{\\"v\\":[3,4,5],\\"o\\":{\\"a\\":1,\\"b\\":\\"two\\"}}");
        int sum = 0; for (JsonVariant one : doc["v"].as<JsonArray>()) sum += one.as<int>(); Serial.println(sum);
        for (JsonPair pair : doc["o"].as<JsonObject>()) { Serial.print(pair.key().c_str()); Serial.print("="); Serial.println(pair.value().as<String>()); }
        JsonArray rows = doc["rows"].to<JsonArray>(); for (int i = 0; i < 2; i++) { JsonObject row = rows.add<JsonObject>(); row["n"] = i; }
        JsonDocument other; other["copy"] = doc["o"]; other["copy"]["a"] = 2; serializeJson(other, Serial); Serial.println(); serializeJson(doc, Serial); Serial.println();`),
    ).toEqual([
      '12',
      'a=1',
      'b=two',
      '{"copy":{"a":2,"b":"two"}}',
      '{"v":[3,4,5],"o":{"a":1,"b":"two"},"rows":[{"n":0},{"n":1}]}',
    ])
  })

  it.each([
    ['', 'EmptyInput'],
    ['{', 'IncompleteInput'],
    ['{\\"a\\":1', 'IncompleteInput'],
    ['{\\"a\\" 1}', 'InvalidInput'],
    ['{a:1}', 'InvalidInput'],
    ['[1,2,]', 'InvalidInput'],
    ['[1 2]', 'InvalidInput'],
    ['{\\"a\\":\\"b}', 'IncompleteInput'],
    ['[]', 'Ok'],
    ['12', 'Ok'],
  ])('%s is told as %s', (text, kind) => {
    expect(
      said(
        `JsonDocument doc; DeserializationError error = deserializeJson(doc, "${text}"); Serial.println(error.c_str()); Serial.println(error ? "bad" : "good");`,
      ),
    ).toEqual([kind, kind === 'Ok' ? 'good' : 'bad'])
  })

  it('serve a board of eight bits as well, and a document of its own size', () => {
    expect(
      said(
        `doc["level"] = 300L * 1; doc["ok"] = false; JsonArray all = doc.createNestedArray("all"); all.add(1); all.add("x"); serializeJson(doc, Serial); Serial.println();`,
        'uno-r3',
        'StaticJsonDocument<200> doc;',
      ),
    ).toEqual(['{"level":300,"ok":false,"all":[1,"x"]}'])
  })
})
