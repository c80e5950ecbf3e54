import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { type PumpDocument, pumpSchema } from "#contract/documents/pump.ts";
import { everyItem } from "#core/line/path.ts";
import { bestEfficiencyFlow, pumpCurve } from "#core/pump/curve.ts";
import { type Candidate, cardsOf, rankPumps } from "#core/selection/rankPumps.ts";
import { MERITS, WEIGHINGS } from "#core/selection/weights.ts";
import { TALLOW_MILL } from "#demo/jobs.ts";
import { LIBRARY } from "#library/pumps.ts";
import { checkWords } from "#words/checks.ts";
import { reasonOf } from "#words/selection.ts";
import { LINE_KINDS, newJob } from "../kinds/kinds.ts";
import { arrangementOf, withArrangement } from "../selection/arrangement.ts";
import { choosePumps } from "../selection/choose.ts";
import { solveJob } from "./solveJob.ts";

const pumps = LIBRARY.map((pump) => pumpSchema.parse(pump) as PumpDocument);

type Site = JobDocument["site"];

/** Places a pump may be sent to, beside the open ground that nothing is known of. */
const SITES: [string, Partial<Site>, Partial<JobDocument>?][] = [
  ["nothing said", {}],
  ["open ground", { standsAt: "open-ground" }],
  ["indoors", { standsAt: "indoors" }],
  ["in a pit", { standsAt: "pit" }],
  ["in a crawl space", { standsAt: "crawl-space" }],
  ["in a casing", { standsAt: "casing" }, { well: { casings: [{ bore: 0.1, from: 0, to: 60 }] } }],
  [
    "a slim casing",
    { standsAt: "casing" },
    { well: { casings: [{ bore: 0.09, from: 0, to: 60 }] } },
  ],
  ["through a hatch", { standsAt: "open-ground", access: { hatch: 0.2 } }],
  ["foul water", { standsAt: "open-ground", water: ["foul"] }],
  ["gritty water", { standsAt: "open-ground", water: ["gritty"] }],
  ["one phase only", { standsAt: "open-ground", supplies: [{ volts: 230, phase: 1 }] }],
  ["a battery only", { standsAt: "open-ground", supplies: [{ volts: 12, direct: true }] }],
  ["no power", { standsAt: "open-ground", supplies: [] }],
  ["hot water", { standsAt: "open-ground", waterTemperature: 323.15 }],
];
const jobs = LINE_KINDS.flatMap((kind) =>
  SITES.map(([where, site, more]): [string, JobDocument] => {
    const job = newJob("Placed", kind, "metric");
    const wantedFlow = kind === "well-to-tank" ? 0.0004 : 0.0008;
    return [`${kind}, ${where}`, { ...job, wantedFlow, ...more, site: { ...job.site, ...site } }];
  }),
);
/** A pit that runs nearly dry. */
const pit = newJob("Nearly dry", "sump-riser", "metric");
if (pit.source.kind === "open") {
  const level = { ...pit.source.level, low: pit.source.intake + 0.06 };
  jobs.push([
    "sump-riser, nearly dry",
    { ...pit, wantedFlow: 0.0008, source: { ...pit.source, level } },
  ]);
}
const ranking = (job: JobDocument): Candidate[] =>
  rankPumps(job, pumps, job.wantedFlow, { place: { itemId: "pump", others: [] } });

/**
 * Where the field's rules forbid a pump, read off the document's own fields: every wrong placing, by why.
 * `low`, `high` are the water's levels over the pump in m.
 */
function wrongs(job: JobDocument, pump: PumpDocument): string[] {
  const { site, source } = job;
  if (source.kind === "mains") return [];
  const at = everyItem(job.path).findIndex(({ kind }) => kind === "pump");
  const suction = job.path.slice(0, at);
  const rise = suction.reduce((sum, item) => ("rise" in item ? sum + item.rise : sum), 0);
  const elevation = source.intake + rise;
  const high = source.level.high - elevation;
  const low = source.level.low - elevation;
  const piped = suction.some(({ kind }) => kind === "pipe");
  const closed = ["indoors", "pit", "crawl-space", "casing"].includes(site.standsAt ?? "");
  const bores = (job.well?.casings ?? []).map(({ bore }) => bore);
  const inCasing = site.standsAt === "casing" || source.kind === "well";
  const opening = Math.min(
    ...(inCasing ? bores : []),
    site.access?.hatch ?? Number.POSITIVE_INFINITY,
  );
  const passage = { foul: 0.04, stringy: 0.02, gritty: 0.006, clear: 0, chlorinated: 0 };
  const asked = Math.max(0, ...(site.water ?? []).map((kind) => passage[kind]));
  const fed = (site.supplies ?? []).some(
    ({ volts, phase, direct = false }) =>
      direct === (pump.electric?.direct ?? false) &&
      (phase ?? 1) >= (pump.electric?.phase ?? 1) &&
      Math.abs((volts ?? 0) - (pump.electric?.volts ?? 0)) <= 0.1 * (pump.electric?.volts ?? 0),
  );
  const cases: [string, boolean][] = [
    ["an engine shut in", pump.drive === "engine" && closed],
    ["an engine in the water", pump.drive === "engine" && high > 0 && !piped],
    [
      "a dry pump in the water",
      pump.drive === "electric" &&
        !pump.submersible &&
        high > 0 &&
        (!piped || site.standsAt === "pit"),
    ],
    [
      "a dry pump in a casing",
      pump.drive === "electric" && !pump.submersible && site.standsAt === "casing",
    ],
    [
      "a submersible behind a suction line",
      pump.submersible && piped && pump.suctionPort === undefined,
    ],
    ["too wide", (pump.diameter ?? 0) >= opening],
    ["clogs", pump.solids !== undefined && pump.solids < asked],
    [
      "no supply",
      pump.drive === "electric" &&
        (site.supplies !== undefined || (pump.electric?.direct ?? false)) &&
        !fed,
    ],
    ["not covered", pump.submersible && !piped && low < (pump.leastDepth ?? 0)],
    [
      "too deep",
      pump.submersible && !piped && high > (pump.greatestImmersion ?? Number.POSITIVE_INFINITY),
    ],
    ["too warm", site.waterTemperature > (pump.greatestTemperature ?? Number.POSITIVE_INFINITY)],
  ];
  return cases.flatMap(([why, wrong]) => (wrong ? [why] : []));
}

describe("no pump is ranked where it cannot stand", () => {
  it.each(jobs)("%s", (_what, job) => {
    for (const { pump, fit, judgements } of ranking(job)) {
      const document = pumps.find(({ id }) => id === pump.id) as PumpDocument;
      const found = wrongs(job, document);
      if (found.length > 0)
        expect([pump.id, ...found, fit?.kind]).toEqual([pump.id, ...found, "apart"]);
      if (fit?.kind !== "apart") continue;
      const { title, sentence, advice } = checkWords(fit.why, job, "us");
      for (const text of [title, sentence, advice]) expect(text).toMatch(/\w{3}/);
      expect(judgements).toContain(fit.why);
    }
  });

  it("each wrong is met somewhere, so that none of the rules above goes untried", () => {
    const met = new Set(jobs.flatMap(([, job]) => pumps.flatMap((pump) => wrongs(job, pump))));
    expect([...met].toSorted()).toEqual(
      [
        ...["an engine shut in", "an engine in the water", "a dry pump in the water"],
        ...["a dry pump in a casing", "a submersible behind a suction line", "too wide", "clogs"],
        ...["no supply", "not covered", "too deep", "too warm"],
      ].toSorted(),
    );
  });

  it("what a plate does not tell neither passes nor stops, and is said", () => {
    const [, job] = jobs.find(([name]) => name === "sump-riser, gritty water") as [
      string,
      JobDocument,
    ];
    const silent = pumps.map(({ solids: _, ...pump }) => pump as PumpDocument);
    const found = rankPumps(job, silent, job.wantedFlow, { place: { itemId: "pump", others: [] } });
    const unknown = found.flatMap(({ judgements }) =>
      judgements.filter(({ code }) => code === "pump-passage").map(({ severity }) => severity),
    );
    expect(unknown).toEqual(found.map(() => "unknown"));
    expect(found.some(({ fit }) => fit?.kind === "ranked")).toBe(true);
  });
});

it("a battery pump runs off the job's battery unit, never off the mains, and no mains pump off a battery", () => {
  const base = newJob("Standby", "sump-riser", "metric");
  const kindOf = (site: Partial<Site>, unit?: { volts: number }) => {
    const job: JobDocument = {
      ...{ ...base, wantedFlow: 0.0008, site: { ...base.site, ...site } },
      ...(unit && { overTime: { battery: unit } }),
    };
    const why = (id: string) => {
      const found = ranking(job).find(({ pump }) => pump.id === id);
      const own = found?.judgements.find(({ code }) => code === "pump-placement");
      return own?.code === "pump-placement" ? own.facts.why : "stands";
    };
    return [why("tarnfold-standby-12"), why("tarnfold-pit-4")];
  };
  const mains = { supplies: [{ volts: 230, phase: 1 as const }] };
  expect(kindOf({})).toEqual(["no-battery", "stands"]);
  expect(kindOf(mains)).toEqual(["no-such-supply", "stands"]);
  expect(kindOf(mains, { volts: 12 })).toEqual(["stands", "stands"]);
  expect(kindOf(mains, { volts: 24 })).toEqual(["no-such-supply", "stands"]);
  expect(kindOf({ supplies: [] }, { volts: 12 })).toEqual(["stands", "no-such-supply"]);
});

describe("between those that may stand there", () => {
  const [, job] = jobs.find(([name]) => name === "sump-riser, nothing said") as [
    string,
    JobDocument,
  ];

  it("the weights are all there is, and the order is theirs", () => {
    for (const weights of Object.values(WEIGHINGS)) {
      expect(Object.values(weights).reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 12);
    }
    const wanted = job.wantedFlow as number;
    const scores = ranking(job).flatMap(({ fit, flow = 0 }) =>
      fit?.kind === "ranked" ? [{ ...fit, flow }] : [],
    );
    expect(scores.length).toBeGreaterThan(1);
    for (const { score, parts, flow } of scores) {
      const sum = MERITS.reduce(
        (total, merit) => total + WEIGHINGS.balanced[merit] * parts[merit],
        0,
      );
      // Over twice of what is wanted counts as much less as it is more.
      expect(score).toBeCloseTo(sum * Math.min(1, (2 * wanted) / flow), 12);
    }
    expect(scores.map(({ score }) => score)).toEqual(
      scores.map(({ score }) => score).toSorted((a, b) => b - a),
    );
  });

  it("one that is too weak says by how much: that much more head makes it do", () => {
    const strong = { ...job, wantedFlow: 0.0045 };
    const weak = ranking(strong).find(({ fit }) => fit?.kind === "too-weak");
    if (weak?.fit?.kind !== "too-weak" || weak.fit.short === undefined)
      throw new Error("none is weak");
    const { short } = weak.fit;
    const helped = (more: number) => {
      const points = weak.pump.points.map((point) => ({ ...point, head: point.head + more }));
      const [found] = rankPumps(strong, [{ ...weak.pump, points }], strong.wantedFlow, {
        place: { itemId: "pump", others: [] },
      });
      return found?.flow ?? 0;
    };
    expect(helped(short)).toBeCloseTo(strong.wantedFlow, 8);
    expect(helped(short * 0.98)).toBeLessThan(strong.wantedFlow);
  });

  it("a pump that is slowed is weighed by the curve it then has", () => {
    const slowed = (speedRatio: number): JobDocument => {
      const path = job.path.map((item) =>
        item.kind === "pump" ? { ...item, speedRatio } : item,
      ) as JobDocument["path"];
      return { ...job, path };
    };
    const found = ranking(slowed(0.9)).find(({ fit }) => fit?.kind === "ranked");
    if (found?.fit?.kind !== "ranked") throw new Error("none is ranked");
    const best = bestEfficiencyFlow(pumpCurve(found.pump, 0.9)).flow;
    const apart = Math.min(Math.abs((found.flow ?? 0) / best - 1) / 0.5, 1);
    expect(found.fit.parts.efficiency).toBeCloseTo(1 - apart, 12);
    const weak = ranking({ ...slowed(0.8), wantedFlow: 0.004 }).find(
      ({ fit }) => fit?.kind === "too-weak" && fit.short !== undefined,
    );
    if (weak?.fit?.kind !== "too-weak") throw new Error("none is weak");
    const { short = 0 } = weak.fit;
    const points = weak.pump.points.map((p) => ({ ...p, head: p.head + short / 0.8 ** 2 }));
    const [helped] = rankPumps(slowed(0.8), [{ ...weak.pump, points }], 0.004, {
      place: { itemId: "pump", others: [] },
    });
    expect(helped?.flow).toBeCloseTo(0.004, 8);
  });

  it("a gun outside its window is a stop that names the gun", () => {
    const gun = (window: object): JobDocument => {
      const field = newJob("Gun", "pond-to-field", "metric");
      const path = field.path.map((item) =>
        item.kind === "outlet" && item.outlet.type === "nozzle"
          ? { ...item, outlet: { ...item.outlet, ...window } }
          : item,
      );
      return { ...field, path, wantedFlow: 0.001, site: { ...field.site, standsAt: "bank" } };
    };
    const verdict = (window: object) =>
      ranking(gun(window))
        .find(({ pump }) => pump.id === "fenwicket-haycast-2")
        ?.judgements.find(({ code }) => code === "gun-pressure");
    const within = verdict({ leastPressure: 1000, greatestPressure: 3e6 });
    expect(within?.severity).toBe("good");
    const pressure = within?.value as number;
    expect(verdict({ leastPressure: pressure * 1.01 })).toMatchObject({
      severity: "stop",
      facts: { side: "under" },
    });
    expect(verdict({ leastPressure: pressure * 0.99 })?.severity).toBe("good");
    expect(verdict({ greatestPressure: pressure * 0.9 })).toMatchObject({
      severity: "stop",
      facts: { side: "over" },
    });
    expect(verdict({})).toBeUndefined();
  });
});

describe("what the water is", () => {
  const said = (water: NonNullable<JobDocument["site"]["water"]>) => {
    const solved = solveJob({ ...pit, site: { ...pit.site, water }, wantedFlow: 1e-3 });
    if (solved.kind !== "asked") throw new Error("not asked");
    return solved.judgements.flatMap((own) =>
      own.code === "water-unfit" ? [checkWords(own, pit, "metric").title] : [],
    );
  };

  it("is said where it may not be let go just anywhere, and of no pump in the list", () => {
    expect(said(["chlorinated"])).toEqual(["Chlorinated water leaves here"]);
    expect(said(["foul", "chlorinated", "gritty"])).toEqual(["Foul water leaves here"]);
    expect(said(["clear"])).toEqual([]);
    expect(said(["gritty", "stringy"])).toEqual([]);
    const foul: JobDocument = { ...pit, site: { ...pit.site, water: ["foul"] } };
    const ranked = rankPumps(foul, pumps, 1e-3, { place: { itemId: "pump", others: [] } });
    expect(ranked.length).toBeGreaterThan(3);
    for (const { judgements } of ranked) {
      expect(judgements.map(({ code }) => code)).not.toContain("water-unfit");
    }
  });
});

describe("what is recommended", () => {
  const some = <T>(of: fc.Arbitrary<T>) => fc.option(of, { nil: undefined, freq: 1 });
  const metres = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  /** A shipped pump with other limits on its plate, or with none. */
  const plate = fc.record({
    at: fc.nat(pumps.length - 1),
    leastDepth: some(metres(0, 1)),
    greatestImmersion: some(metres(0.5, 40)),
    greatestTemperature: some(metres(283, 330)),
    diameter: some(metres(0.05, 0.4)),
    solids: some(metres(0.001, 0.06)),
    suctionPort: some(fc.constant(0.05)),
    submersible: some(fc.boolean()),
    owned: some(fc.nat(2)),
    price: some(metres(10, 900)),
    volts: some(fc.constantFrom(12, 120, 230, 400)),
    phase: some(fc.constantFrom(1 as const, 3 as const)),
    direct: some(fc.boolean()),
  });
  const setting = fc.record({
    kind: fc.constantFrom(...LINE_KINDS),
    wanted: metres(1e-4, 6e-3),
    site: fc.record({
      standsAt: some(
        fc.constantFrom(
          "open-ground",
          "bank",
          "indoors",
          "pit",
          "crawl-space",
          "casing",
        ) as fc.Arbitrary<NonNullable<Site["standsAt"]>>,
      ),
      waterTemperature: metres(278, 330),
      water: some(
        fc.subarray(["gritty", "stringy", "foul", "chlorinated"] as NonNullable<Site["water"]>, {
          minLength: 1,
        }),
      ),
      access: some(fc.record({ hatch: metres(0.08, 0.5) })),
      supplies: some(
        fc.array(
          fc.record({
            volts: fc.constantFrom(12, 120, 230, 400),
            phase: some(fc.constantFrom(1 as const, 3 as const)),
            direct: some(fc.boolean()),
          }),
          { maxLength: 3 },
        ),
      ),
    }),
    casing: some(metres(0.06, 0.2)),
    rise: metres(-1, 4),
    library: fc.array(plate, { minLength: 4, maxLength: 14 }),
  });
  const known = <T extends object>(of: T): T =>
    Object.fromEntries(Object.entries(of).filter(([, value]) => value !== undefined)) as T;

  it("stands where its plate and the place let it, and moves what is wanted: any site, line and library", () => {
    let recommended = 0;
    fc.assert(
      fc.property(setting, ({ kind, wanted, site, casing, rise, library }) => {
        const base = newJob("Any", kind, "metric");
        const path = base.path.map((item) =>
          item.kind === "pipe" && item.rise > 0
            ? { ...item, rise: item.rise + rise, length: item.length + 5 }
            : item,
        );
        const job: JobDocument = {
          ...base,
          ...{ path, wantedFlow: wanted },
          site: known({ ...base.site, ...site }) as Site,
          ...(casing && { well: { casings: [{ bore: casing, from: 0, to: 60 }] } }),
        };
        const own = library.map(({ at, volts, phase, direct, ...limits }, i): PumpDocument => {
          const pump = pumps[at] as PumpDocument;
          const electric = known({ ...pump.electric, volts, phase, direct });
          return { ...pump, ...known(limits), id: `own-${i}`, electric } as PumpDocument;
        });
        const chosen = choosePumps(job, own, "pump", "balanced");
        const documents = new Map(own.map((pump) => [pump.id, pump]));
        for (const card of Object.values(cardsOf(chosen))) {
          recommended++;
          for (const id of card.ids) {
            expect([kind, id, wrongs(job, documents.get(id) as PumpDocument)]).toEqual([
              kind,
              id,
              [],
            ]);
          }
          const arrangement = arrangementOf(card, documents);
          const then = arrangement && withArrangement(job, "pump", arrangement);
          const solved = then && solveJob(then);
          if (solved?.kind !== "solved") throw new Error("a card that cannot be solved");
          const { running } = solved.solution.cases.normal;
          expect(running?.state.delivered).toBeGreaterThanOrEqual(wanted * (1 - 1e-9));
          expect(running?.state.delivered).toBeCloseTo(card.flow ?? 0, 9);
          const stops = solved.judgements.filter(({ severity }) => severity === "stop");
          expect(stops.map(({ code }) => code)).toEqual([]);
        }
      }),
      { numRuns: 200 },
    );
    expect(recommended).toBeGreaterThan(100);
  });

  it("does what its card says though what stood there before was slowed down", () => {
    const base = newJob("Slowed", "tank-to-tank", "metric");
    const path = base.path.map((item) =>
      item.kind === "pump" ? { ...item, speedRatio: 0.8 } : item,
    );
    const job = { ...base, path, wantedFlow: 0.001 } as JobDocument;
    const { best } = cardsOf(choosePumps(job, pumps, "pump", "balanced"));
    const documents = new Map(pumps.map((pump) => [pump.id, pump]));
    const arrangement = best && arrangementOf(best, documents);
    const then = arrangement && withArrangement(job, "pump", arrangement);
    const solved = then && solveJob(then);
    if (solved?.kind !== "solved") throw new Error("no card");
    expect(solved.solution.cases.normal.running?.state.delivered).toBeCloseTo(best?.flow ?? 0, 9);
    const [item] = everyItem(then?.path ?? []).filter((own) => own.kind === "pump");
    expect(item?.kind === "pump" && item.speedRatio).toBe(best?.speedRatio);
  });

  it("over time too: what lets the floor get wet stands behind, with its reason", () => {
    const mill = jobSchema.parse(TALLOW_MILL) as JobDocument;
    const [first] = everyItem(mill.path).filter((item) => item.kind === "pump");
    // Water comes in at more than the small ones hold.
    const wet: JobDocument = {
      ...mill,
      wantedFlow: 1e-3,
      bodies: mill.bodies?.map((body) => ({ ...body, inflow: 0.0085 })) as never,
      overTime: { ...mill.overTime, storm: undefined, powerCut: undefined, span: 7200 } as never,
    };
    const chosen = choosePumps(wet, pumps, first?.id ?? "", "balanced");
    const fails = chosen.filter(({ fit }) => fit?.kind === "fails");
    const holds = chosen.filter((own) => own.run && own.fit?.kind === "ranked");
    expect(fails.length).toBeGreaterThan(0);
    expect(holds.length).toBeGreaterThan(0);
    const least = Math.min(...holds.map(({ run }) => run?.survives ?? 0));
    for (const { run } of fails) expect(run?.survives ?? 9).toBeLessThan(least + 1e-9);
    // What does it, then what fails over time, then what cannot do it at all.
    const order = chosen.map(({ fit }) =>
      fit?.kind === "ranked" ? 0 : fit?.kind === "fails" ? 1 : 2,
    );
    expect(order).toEqual(order.toSorted((a, b) => a - b));
    expect(new Set(order).size).toBe(3);
    const { best } = cardsOf(chosen);
    expect(best?.fit?.kind).toBe("ranked");
    for (const own of chosen) {
      const reason = reasonOf(own, best, WEIGHINGS.balanced, wet, "us");
      if (own !== best) expect(reason ?? "").toMatch(own.fit ? /\w{3}/ : /^$/);
    }
  });
});
