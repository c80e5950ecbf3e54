import * as z from "zod";
import { STANDINGS, WATER_KINDS } from "#core/line/path.ts";
import { amount, day, idSchema, levelsSchema, part, phases, text } from "./fields.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";

const flow = quantity("flow", RANGES.flow).optional();
const depth = quantity("length", RANGES.depth);
const stretch = quantity("length", RANGES.length);

/**
 * What a job knows of its place and its water beside the line: all of it may be absent, and what is absent is
 * not known, never zero.
 */

export const siteSchema = z.looseObject({
  altitude: quantity("length", RANGES.altitude),
  waterTemperature: quantity("temperature", RANGES.waterTemperature),
  specificGravity: z
    .number({ error: "The specific gravity must be a number." })
    .min(0.9, "The specific gravity cannot be less than 0.9.")
    .max(1.6, "The specific gravity cannot be more than 1.6."),
  /** where the pump stands */
  standsAt: z.enum(STANDINGS).optional(),
  water: z.array(z.enum(WATER_KINDS)).max(5).optional(),
  supplies: z
    .array(
      z.looseObject({
        volts: amount("The voltage", 1000).optional(),
        phase: phases.optional(),
        /** direct current, from a battery */
        direct: z.boolean().optional(),
        breaker: amount("The breaker", 1000).optional(),
        generator: z.boolean().optional(),
        /** that a generator gives all the time */
        power: quantity("power", RANGES.power).optional(),
      }),
    )
    .max(10)
    .optional(),
  /** from the supply to the motor */
  cable: z.looseObject({ length: stretch, conductor: text(20) }).optional(),
  /** where an engine stands */
  airTemperature: quantity("temperature", RANGES.airTemperature).optional(),
  access: z
    .looseObject({
      hatch: quantity("diameter", RANGES.bore).optional(),
      stairs: z.boolean().optional(),
    })
    .optional(),
  /** who allowed what to be let go where */
  permissions: z
    .array(z.looseObject({ who: text(120), what: text(500), on: z.iso.date().optional() }))
    .max(50)
    .optional(),
  measuredFrom: z.enum(["floor", "rim", "casing-top", "datum"]).optional(),
});

/** times what was found, for the day that is worse */
const inHand = z.number().min(1).max(10).optional();

/** What rain falls on. */
const catchesSchema = z
  .array(
    z.looseObject({
      surface: z.enum(["roof", "paving", "lawn", "other"]),
      area: quantity("area", RANGES.areaOrNone),
      /** the part that runs off; as usual for the surface when absent */
      runoff: part("The part that runs off").optional(),
    }),
  )
  .max(50);

/** How much water there is to move, with what it was found from. */
export const needSchema = z.discriminatedUnion("kind", [
  z.looseObject({ kind: z.literal("typed"), flow }),
  z.looseObject({
    kind: z.literal("rise-test"),
    area: quantity("area", RANGES.area).optional(),
    rise: quantity("length", RANGES.depth).optional(),
    time: quantity("time", RANGES.time).optional(),
    /** a pipe leading in that filled meanwhile */
    inflowPipe: z
      .looseObject({ bore: quantity("diameter", RANGES.bore), length: stretch })
      .optional(),
    inHand,
    flow,
  }),
  z.looseObject({
    kind: z.literal("rain"),
    catches: catchesSchema.optional(),
    /** m of rain in the hardest hour */
    hardestHour: quantity("length", RANGES.rain).optional(),
    inHand,
    flow,
  }),
  z.looseObject({
    kind: z.literal("deadline"),
    volume: quantity("volume", RANGES.jobVolume).optional(),
    time: quantity("time", RANGES.longTime).optional(),
    /** that still comes meanwhile */
    inflow: quantity("flow", RANGES.flowOrNone).optional(),
    flow,
  }),
  z.looseObject({
    kind: z.literal("household"),
    fixtures: amount("The number of fixtures", 1000).optional(),
    heads: amount("The head count", 100_000).optional(),
    /** of each head a day */
    perHead: quantity("volume", RANGES.volume).optional(),
    /** in which the day's water is drawn */
    hours: amount("The hours", 24).optional(),
    flow,
  }),
  z.looseObject({
    kind: z.literal("guns"),
    guns: amount("The number of guns", 100).optional(),
    flow,
  }),
]);

/** A body of water: its shape, its levels, what comes in and where it spills to. */
export const bodySchema = z.looseObject({
  id: idSchema,
  name: text(80).optional(),
  shape: z.discriminatedUnion("kind", [
    z.looseObject({ kind: z.literal("box"), length: stretch, width: stretch, depth }),
    /** a floor that falls along its length, and across it where it does that too */
    z.looseObject({
      kind: z.literal("wedge"),
      length: stretch,
      width: stretch,
      fall: quantity("length", RANGES.depthOrNone),
      fallAcross: quantity("length", RANGES.depthOrNone).optional(),
      depth,
    }),
    z.looseObject({ kind: z.literal("cylinder"), diameter: stretch, depth }),
    z.looseObject({ kind: z.literal("cone"), bottom: stretch, top: stretch, depth }),
    z.looseObject({
      kind: z.literal("trapezoid"),
      length: stretch,
      width: stretch,
      depth,
      slope: amount("The side slope", 20),
    }),
    z.looseObject({ kind: z.literal("horizontal-cylinder"), diameter: stretch, length: stretch }),
    z.looseObject({
      kind: z.literal("table"),
      rows: z
        .array(
          z.looseObject({
            depth: quantity("length", RANGES.depthOrNone),
            area: quantity("area", RANGES.areaOrNone),
          }),
        )
        .min(2, "A table needs two rows.")
        .max(500),
    }),
  ]),
  bottom: quantity("length", RANGES.elevation).optional(),
  levels: levelsSchema.optional(),
  /** of water that stays, above its bottom */
  film: quantity("diameter", RANGES.solids).optional(),
  /** carpet and pad lie on its floor, and the pump on them */
  carpet: z.boolean().optional(),
  /** the part of it that water can fill */
  porosity: z.number().min(0.05).max(1).optional(),
  /** gravel round it, out to this far across */
  surround: z.looseObject({ across: stretch, porosity: z.number().min(0.05).max(1) }).optional(),
  /** that lead into it and stand full once the water is over them */
  inflowPipes: z
    .array(
      z.looseObject({
        bore: quantity("diameter", RANGES.bore),
        length: stretch,
        /** its lowest point, where it enters */
        invert: quantity("length", RANGES.elevation),
      }),
    )
    .max(50)
    .optional(),
  inflow: quantity("flow", RANGES.flowOrNone).optional(),
  /** that others draw from it all the time */
  drawn: quantity("flow", RANGES.flowOrNone).optional(),
  overflowTo: idSchema.optional(),
  /** what it weighs empty, and the highest the ground water stands against it, where ground stands against it at all */
  shell: z
    .looseObject({
      inGround: z.boolean().optional(),
      mass: quantity("mass", RANGES.shellMass).optional(),
      groundwater: quantity("length", RANGES.elevation).optional(),
    })
    .optional(),
});

export const controlSchema = z.discriminatedUnion("kind", [
  z.looseObject({
    kind: z.literal("float"),
    body: idSchema,
    on: quantity("length", RANGES.elevation),
    off: quantity("length", RANGES.elevation),
    pumps: z.array(idSchema).max(20).optional(),
    /** the first pump to start, one that joins when it cannot keep up, or one that only ever stops pumps */
    role: z.enum(["lead", "lag", "guard"]).optional(),
    alternate: z.boolean().optional(),
  }),
  z.looseObject({
    kind: z.literal("alarm"),
    body: idSchema,
    at: quantity("length", RANGES.elevation),
  }),
  z.looseObject({
    kind: z.literal("pressure-switch"),
    cutIn: quantity("pressure", RANGES.outletPressure),
    cutOut: quantity("pressure", RANGES.outletPressure),
  }),
  z.looseObject({
    kind: z.literal("timer"),
    on: quantity("time", RANGES.longTime),
    off: quantity("time", RANGES.longTime),
  }),
]);

export const overTimeSchema = z.looseObject({
  controls: z.array(controlSchema).max(50).optional(),
  battery: z
    .looseObject({
      ampereHours: amount("The capacity", 100_000).optional(),
      volts: amount("The voltage", 1000).optional(),
      peukert: z.number().min(1).max(2).optional(),
      /** h at which its capacity is stated */
      ratedOver: amount("The hours", 200).optional(),
      /** of what turns it into the pump's power */
      efficiency: z.number().min(0.3).max(1).optional(),
      /** the places of the path it feeds */
      pumps: z.array(idSchema).max(20).optional(),
    })
    .optional(),
  /** s from the start that are looked at */
  span: quantity("time", RANGES.longTime).optional(),
  /** rain of one storm on the catches of the need, or on its own */
  storm: z
    .looseObject({
      kind: z.enum(["block", "triangle", "alternating"]),
      /** m of rain in all */
      depth: quantity("length", RANGES.rain),
      duration: quantity("time", RANGES.longTime),
      start: z.number().min(0).optional(),
      catches: catchesSchema.optional(),
    })
    .optional(),
  /** water let down slowly, so that what stands outside comes down with it: m a day, and what was done */
  lowering: z
    .looseObject({
      perDay: depth,
      done: z
        .array(z.looseObject({ to: quantity("length", RANGES.elevation), on: day }))
        .max(100)
        .optional(),
    })
    .optional(),
  /** of a pump hired for a day, in the firm's money */
  hirePerDay: amount("The hire", 1e6).optional(),
  /** of a kilowatt-hour, in the firm's money */
  energyPrice: amount("The price", 1000).optional(),
  /** m³/s from a time in s on */
  hyetograph: z
    .array(z.looseObject({ from: z.number().min(0), inflow: z.number().min(0).max(100) }))
    .max(2000)
    .optional(),
  powerCut: z.looseObject({ from: z.number().min(0), to: z.number().min(0) }).optional(),
});

/** What drains into a pit by its own fall: a list of runs, not a plan. */
export const yardSchema = z.looseObject({
  runs: z
    .array(
      z.looseObject({
        id: idSchema,
        name: text(80).optional(),
        bore: quantity("diameter", RANGES.bore),
        length: stretch,
        /** m of fall for each m along */
        slope: part("The fall"),
        /** of its wall, after Manning */
        n: z.number().min(0.005).max(0.1).optional(),
        /** numbers of the catches of the need that drain into it; all when absent */
        takes: z.array(z.number().int().min(0)).max(50).optional(),
        /** another run, or a body of water */
        into: idSchema.optional(),
        /** over its upper end: part of it that is hole, part of that which is blocked, and m of water allowed over it */
        grate: z
          .looseObject({
            length: stretch,
            width: stretch,
            open: part("The open part").optional(),
            blocked: part("The blocked part").optional(),
            ponded: quantity("length", RANGES.depth).optional(),
          })
          .optional(),
        /** the catch basin under that grate: m from the grate to the pipe, and from there down to its floor */
        basin: z
          .looseObject({
            across: stretch,
            depth,
            sump: quantity("length", RANGES.depthOrNone).optional(),
          })
          .optional(),
        /** gravel it lies in */
        trench: z
          .looseObject({ width: stretch, depth, porosity: z.number().min(0.05).max(1) })
          .optional(),
      }),
    )
    .max(100)
    .optional(),
});
