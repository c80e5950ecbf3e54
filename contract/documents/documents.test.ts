import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import * as z from "zod";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { solveJob } from "#model/job/solveJob.ts";
import { COLLECTION_NAMES, COLLECTIONS, readStored } from "../collections.ts";
import { type JobDocument, jobSchema } from "./job.ts";
import { sameDocument } from "./same.ts";

describe("documents", () => {
  it.each(COLLECTION_NAMES)(
    "the JSON Schema of %s in docs/ is the one its definition gives",
    (name) => {
      const { shape, versions } = COLLECTIONS[name];
      const file = `docs/schema/${versions.format.split("/")[1]}.json`;
      const { title, ...rest } = JSON.parse(readFileSync(file, "utf8"));
      expect(title).toBe(versions.format);
      expect(rest).toEqual(JSON.parse(JSON.stringify(z.toJSONSchema(shape, { io: "input" }))));
    },
  );

  it.each(DEMO_JOBS.map(({ id, job }) => [id, job] as const))(
    "%s reads back as it was written",
    (_id, input) => {
      const job = jobSchema.parse(input);
      expect(jobSchema.parse(JSON.parse(JSON.stringify(job)))).toEqual(job);
    },
  );

  it("says which body of water is named and is not there", () => {
    // One that names no body of water yet.
    const demo = DEMO_JOBS.find(({ job }) => job.bodies === undefined);
    const lake = { id: "lake", shape: { kind: "cylinder", diameter: 20, depth: 3 } };
    const lying = { ...demo?.job, source: { ...demo?.job.source, body: "lake" } };
    const path = demo?.job.path.map((item) =>
      item.kind === "outlet" ? { ...item, outlet: { type: "free", body: "tank" } } : item,
    );
    const places = (job: object) => jobSchema.safeParse(job).error?.issues.map((i) => i.path) ?? [];
    expect(places({ ...lying, bodies: [lake] })).toEqual([]);
    expect(places(lying)).toEqual([["source", "body"]]);
    expect(places({ ...demo?.job, path })).toEqual([
      ["path", (path?.length ?? 0) - 1, "outlet", "body"],
    ]);
    expect(places({ ...lying, bodies: [{ ...lake, overflowTo: "ditch" }] })).toEqual([
      ["bodies", 0, "overflowTo"],
    ]);
    const float = { kind: "float", body: "pit", on: 1, off: 0 };
    const alarm = { kind: "alarm", body: "sky", at: 1 };
    expect(places({ ...demo?.job, overTime: { controls: [float, alarm] } })).toEqual([
      ["overTime", "controls", 0, "body"],
      ["overTime", "controls", 1, "body"],
    ]);
  });

  it("compares documents whatever the order of their keys", () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (document) => {
        const turned = Object.fromEntries(Object.entries(document).reverse());
        expect(sameDocument(document, turned)).toBe(true);
        expect(sameDocument({ ...document, more: 1 }, { ...turned, more: 2 })).toBe(false);
      }),
    );
  });
});

/** Documents as version 1 wrote them, with what it worked out from them. */
const FOLDER = "contract/test/version-1";
const old = readdirSync(FOLDER).map((file) => ({
  file,
  ...(JSON.parse(readFileSync(`${FOLDER}/${file}`, "utf8")) as {
    document: Record<string, unknown>;
    solved?: Record<"low" | "normal" | "high", Record<string, number>>;
  }),
}));

describe("documents of version 1", () => {
  it.each(old.map((given) => [given.file, given] as const))("%s opens", (file, { document }) => {
    const name = file.startsWith("job")
      ? "jobs"
      : file.startsWith("pump")
        ? "pumps"
        : file.startsWith("reading")
          ? "readings"
          : "tests";
    const read = readStored(name, document);
    const { format, version } = COLLECTIONS[name].versions;
    expect(read).toMatchObject({ format, version });
    // What is read needs no further change to be saved again.
    expect(COLLECTIONS[name].schema.parse(document)).toEqual(COLLECTIONS[name].schema.parse(read));
  });

  it.each(old.flatMap((given) => (given.solved ? [[given.file, given] as const] : [])))(
    "%s solves to the same numbers",
    (_file, { document, solved }) => {
      const now = solveJob(jobSchema.parse(document) as JobDocument);
      if (now.kind !== "solved" || !solved) throw new Error("refused");
      for (const at of ["low", "normal", "high"] as const) {
        const { staticHead, running } = now.solution.cases[at];
        // Since then a mouth that stands above the water it was typed under is lifted to itself, not to the water.
        const [outlet] = now.solution.line.outlets;
        const receiving = ({ low: "high", normal: "normal", high: "low" } as const)[at];
        const water =
          outlet?.item.outlet.type === "submerged" && outlet.item.outlet.level[receiving];
        const lifted =
          typeof water === "number" ? Math.max((outlet?.elevation ?? 0) - water, 0) : 0;
        expect(staticHead).toBeCloseTo((solved[at].staticHead ?? Number.NaN) + lifted, 9);
        if (lifted > 0) {
          expect(running?.duty.flow).toBeLessThan(solved[at].flow ?? 0);
          continue;
        }
        // Since then curves are drawn better between their points, metric PE has its mean bore and spiral hose
        // its ribs: the duty moves by so much and no more.
        const near = (value: number, then: number | undefined) =>
          expect(Math.abs(value / (then ?? 0) - 1)).toBeLessThan(0.02);
        near(running?.duty.flow ?? 0, solved[at].flow);
        near(running?.duty.head ?? 0, solved[at].head);
        near(running?.state.delivered ?? 0, solved[at].delivered);
      }
    },
  );

  it("one of a version that is not known yet is refused, not guessed at", () => {
    const [job] = old.filter(({ file }) => file.startsWith("job"));
    const result = jobSchema.safeParse({ ...job?.document, version: 3 });
    expect(result.error?.issues[0]?.path).toEqual(["version"]);
  });
});
