import { expect, it } from "vitest";
import { STAGES, type Stage } from "../openJob/part.ts";
import { viewAt, viewsAt } from "./views.ts";

const BODIES = { bodies: [{}] as never };
const names = (stage: Stage, job = {}) => viewsAt(stage, job).map(({ value }) => value);
const at = (stage: Stage, view: string, job = {}) =>
  viewAt(stage, job, new URLSearchParams(view && { view }));

it("a stage has the views that belong to it", () => {
  expect(names("pump")).toEqual(["ledger", "curve", "driving", "together", "changes"]);
  expect(names("line")).toEqual(["ledger", "sizes", "curve", "changes"]);
  expect(names("need")).toEqual(["ledger", "sizes", "curve", "changes", "time"]);
  // What fills and empties is looked at over time wherever one is.
  for (const stage of STAGES) expect(names(stage, BODIES)).toContain("time");
});

it("an address opens the view it names, and where that is none of the stage's what is looked at there first", () => {
  expect(at("line", "sizes")).toBe("sizes");
  expect(at("pump", "sizes")).toBe("curve");
  expect(at("line", "driving")).toBe("ledger");
  expect(at("line", "nonsense")).toBe("ledger");
  expect(at("pump", "")).toBe("curve");
  expect(at("need", "")).toBe("ledger");
  expect(at("need", "", BODIES)).toBe("time");
  expect(at("need", "", { bodies: [] })).toBe("ledger");
  expect(at("line", "time")).toBe("ledger");
  expect(at("line", "time", BODIES)).toBe("time");
});
