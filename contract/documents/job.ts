import * as z from "zod";
import { everyItem } from "#core/line/path.ts";
import { gunOf } from "#core/outlet/outlets.ts";
import { fieldSchema } from "./field.ts";
import { attachmentsSchema, day, idSchema, levelsSchema, text } from "./fields.ts";
import { gunFields, gunIssues } from "./gun.ts";
import { JOB_KINDS } from "./jobKinds.ts";
import type { Known } from "./known.ts";
import { pumpSchema, type pumpShape } from "./pump.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";
import { bodySchema, needSchema, overTimeSchema, siteSchema, yardSchema } from "./site.ts";
import { type Versions, versioned } from "./versioned.ts";
import { houseSchema, pressureTankSchema, wellSchema } from "./well.ts";

export const jobVersions: Versions = {
  format: "upright-gusher/job",
  version: 2,
  upgrades: {
    // The source says what it is; a gas pressure made it a closed tank.
    1: (job) => ({ ...job, source: sourceOfVersion1(job.source) }),
  },
};

function sourceOfVersion1(source: unknown): unknown {
  if (typeof source !== "object" || source === null || Array.isArray(source)) return source;
  const { gasPressure, ...rest } = source as Record<string, unknown>;
  return gasPressure === undefined
    ? { kind: "open", ...rest }
    : { kind: "tank", ...rest, gasPressure };
}

const elevation = quantity("length", RANGES.elevation);

/** one of the job's `bodies` */
const body = idSchema.optional();
const sourceFields = { name: z.string().max(80).optional(), intake: elevation };
const sourceSchema = z.discriminatedUnion(
  "kind",
  [
    z.looseObject({ kind: z.literal("open"), ...sourceFields, level: levelsSchema, body }),
    z.looseObject({
      kind: z.literal("tank"),
      ...sourceFields,
      level: levelsSchema,
      body,
      /** on the surface of a closed tank */
      gasPressure: quantity("pressure", RANGES.gasPressure),
    }),
    z.looseObject({
      kind: z.literal("mains"),
      ...sourceFields,
      /** with it shut, and what it gives wide open into the air */
      pressure: quantity("pressure", RANGES.emitterPressure),
      openFlow: quantity("flow", RANGES.flow),
    }),
    z.looseObject({
      kind: z.literal("well"),
      ...sourceFields,
      level: levelsSchema,
      /** s = linear Q + quadratic Q², m from m³/s */
      drawdown: z.looseObject({
        linear: z.number().min(0).max(1e7),
        quadratic: z.number().min(0).max(1e10),
      }),
    }),
  ],
  { error: "A source is open water, a tank, mains or a well." },
);

const outletSchema = z.discriminatedUnion(
  "type",
  [
    z.looseObject({ type: z.literal("free"), body }),
    z.looseObject({ type: z.literal("drain") }),
    z.looseObject({
      type: z.literal("submerged"),
      level: levelsSchema,
      body,
      /** on the surface of a closed tank */
      gasPressure: quantity("pressure", RANGES.gasPressure).optional(),
    }),
    z.looseObject({
      type: z.literal("pressure"),
      pressure: quantity("pressure", RANGES.outletPressure),
    }),
    z.looseObject({ type: z.literal("nozzle"), ...gunFields }),
    z.looseObject({
      type: z.literal("emitter"),
      flow: quantity("flow", RANGES.emitterFlow),
      pressure: quantity("pressure", RANGES.emitterPressure),
    }),
  ],
  { error: "An outlet is of type free, submerged, drain, pressure, nozzle or emitter." },
);

const stockId = z.string().min(1, "Choose a size.").max(64);

const pipeSchema = z.looseObject({
  kind: z.literal("pipe"),
  id: idSchema,
  stock: stockId,
  length: quantity("length", RANGES.length),
  rise: quantity("length", RANGES.rise),
  /** as its family is usually found when absent */
  age: z.enum(["new", "aged"]).optional(),
});

const fittingSchema = z.looseObject({
  kind: z.literal("fitting"),
  id: idSchema,
  fitting: z.string().min(1, "Choose a fitting.").max(64),
  count: z
    .number({ error: "The count must be a number." })
    .int("The count must be a whole number.")
    .min(1, "The count must be at least 1.")
    .max(999, "The count cannot be more than 999."),
  stock: stockId.optional(),
  /** how far a valve is open, 0 is shut; open when absent */
  opening: z
    .number({ error: "The opening must be a number." })
    .min(0, "The opening cannot be less than 0.")
    .max(1, "The opening cannot be more than 1.")
    .optional(),
  /** a check or foot valve fitted against the water */
  reversed: z.boolean().optional(),
});

const riseSchema = z.looseObject({
  kind: z.literal("rise"),
  id: idSchema,
  rise: quantity("length", RANGES.rise),
});

const pumpItemSchema = z.looseObject({
  kind: z.literal("pump"),
  id: idSchema,
  pump: idSchema.nullable(),
  speedRatio: z
    .number()
    .min(0.1, "The speed ratio cannot be less than 0.1.")
    .max(1.3, "The speed ratio cannot be more than 1.3.")
    .optional(),
});

const outletItemSchema = z.looseObject({
  kind: z.literal("outlet"),
  id: idSchema,
  outlet: outletSchema,
});

const orificeSchema = z.looseObject({
  kind: z.literal("orifice"),
  id: idSchema,
  purpose: z.enum(["vent-hole", "leak"]),
  bore: quantity("diameter", RANGES.bore),
});

const KINDS = "A part of the path is a pipe, fitting, rise, pump, outlet, orifice or split.";

type PlainItem = z.output<typeof plainItemSchema>;
type PlainInput = z.input<typeof plainItemSchema>;
const PLAIN_ITEMS = [
  pipeSchema,
  fittingSchema,
  riseSchema,
  pumpItemSchema,
  outletItemSchema,
  orificeSchema,
] as const;
const plainItemSchema = z.discriminatedUnion("kind", PLAIN_ITEMS);

interface SplitOf<Item> {
  kind: "split";
  id: string;
  branches: (Item | SplitOf<Item>)[][];
}

/** A branch is a path of its own, and may part again. */
const splitShape = z.looseObject({
  kind: z.literal("split"),
  id: idSchema,
  branches: z
    .array(z.array(z.lazy(() => pathItemSchema)).max(200))
    .min(2, "A split has at least two branches.")
    .max(20, "A split takes at most twenty branches."),
});

/** What can still be solved while somebody waits. */
export const MOST_PARTS = 2000;
const MOST_SPLITS = 100;

function withinBounds(path: readonly PathItemOf<PlainItem>[], context: z.RefinementCtx): void {
  const items = everyItem<PathItemOf<PlainItem>>(path);
  const splits = items.filter(({ kind }) => kind === "split").length;
  const say = (message: string) => context.addIssue({ code: "custom", message });
  if (items.length > MOST_PARTS) {
    say(
      `A path takes at most ${MOST_PARTS} parts, those of branches among them; this has ${items.length}.`,
    );
  } else if (splits > MOST_SPLITS) {
    say(`A path parts at most ${MOST_SPLITS} times; this parts ${splits} times.`);
  }
}

type PathItemOf<Item> = Item | SplitOf<Item>;
const pathItemSchema: z.ZodType<
  PathItemOf<PlainItem>,
  PathItemOf<PlainInput>
> = z.discriminatedUnion("kind", [...PLAIN_ITEMS, splitShape as never], { error: KINDS }) as never;

/**
 * A job: where the water is, the path it takes, the pump, and the conditions. Levels are elevations
 * above one datum of the job's own. Quantities are SI or text with a unit.
 */
export const jobShape = z
  .looseObject({
    format: z.literal(jobVersions.format, {
      error: `This is not a job: format must be “${jobVersions.format}”.`,
    }),
    version: z.literal(jobVersions.version, {
      error: "This version of the job document is not known.",
    }),
    /** what it was begun as */
    kind: z.enum(JOB_KINDS).optional(),
    name: z.string().trim().min(1, "Give the job a name.").max(120, "The name is too long."),
    place: z.string().max(200).optional(),
    note: z.string().max(5000).optional(),
    /** what the levels are measured from */
    datum: z.string().max(120).optional(),
    source: sourceSchema,
    path: z.array(pathItemSchema).superRefine(withinBounds),
    site: siteSchema,
    method: z.looseObject({
      friction: z.enum(["darcy-weisbach", "hazen-williams"]),
      fittings: z.enum(["coefficient", "equivalent-length"]),
    }),
    /** the flow the job is there for */
    wantedFlow: quantity("flow", RANGES.flow).optional(),
    /** the water there is to move, for how long it takes */
    volume: quantity("volume", RANGES.jobVolume).optional(),
    /** how far the inputs are in doubt, for the likely range; the usual where absent */
    doubt: z
      .looseObject({
        level: quantity("length", RANGES.doubtLevel),
        roughnessFactor: z
          .number({ error: "The factor must be a number." })
          .min(1, "The factor cannot be less than 1.")
          .max(20, "The factor cannot be more than 20."),
        hazenWilliamsC: z.number().min(0).max(0.5),
        fittings: z.number().min(0).max(1),
      })
      .optional(),
    /** the pumps the path names, copied when chosen so that the job is whole on its own */
    pumps: z.array(pumpSchema).max(20),
    customer: z.looseObject({ name: text(120), contact: text(200).optional() }).optional(),
    /** what is owed next */
    milestones: z
      .array(z.looseObject({ what: text(120), due: day.optional(), done: day.optional() }))
      .max(100)
      .optional(),
    /** paths of fields that hold a default nobody typed yet */
    assumed: z.array(text(120)).max(200).optional(),
    /** what the customer was told */
    promise: z
      .looseObject({
        revision: z.number().int().min(1),
        flow: quantity("flow", RANGES.flow),
        low: quantity("flow", RANGES.flow).optional(),
        high: quantity("flow", RANGES.flow).optional(),
        on: day.optional(),
      })
      .optional(),
    attachments: attachmentsSchema.optional(),
    /** changes of the job kept as data, each under a label */
    variants: z
      .array(
        z.looseObject({
          label: text(80),
          changes: z
            .array(z.looseObject({ field: text(200), value: z.json() }))
            .min(1)
            .max(100),
        }),
      )
      .max(50)
      .optional(),
    need: needSchema.optional(),
    bodies: z.array(bodySchema).max(20).optional(),
    overTime: overTimeSchema.optional(),
    yard: yardSchema.optional(),
    well: wellSchema.optional(),
    pressureTank: pressureTankSchema.optional(),
    house: houseSchema.optional(),
    field: fieldSchema.optional(),
  })
  .superRefine((job, context) => {
    const bodies = new Set<unknown>(job.bodies?.map(({ id }) => id));
    const refers = (id: unknown, path: (string | number)[]) => {
      if (id === undefined || bodies.has(id)) return;
      const message = `There is no body of water called “${id}”.`;
      context.addIssue({ code: "custom", path, message });
    };
    if ("body" in job.source) refers(job.source.body, ["source", "body"]);
    for (const [i, { overflowTo }] of (job.bodies ?? []).entries()) {
      refers(overflowTo, ["bodies", i, "overflowTo"]);
    }
    for (const [i, control] of (job.overTime?.controls ?? []).entries()) {
      if (control.kind === "float" || control.kind === "alarm") {
        refers(control.body, ["overTime", "controls", i, "body"]);
      }
    }
    const seen = new Set<string>();
    const claimAll = (items: readonly PathItemOf<PlainItem>[], at: (string | number)[]): void => {
      for (const [i, item] of items.entries()) {
        if (seen.has(item.id)) {
          const message = `Two parts of the path are called “${item.id}”.`;
          context.addIssue({ code: "custom", path: [...at, i, "id"], message });
        }
        seen.add(item.id);
        if (item.kind === "outlet" && "body" in item.outlet) {
          refers(item.outlet.body, [...at, i, "outlet", "body"]);
        }
        const gun = item.kind === "outlet" && gunOf(item.outlet);
        if (gun) {
          for (const { path, message } of gunIssues(gun)) {
            context.addIssue({ code: "custom", path: [...at, i, "outlet", ...path], message });
          }
        }
        if (item.kind !== "split") continue;
        for (const [b, branch] of item.branches.entries())
          claimAll(branch, [...at, i, "branches", b]);
      }
    };
    claimAll(job.path, ["path"]);
  });

export const jobSchema = versioned(jobShape, jobVersions);

type Job = Known<z.output<typeof jobShape>>;
export type JobDocument = Omit<Job, "path" | "pumps"> & {
  path: JobPathItem[];
  pumps: Known<z.output<typeof pumpShape>>[];
};
type Input = Known<z.input<typeof jobShape>>;
export type JobInput = Omit<Input, "path" | "pumps"> & {
  path: PathItemOf<Known<PlainInput>>[];
  pumps: Known<z.input<typeof pumpShape>>[];
};
export type BodyOfWater = NonNullable<JobDocument["bodies"]>[number];
export type Need = NonNullable<JobDocument["need"]>;
export type WellDocument = NonNullable<JobDocument["well"]>;
export type TankDocument = NonNullable<JobDocument["pressureTank"]>;
export type HouseDocument = NonNullable<JobDocument["house"]>;
export type FieldDocument = NonNullable<JobDocument["field"]>;
export type OverTimeDocument = NonNullable<JobDocument["overTime"]>;
export type JobPathItem = PathItemOf<Known<PlainItem>>;
