import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { guessFormat, readMoment, readNumber } from "./figures";

describe("a number", () => {
  it.each<[string, "point" | "comma" | undefined, number | null]>([
    ["6,29", undefined, 6.29],
    ["6.29", undefined, 6.29],
    ["1.011,50", undefined, 1011.5],
    ["1,011.50", undefined, 1011.5],
    ["1,850", undefined, 1850],
    ["1.850", undefined, 1.85],
    ["1,850", "comma", 1.85],
    ["1.850", "comma", 1850],
    ["1.850", "point", 1.85],
    ["1.234.567", undefined, 1234567],
    ["1,234,567.8", undefined, 1234567.8],
    ["0,125", undefined, 0.125],
    ["1234,567", undefined, 1234.567],
    [".5", undefined, 0.5],
    ["£1,850.50", undefined, 1850.5],
    ["6,29 €", undefined, 6.29],
    ["EUR 6,29", undefined, 6.29],
    ["1 011,50 €", undefined, 1011.5],
    ["1’011.50", undefined, 1011.5],
    ["-3", undefined, -3],
    ["−3", undefined, -3],
    ["8 mm", undefined, 8],
    ["12 %", undefined, 12],
    ["31/12/2024", undefined, null],
    ["31.12.2024", undefined, null],
    ["3 x 2", undefined, null],
    ["8-12 mm", undefined, null],
    ["1,2,3", undefined, null],
    ["12.34,5.6", undefined, null],
    ["many", undefined, null],
    ["", undefined, null],
  ])("%j in %s is %j", (text, format, expected) => expect(readNumber(text, format)).toBe(expected));

  it("is itself again, however a language writes it", () => {
    const written = fc.tuple(
      fc.integer({ min: 0, max: 10_000_000 }),
      fc.constantFrom("en", "de", "fr", "de-CH", "sv", "en-IN-u-nu-latn"),
    );
    fc.assert(
      fc.property(written, ([hundredths, language]) => {
        const value = hundredths / 100;
        if (language.startsWith("en-IN")) return;
        const text = new Intl.NumberFormat(language, { minimumFractionDigits: 2 }).format(value);
        expect(readNumber(text)).toBe(value);
      }),
      { numRuns: 2000 },
    );
  });
});

describe("a day or a moment", () => {
  const day = (text: string) => ({ from: Date.parse(`${text}T00:00:00Z`), to: Date.parse(`${text}T23:59:59.999Z`) });
  const at = (text: string) => ({ from: Date.parse(text), to: Date.parse(text) });

  it.each<[string, "day-first" | "month-first" | undefined, { from: number; to: number } | null]>([
    ["2024-12-31", undefined, day("2024-12-31")],
    ["20241231", undefined, day("2024-12-31")],
    ["31/12/2024", undefined, day("2024-12-31")],
    ["12/31/2024", undefined, day("2024-12-31")],
    ["3/4/2024", undefined, day("2024-04-03")],
    ["3/4/2024", "month-first", day("2024-03-04")],
    ["3.4.2024", "month-first", day("2024-04-03")],
    ["3.4.24", undefined, day("2024-04-03")],
    ["3-4-99", undefined, day("1999-04-03")],
    ["2024-12-31T10:30:00Z", undefined, at("2024-12-31T10:30:00Z")],
    ["2024-12-31 10:30", undefined, at("2024-12-31T10:30:00Z")],
    ["2024-12-31T10:30:00.250+02:00", undefined, at("2024-12-31T08:30:00.250Z")],
    ["31.12.2024 10:30", undefined, at("2024-12-31T10:30:00Z")],
    ["2024-02-30", undefined, null],
    ["31/13/2024", undefined, null],
    ["2024-02", undefined, { from: Date.parse("2024-02-01T00:00:00Z"), to: Date.parse("2024-02-29T23:59:59.999Z") }],
    ["2024-13", undefined, null],
    ["2024", undefined, null],
    ["12.5", undefined, null],
    ["soon", undefined, null],
  ])("%j, %s", (text, format, expected) => expect(readMoment(text, format)).toEqual(expected));
});

describe("a column's format", () => {
  it.each<[string[], string, object | null]>([
    [["6,29", "1.011,50"], "en", { type: "number", format: "comma", isSure: true }],
    [["6.29", "1,011.50"], "de", { type: "number", format: "point", isSure: true }],
    [["1.850", "2.400"], "de", { type: "number", format: "comma", isSure: false, examples: ["1.850", "2.400"] }],
    [["1.850", "2.400"], "en", { type: "number", format: "point", isSure: false }],
    [["6,29", "6,29", "many", "7,10", "8,00", "9,00"], "en", { format: "comma", unread: 1 }],
    [["31/12/2024", "1/2/2024"], "en", { type: "day", format: "day-first", isSure: true, examples: ["1/2/2024"] }],
    [["12/31/2024", "1/2/2024"], "en", { type: "day", format: "month-first", isSure: true }],
    [["1/2/2024"], "en-US", { type: "day", format: "month-first", isSure: false }],
    [["2024-12-31"], "en", null],
    [["3", "4"], "en", null],
    [["red", "blue"], "en", null],
    [["", " "], "en", null],
  ])("of %j in %s", (values, language, expected) => {
    const guess = guessFormat(values, language);
    if (expected === null) expect(guess).toBeNull();
    else expect(guess).toMatchObject(expected);
  });
});
