import "../drawn/browserless.ts";
import { expect, it } from "vitest";
import type { LineStage } from "../openJob/stage.ts";
import { stageKeys } from "./jobKeys.ts";
import { ownViewAt, partAt, STAGES, stageAt, stageOf, viewAt, viewsAt } from "./stages.ts";

const BODIES = { bodies: [{}] as never };
const line = (id: string) => stageAt(id, null) as LineStage;
const names = (id: string, job = {}) => viewsAt(line(id), job).map(({ value }) => value);
const at = (id: string, view: string, job = {}) =>
  viewAt(line(id), job, new URLSearchParams(view && { view })).value;

it("a stage has the views that belong to it", () => {
  expect(names("pump")).toEqual(["ledger", "curve", "driving", "together", "changes"]);
  expect(names("line")).toEqual(["ledger", "sizes", "curve", "changes"]);
  expect(names("need")).toEqual(["ledger", "sizes", "curve", "changes", "time"]);
  // What fills and empties is looked at over time wherever one is.
  for (const { id, frame } of STAGES) {
    if (frame === "line") expect(names(id, BODIES)).toContain("time");
  }
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
  const well = STAGES.find(({ id }) => id === "well");
  if (well?.frame !== "own") throw new Error("A well has views of its own.");
  expect(ownViewAt(well, new URLSearchParams({ view: "tank" }))).toBe("tank");
  expect(ownViewAt(well, new URLSearchParams({ view: "field" }))).toBe("hole");
});

it("an address opens the stage it names, else that of the part it names, else the line", () => {
  expect(stageAt("pump", "source").id).toBe("pump");
  expect(stageAt(undefined, "source").id).toBe("need");
  expect(stageAt(undefined, "outlet").id).toBe("line");
  expect(stageAt("nowhere", null).id).toBe("line");
});

it("a stage has a part of its own in hand, whichever the address names", () => {
  expect(partAt(line("line"), null).part).toBe("discharge");
  expect(partAt(line("line"), "suction").part).toBe("suction");
  expect(partAt(line("line"), "source").part).toBe("discharge");
  expect(partAt(line("need"), "outlet").part).toBe("source");
  for (const stage of STAGES) {
    if (stage.frame !== "line") continue;
    for (const { part } of stage.parts) expect(stageOf(part)).toBe(stage);
  }
});

it("no two keys of the stages are one", () => {
  const own = new Map<string, string>();
  for (const stage of STAGES) {
    if (stage.frame !== "line") continue;
    for (const { key = "", name } of stage.views) {
      expect(key).toMatch(/^[a-z]$/);
      expect(own.get(key) ?? name).toBe(name);
      own.set(key, name);
    }
  }
  expect(
    stageKeys()
      .map(({ press }) => press)
      .toSorted(),
  ).toEqual([...own.keys()].toSorted());
  // Taken on every page of a job.
  for (const taken of ["f", "n", "u"]) expect(own.has(taken)).toBe(false);
});
