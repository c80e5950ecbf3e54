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
  /** what it weighs empty, and the highest the ground water stands against it */
  shell: z
    .looseObject({
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

/** A well: depths are down from its casing's top. */
export const wellSchema = z.looseObject({
  /** of the casing's top over what the job's levels are measured from; nothing when absent */
  top: quantity("length", RANGES.elevation).optional(),
  casings: z
    .array(
      z.looseObject({
        bore: quantity("diameter", RANGES.bore),
        from: quantity("length", RANGES.depthOrNone),
        to: depth,
      }),
    )
    .max(20)
    .optional(),
  bottom: depth.optional(),
  screen: z.looseObject({ from: depth, to: depth }).optional(),
  /** down to the water before the test; the usual standing water when absent */
  standing: depth.optional(),
  steps: z
    .array(
      z.looseObject({
        flow: quantity("flow", RANGES.flow),
        level: depth,
        minutes: amount("The minutes", 100_000).optional(),
      }),
    )
    .max(100)
    .optional(),
  /** bore of a sleeve round the motor, and how far the motor reaches below the intake */
  sleeve: quantity("diameter", RANGES.bore).optional(),
  motor: quantity("length", RANGES.depthOrNone).optional(),
  /** where a guard stops the pump for want of water, and where it lets it start again */
  dryRun: z.looseObject({ stop: depth.optional(), restart: depth.optional() }).optional(),
  cable: z
    .looseObject({
      /** from the supply to the well's head */
      run: quantity("length", RANGES.lengthOrNone).optional(),
      /** that run lies in the ground and is laid one size heavier; it does unless said */
      heavier: z.boolean().optional(),
      /** how its sizes are measured */
      sizes: z.enum(["awg", "mm2"]).optional(),
    })
    .optional(),
  /** what an electrician says of the sizes of cable, by their conductor */
  cables: z
    .array(
      z.looseObject({
        conductor: text(20).optional(),
        ampacity: amount("The ampacity", 5000).optional(),
        /** a metre, in the firm's money */
        price: amount("The price", 1e5).optional(),
      }),
    )
    .max(40)
    .optional(),
  /** a pump worked by hand */
  hand: z
    .looseObject({
      bore: quantity("diameter", RANGES.bore),
      stroke: quantity("length", { ...RANGES.depth, max: 3, what: "The stroke" }),
      strokes: amount("The strokes a minute", 200),
      /** how many times longer the handle is on the hand's side */
      leverage: z.number().min(1).max(50),
      /** down to its cylinder; at the top when absent */
      cylinder: depth.optional(),
    })
    .optional(),
  /** a pipe with air let in at its foot */
  air: z
    .looseObject({
      foot: depth,
      /** of air as it is outside */
      flow: quantity("flow", RANGES.flow),
      pressure: quantity("pressure", RANGES.outletPressure),
    })
    .optional(),
  /** a pump that throws a slug each time its air has built up, as it was measured */
  pulse: z
    .looseObject({
      foot: depth,
      slug: quantity("volume", RANGES.volume),
      period: quantity("time", RANGES.time),
      pressure: quantity("pressure", RANGES.outletPressure),
      power: quantity("power", RANGES.power),
    })
    .optional(),
  /** a second pump that raises the pressure behind an open tank the well's pump fills */
  booster: z.looseObject({ pump: idSchema }).optional(),
});

/** A pressure tank, its switch, and a valve that holds the pressure where there is one. Pressures are gauge. */
export const pressureTankSchema = z.looseObject({
  volume: quantity("volume", RANGES.volume).optional(),
  /** of its air with no water in it; by the school when absent */
  preCharge: quantity("pressure", RANGES.outletPressure).optional(),
  cutIn: quantity("pressure", RANGES.outletPressure).optional(),
  cutOut: quantity("pressure", RANGES.outletPressure).optional(),
  /** how far its air is set below the cut-in */
  school: z.enum(["2-psi-under", "5-psi-under", "throttle-valve"]).optional(),
  /** at the well's head: what it holds behind it, what it always lets through, and the tank it goes with */
  valve: z
    .looseObject({
      pressure: quantity("pressure", RANGES.outletPressure).optional(),
      leastFlow: quantity("flow", RANGES.flow).optional(),
      volume: quantity("volume", RANGES.volume).optional(),
    })
    .optional(),
});

/** Where the water of a pressure tank goes: taps on branches, and when they draw. */
export const houseSchema = z.looseObject({
  /** pipe all taps share */
  shared: z.looseObject({ stock: text(64), length: stretch }).optional(),
  taps: z
    .array(
      z.looseObject({
        name: text(60),
        /** over the tank's gauge */
        height: quantity("length", { min: -200, max: 200, what: "The height" }),
        stock: text(64),
        length: stretch,
        flow: quantity("flow", RANGES.emitterFlow),
      }),
    )
    .max(40)
    .optional(),
  /** as it usually is for so many heads or plots, or as typed */
  use: z.enum(["house", "plots", "typed"]).optional(),
  count: amount("The number", 1000).optional(),
  draws: z
    .array(
      z.looseObject({
        /** s after midnight */
        at: quantity("time", RANGES.timeOrNone),
        volume: quantity("volume", RANGES.volume),
        /** number of the tap, from 0 */
        tap: z.number().int().min(0).max(39).optional(),
        /** of the week, from 0; every day when absent */
        day: z.number().int().min(0).max(6).optional(),
      }),
    )
    .max(500)
    .optional(),
  /** days that are looked at */
  days: z.number().int().min(1).max(7).optional(),
});
