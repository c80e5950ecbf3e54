import { expect, it } from "vitest";
import { pressed } from "./keys.ts";

const NONE = { ctrlKey: false, metaKey: false, altKey: false, shiftKey: false };

it("tells what was pressed as keys are declared", () => {
  expect(pressed({ ...NONE, key: "l" })).toBe("l");
  // Where “?” needs shift it is “?” all the same; a capital is no small letter.
  expect(pressed({ ...NONE, key: "?", shiftKey: true })).toBe("?");
  expect(pressed({ ...NONE, key: "L", shiftKey: true })).toBe("L");
  expect(pressed({ ...NONE, key: "z", metaKey: true })).toBe("mod+z");
  expect(pressed({ ...NONE, key: "Z", ctrlKey: true, shiftKey: true })).toBe("mod+shift+z");
  // What a browser or a keyboard has on Alt is left to it.
  expect(pressed({ ...NONE, key: "l", altKey: true })).toBe("alt+l");
});
