import { z } from "zod";
import type { Known } from "./known.ts";
import { idSchema, pumpSchema } from "./pump.ts";
import { quantity, RANGES } from "./quantity.ts";

export const JOB_FORMAT = "upright-gusher/job";
export const JOB_VERSION = 1;

const elevation = quantity("length", RANGES.elevation);

export const levelsSchema = z.looseObject({ low: elevation, normal: elevation, high: elevation });

const outletSchema = z.discriminatedUnion(
  "type",
  [
    z.looseObject({ type: z.literal("free") }),
    z.looseObject({
      type: z.literal("submerged"),
      level: levelsSchema,
      /** on the surface of a closed tank */
      gasPressure: quantity("pressure", RANGES.gasPressure).optional(),
    }),
    z.looseObject({
      type: z.literal("pressure"),
      pressure: quantity("pressure", RANGES.outletPressure),
    }),
    z.looseObject({
      type: z.literal("nozzle"),
      bore: quantity("diameter", RANGES.bore),
      dischargeCoefficient: z.number().min(0.4).max(1),
    }),
    z.looseObject({
      type: z.literal("emitter"),
      flow: quantity("flow", RANGES.emitterFlow),
      pressure: quantity("pressure", RANGES.emitterPressure),
    }),
  ],
  { error: "An outlet is of type free, submerged, pressure, nozzle or emitter." },
);

const stockId = z.string().min(1, "Choose a size.").max(64);

const pipeSchema = z.looseObject({
  kind: z.literal("pipe"),
  id: idSchema,
  stock: stockId,
  length: quantity("length", RANGES.length),
  rise: quantity("length", RANGES.rise),
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
    .min(0.3, "The speed ratio cannot be less than 0.3.")
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

const branchItemSchema = z.discriminatedUnion(
  "kind",
  [pipeSchema, fittingSchema, riseSchema, pumpItemSchema, outletItemSchema, orificeSchema],
  { error: KINDS },
);

/** Branches hold plain items: a line that parts again is a split further along the path. */
const splitSchema = z.looseObject({
  kind: z.literal("split"),
  id: idSchema,
  branches: z.array(z.array(branchItemSchema).max(200)).min(2).max(20),
});

const pathItemSchema = z.discriminatedUnion("kind", [...branchItemSchema.options, splitSchema], {
  error: KINDS,
});

/**
 * A job: where the water is, the path it takes, the pump, and the conditions. Levels are elevations
 * above one datum of the job's own. Quantities are SI or text with a unit.
 */
export const jobSchema = z
  .looseObject({
    format: z.literal(JOB_FORMAT, { error: `This is not a job: format must be “${JOB_FORMAT}”.` }),
    version: z.literal(JOB_VERSION, { error: "This version of the job document is not known." }),
    name: z.string().trim().min(1, "Give the job a name.").max(120, "The name is too long."),
    place: z.string().max(200).optional(),
    note: z.string().max(5000).optional(),
    /** what the levels are measured from */
    datum: z.string().max(120).optional(),
    source: z.looseObject({
      name: z.string().max(80).optional(),
      level: levelsSchema,
      intake: elevation,
      /** on the surface of a closed tank */
      gasPressure: quantity("pressure", RANGES.gasPressure).optional(),
    }),
    path: z.array(pathItemSchema).max(2000, "A path takes at most 2000 parts."),
    site: z.looseObject({
      altitude: quantity("length", RANGES.altitude),
      waterTemperature: quantity("temperature", RANGES.waterTemperature),
      specificGravity: z
        .number({ error: "The specific gravity must be a number." })
        .min(0.9, "The specific gravity cannot be less than 0.9.")
        .max(1.6, "The specific gravity cannot be more than 1.6."),
    }),
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
  })
  .superRefine((job, context) => {
    const seen = new Set<string>();
    const claim = (id: string, path: (string | number)[]) => {
      if (seen.has(id)) {
        const message = `Two parts of the path are called “${id}”.`;
        context.addIssue({ code: "custom", path: [...path, "id"], message });
      }
      seen.add(id);
    };
    for (const [i, item] of job.path.entries()) {
      claim(item.id, ["path", i]);
      if (item.kind !== "split") continue;
      for (const [b, branch] of item.branches.entries()) {
        for (const [k, inner] of branch.entries()) {
          claim(inner.id, ["path", i, "branches", b, k]);
        }
      }
    }
  });

export type JobDocument = Known<z.output<typeof jobSchema>>;
export type JobInput = Known<z.input<typeof jobSchema>>;
export type JobPathItem = JobDocument["path"][number];
export type JobBranchItem = Exclude<JobPathItem, { kind: "split" }>;
