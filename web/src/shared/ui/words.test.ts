import { describe, expect, it } from "vitest";

import { counted, length, minutes, sentence, toMm, toNumbers } from "./words";

describe("lengths", () => {
  it.each([
    ["4 1/4", "in", 107.95],
    ["4¼", "in", 107.95],
    ["4-1/4", "in", 107.95],
    ["4.25", "in", 107.95],
    ["1/2", "in", 12.7],
    ["10,8", "cm", 108],
  ] as const)("reads %s %s", (text, unit, mm) => expect(toMm(text, unit)).toBeCloseTo(mm, 6));

  it.each(["", "wide", "-3", "1/0", "4 1", "0", "1e3", "²"])("reads nothing out of %j", (text) =>
    expect(toMm(text, "in")).toBeNull(),
  );

  it("says eighths of an inch and reads them back", () => {
    for (let eighths = 1; eighths < 100; eighths += 1) {
      const mm = (eighths / 8) * 25.4;
      expect(toMm(length(mm, "in").replace(" in", ""), "in")).toBeCloseTo(mm, 6);
    }
  });
});

it.each([
  [0, "0 s"],
  [89, "89 s"],
  [90, "2 min"],
  [99 * 60, "99 min"],
  [125 * 60, "2 h 05 min"],
])("says %d seconds as %s", (seconds, words) => expect(minutes(seconds)).toBe(words));

it("counts and makes sentences", () => {
  expect(counted(1, "pass", "passes")).toBe("1 pass");
  expect(counted(0, "pass", "passes")).toBe("0 passes");
  expect(sentence("the sky is too dark")).toBe("The sky is too dark.");
});

describe("numbers one after the other", () => {
  it.each([
    ["15, 15, 15", [15, 15, 15]],
    ["12,5; 15", [12.5, 15]],
    ["12,5, 15", [12.5, 15]],
    ["12.5 15", [12.5, 15]],
    ["15,20,15", [15, 20, 15]],
    ["12,5", [12.5]],
    ["", []],
  ])("reads %j", (text, numbers) => expect(toNumbers(text)).toEqual(numbers));
});
