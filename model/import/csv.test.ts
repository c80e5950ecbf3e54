import fc from "fast-check";
import Papa from "papaparse";
import { expect, it } from "vitest";
import { cellOf, csvOf } from "./csv.ts";
import { decodeText } from "./decodeText.ts";

/** What spreadsheets begin a formula with (OWASP, "CSV Injection"). */
const STARTS = ["=", "+", "-", "@", "\t", "\r"];

const cells = (starts: readonly string[]) =>
  fc.array(
    fc.oneof(
      fc.string(),
      fc.tuple(fc.constantFrom(...starts), fc.string()).map((parts) => parts.join("")),
    ),
    { minLength: 1 },
  );
const read = (given: readonly string[]) =>
  (Papa.parse<string[]>(csvOf([["id", ...given]])).data[0] ?? []).slice(1);

it("no cell begins a formula, whatever stands in it, and each comes back as it was", () => {
  fc.assert(
    fc.property(cells(STARTS), (given) => {
      for (const cell of read(given)) {
        const asNumber = /^[+-][\d.,]+(e[+-]?\d+)?$/i.test(cell);
        expect(STARTS.includes(cell[0] as string) && !asNumber, cell).toBe(false);
      }
    }),
  );
  const plain = (text: string) => text.trim() === text && !text.startsWith("'");
  fc.assert(
    fc.property(cells(["=", "+", "-", "@"]), (given) => {
      fc.pre(given.every(plain));
      expect(read(given).map(cellOf)).toEqual(given);
    }),
  );
  expect(csvOf([["=HYPERLINK(1)", "-3.5", "+2e-4", "-3+4", "a=b", 7]])).toBe(
    `"'=HYPERLINK(1)",-3.5,+2e-4,"'-3+4",a=b,7`,
  );
});

it.each<[string, number[]]>([
  ["UTF-8", [0x4d, 0xc3, 0xbc, 0x68, 0x6c, 0x65]],
  ["UTF-8 with its mark", [0xef, 0xbb, 0xbf, 0x4d, 0xc3, 0xbc, 0x68, 0x6c, 0x65]],
  ["Windows-1252", [0x4d, 0xfc, 0x68, 0x6c, 0x65]],
  ["UTF-16 with its mark", [0xff, 0xfe, 0x4d, 0, 0xfc, 0, 0x68, 0, 0x6c, 0, 0x65, 0]],
  ["UTF-16 the other way round", [0xfe, 0xff, 0, 0x4d, 0, 0xfc, 0, 0x68, 0, 0x6c, 0, 0x65]],
  ["UTF-16 without a mark", [0x4d, 0, 0xfc, 0, 0x68, 0, 0x6c, 0, 0x65, 0]],
  ["UTF-16 without a mark, the other way round", [0, 0x4d, 0, 0xfc, 0, 0x68, 0, 0x6c, 0, 0x65]],
])("a file in %s is read", (_, bytes) => {
  expect(decodeText(new Uint8Array(bytes))).toBe("Mühle");
});

it("the sign of a cubic metre is read as spreadsheets of the west write it, and nothing is read as nothing", () => {
  expect(decodeText(new Uint8Array([0x33, 0x20, 0x6d, 0xb3]))).toBe("3 m³");
  expect(decodeText(new Uint8Array())).toBe("");
});
