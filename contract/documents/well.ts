import * as z from "zod";
import { amount, idSchema, text } from "./fields.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";

const depth = quantity("length", RANGES.depth);
const stretch = quantity("length", RANGES.length);

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
      sizes: z.enum(["awg", "mm2", "mm2stranded"]).optional(),
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
      /** absent until they were measured */
      slug: quantity("volume", RANGES.volume).optional(),
      period: quantity("time", RANGES.time).optional(),
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
