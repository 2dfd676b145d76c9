import { expect, it } from "vitest";
import { isStudiosName, minorUnitsOf, originSchema, pinSchema, priceText } from "./index.ts";

it("knows a name that could be taken for the studio's, and no other", () => {
  // Look-alikes after Unicode's confusables (UTS 39): Cyrillic, Greek, full width, digits, dots and
  // spaces between.
  for (const name of [
    "studio",
    "Studio 5",
    "STUDIO",
    "S-t-u-d-i-o",
    "Ѕtudіо",
    "ѕтudio",
    "stud1o",
    "5tudio",
    "Ｓtudio",
    "stüdio",
  ])
    expect(isStudiosName(name), name).toBe(true);
  for (const name of ["Ada", "Студия", "Stud. Anna", "Maren Stühlmeyer", "St. Udo"])
    expect(isStudiosName(name), name).toBe(false);
});

it("counts money in its smallest unit, as ISO 4217 does: two decimals, none, three", () => {
  expect(minorUnitsOf("120", "EUR")).toBe(12_000);
  expect(minorUnitsOf("0,29", "EUR")).toBe(29);
  expect(minorUnitsOf("1.1", "USD")).toBe(110);
  expect(minorUnitsOf("12000", "JPY")).toBe(12_000);
  expect(minorUnitsOf("1.5", "KWD")).toBe(1500);
  for (const [amount, currency] of [
    ["0.001", "EUR"],
    ["1.5", "JPY"],
    ["-3", "EUR"],
    ["1e3", "EUR"],
    ["", "EUR"],
    ["10", "XYQ"],
    ["10", "eur"],
  ] as const)
    expect(minorUnitsOf(amount, currency), `${amount} ${currency}`).toBeNull();
  for (let minorUnits = 1; minorUnits < 3000; minorUnits += 7) {
    const text = priceText({ minorUnits, currency: "EUR" }).replace(/[^\d.]/g, "");
    expect(minorUnitsOf(text, "EUR")).toBe(minorUnits);
  }
});

it("takes as the address of another page an origin and nothing else", () => {
  for (const right of ["https://studio.example", "http://localhost:8080", "https://a.b-c.example"])
    expect(originSchema.safeParse(right).success, right).toBe(true);
  for (const wrong of [
    ...[
      "*",
      "https://*",
      "https://a.example/",
      "https://a.example/x",
      "javascript:alert(1)",
      "https://a.example; script-src *",
    ],
    ...["https://a.example 'self'", "https://user@a.example", "//a.example", ""],
  ])
    expect(originSchema.safeParse(wrong).success, wrong).toBe(false);
  expect(["1234", "123456789012"].every((pin) => pinSchema.safeParse(pin).success)).toBe(true);
  expect(["123", "12a4", "1234567890123", " 1234"].some((pin) => pinSchema.safeParse(pin).success)).toBe(false);
});
