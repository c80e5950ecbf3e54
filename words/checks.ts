import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { findPipeStock, nextSizeUp } from "#core/catalogue/pipes.ts";
import type { Verdict, VerdictCode } from "#core/check/verdict.ts";
import { everyItem, type PathItem } from "#core/line/path.ts";
import { CASES, itemName } from "./items.ts";

/** A verdict in words: a headline, what and how much, and what would mend it. */
export interface VerdictWords {
  title: string;
  sentence: string;
  /** absent where nothing needs mending */
  mend?: string;
}

export function verdictWords(
  verdict: Verdict,
  path: readonly PathItem[],
  system: UnitSystem,
): VerdictWords {
  const { value, limit = 0, extra = {}, levelCase, itemId } = verdict;
  const q = (si: number) => (verdict.quantity === "ratio" ? formatPercent(si) : show(si));
  const show = (si: number) =>
    format(si, verdict.quantity as Exclude<Verdict["quantity"], "ratio">, system);
  const head = (si: number) => format(si, "head", system);
  const flow = (si: number) => format(si, "flow", system);
  const at = CASES[levelCase];
  const item = itemId ? itemName(path, itemId, system) : "the line";
  const bad = verdict.level !== "good";
  const x = (name: string) => extra[name] ?? 0;
  const larger = largerSize(path, itemId);

  const words = (title: string, sentence: string, mend?: string): VerdictWords =>
    bad && mend ? { title, sentence, mend } : { title, sentence };

  switch (verdict.code) {
    case "cannot-lift":
      return words(
        "Cannot lift",
        `At ${at} the line asks for ${q(limit)} before any water moves; this pump makes at most ${q(value)}.`,
        `It is ${head(x("shortfall"))} short. Choose a pump with more head, or lower the outlet.`,
      );
    case "below-curve":
      return words(
        "Below the published curve",
        `At ${at} the line asks for ${q(limit)} at ${flow(x("firstFlow"))}, where the published curve starts with ${q(value)}.`,
        "Choose a pump with more head: what this one does at less flow is not published.",
      );
    case "beyond-curve":
      return words(
        "Runs out past its curve",
        `At ${at} the pump still has head to spare at ${q(value)}, the last published flow: it makes ${head(x("lastHead"))} and the line takes ${head(x("headNeeded"))}.`,
        "Throttle the discharge, or choose a pump for more flow and less head. Run-out overloads motors.",
      );
    case "two-crossings":
      return words(
        "Two possible duties",
        `At ${at} the drooping curve meets the line twice: ${q(limit)} is unstable, ${q(value)} holds.`,
        x("startsFromRest")
          ? "Watch for hunting when the valve is nearly shut."
          : "From rest it cannot push the water over. Start with the line full and drained of back pressure, or choose a pump whose curve falls all the way.",
      );
    case "pump-held-shut":
      return words(
        `${item} adds nothing`,
        `At ${at} the others hold ${q(limit)} against it; it makes at most ${q(value)}, and its check valve stays shut.`,
        "It churns and heats its water. Match the pumps, or run them one at a time.",
      );
    case "backflow-unguarded":
      return words(
        `${item} has no check valve of its own`,
        "When it stands, the others drive water back through it and spin it the wrong way.",
        "Fit a check valve between it and the place where the lines meet.",
      );
    case "branch-runs-back":
      return words(
        "Water runs back through a branch",
        `${q(value)} runs against the path through ${item} at ${at}: a higher outlet empties into a lower one.`,
        "Fit a check valve in that branch, or bring the outlets to one height.",
      );
    case "outlets-uneven":
      return words(
        bad ? "Outlets share unevenly" : "Outlets share evenly",
        `${item} passes ${q(value)} at ${at}, the strongest ${q(limit)}: ${formatPercent(limit > 0 ? value / limit : 0)} of it.`,
        "Lay the weak branch larger, throttle the strong one, or run them in turn.",
      );
    case "outlet-dry":
      return words(
        "An outlet gets no water",
        `Nothing comes out of ${item} at ${at}: the pressure where its branch leaves is spent.`,
        "Lay the way to it larger, lower it, or throttle the other outlets.",
      );
    case "outlet-floods":
      return words(
        "Outlet under high water",
        `The pipe ends at ${q(value)} and the receiving water rises to ${q(limit)}: silt and water come back when the pump stands.`,
        "Raise the outlet above high water, fit a check valve, or clean it every year.",
      );
    case "siphons":
      return words(
        "Siphons",
        `The outlet lies ${head(x("fall"))} below ${at}: about ${q(value)} runs through with the pump off, once the line is full.`,
        "Break the siphon with an air inlet at the top of the line, or fit a valve.",
      );
    case "wanted-flow":
      return words(
        verdict.level === "good" ? "Delivers what is wanted" : "Less flow than wanted",
        `${q(value)} at ${at}; wanted ${q(limit)}${value >= limit ? "." : `, ${formatPercent(1 - value / limit)} short.`}`,
        "Lay a larger size where the ledger shows most head, or choose a stronger pump.",
      );
    case "intake-uncovered":
      return words(
        "Intake above the water",
        `The intake is at ${q(value)} and ${at} is at ${q(limit)}: the pump would draw air.`,
        `Lower the intake by at least ${head(value - limit)}, and keep it covered.`,
      );
    case "pump-not-under-water":
      return words(
        "Submersible pump out of the water",
        `The pump stands ${q(value)} above ${at}.`,
        "Lower it under the water: a submersible neither draws water up nor cools itself in air.",
      );
    case "suction-lift-barometric":
      return words(
        liftTitle(verdict),
        `Suction lifts ${q(value)} at ${at}, friction counted; air pressure here holds ${q(limit)} at the very most.`,
        mendLift(value, limit, head),
      );
    case "suction-lift-pump":
      return words(
        liftTitle(verdict),
        `Suction lifts ${q(value)} at ${at}, friction counted; at this altitude and water temperature the pump holds ${q(limit)}.`,
        mendLift(value, limit, head),
      );
    case "suction-boils":
      return words(
        "Suction pressure too low",
        `At ${at} the pressure falls to ${q(value)} at ${item}; water boils at ${q(limit)}.`,
        "Lower the high point of the suction, shorten it, or lay it larger.",
      );
    case "npsh-margin":
      return words(
        bad ? "NPSH margin thin" : "NPSH margin",
        `${q(value)} available at ${at}; the pump needs ${q(limit)}.`,
        "Lower the pump, or lay the suction shorter and larger, before it cavitates.",
      );
    case "suction-velocity":
      return words(
        bad ? "Suction too fast" : "Suction velocity",
        `${q(value)} in ${item} at ${at}; keep suction at or below ${q(limit)}.`,
        larger ? `Lay it in ${larger}.` : "Lay a larger suction.",
      );
    case "discharge-velocity-high":
      return words(
        "Discharge too fast",
        `${q(value)} in ${item} at ${at}; above ${q(limit)} friction and surge grow quickly.`,
        larger ? `Lay it in ${larger}.` : "Lay a larger size.",
      );
    case "discharge-velocity-low":
      return words(
        "Discharge slow",
        `${q(value)} in ${item} at ${at}; below ${q(limit)} grit settles in the line.`,
        "A smaller size would carry grit along, at the price of head. With clean water this may stand.",
      );
    case "discharge-velocity":
      return words(
        "Discharge velocity",
        `${q(x("slowest"))} to ${q(value)} along the line, inside ${q(x("low"))} to ${q(limit)}.`,
      );
    case "check-valve-flutters":
      return words(
        "Valve may flutter",
        `${q(value)} through ${item} at ${at}; its disc stays fully open from ${q(limit)}.`,
        "Fit a smaller or a spring-loaded check valve, or accept some wear and noise.",
      );
    case "pressure-rating":
      return words(
        bad ? "Pressure close to the rating or over it" : "Pressure within the rating",
        `With the outlet shut ${item} sees ${q(value)}; it is rated ${q(limit)} at this water temperature.${x("shutoffUnknown") ? " The shut-off head is not published, so the true pressure is higher." : ""}`,
        "Use pipe of a higher rating, or make sure that the outlet cannot be shut.",
      );
    case "pressure-rating-unknown":
      return words(
        "Pressure rating not known",
        `With the outlet shut ${item} sees ${q(value)}; no rating is stocked for it at this water temperature.`,
        "Read the rating off the pipe and its joints before filling the line.",
      );
    case "hole-wastes":
      return words(
        x("leaks") ? "Leaks" : "Vent hole",
        `${q(value)} is lost at ${at}, ${formatPercent(x("share"), 1)} of what the pump moves.`,
        x("leaks")
          ? "Mend the leak: tighten the clamp, or replace the joint."
          : "A vent hole of 3 to 5 mm (1/8 to 3/16 in) is enough. Drill it smaller.",
      );
    case "surge":
      return words(
        bad ? "A sudden stop overloads the pipe" : "Surge within the rating",
        `Stopped suddenly, ${item} sees ${q(value)}, of which ${q(x("rise"))} is surge; it is rated ${q(limit)}.`,
        "Close valves slowly, fit a spring-loaded check valve, or lay a larger or stronger pipe.",
      );
    case "submergence":
      return words(
        bad ? "Intake may draw air" : "Intake deep enough",
        `${q(value)} of water over the intake at ${at}; ${q(limit)} keeps a vortex away.`,
        "Lower the intake, widen its mouth, or float a board over it.",
      );
    case "loses-prime":
      return words(
        bad ? "Loses its prime when stopped" : "Foot valve holds the prime",
        `The suction line holds ${q(value)}${bad ? ", and nothing keeps it there." : ": fill it before the first start."}`,
        "Fit a foot valve, or a pump that primes itself each time, and keep every joint air-tight.",
      );
    case "drains-back":
      return words(
        "Line runs back at each stop",
        `No check valve: ${q(value)} runs back through the pump when it stops, and may spin it backwards.`,
        "Fit a check valve above the pump, arrow up.",
      );
    case "traps-air":
      return words(
        x("suction") ? "Suction has a hump that traps air" : "Line has a hump that traps air",
        `The line rises to ${q(value)} after ${item} and falls again.`,
        x("suction")
          ? "Lay the suction rising all the way to the pump."
          : "Take the hump out, or fit an air valve at its top.",
      );
    case "discharge-under-suction":
      return words(
        "Part of the discharge is under suction",
        `The pressure falls to ${q(value)} at ${item} at ${at}: joints may draw air and lay-flat collapses.`,
        "Let air in at the top, or hold the line full with a valve near the outlet.",
      );
    case "operating-region":
      return words(
        bad ? "Away from its best region" : "In its best region",
        `Runs at ${q(value)} of best-efficiency flow (${flow(x("bestFlow"))}${x("guessed") ? ", guessed as the middle of the curve" : ""}) at ${at}; 70 to 120 % is kind to it.`,
        value < limit
          ? "A smaller pump would be happier here, or a line that lets more through."
          : "A larger pump would be happier here; check the motor's current.",
      );
    case "hazen-williams-range":
      return words(
        "Outside Hazen–Williams",
        `${item}: ${[
          x("temperature") ? "water outside 5–25 °C" : "",
          x("velocity") ? `faster than ${format(3, "velocity", system)}` : "",
          x("bore") ? `bore under ${format(0.05, "diameter", system)}` : "",
        ]
          .filter(Boolean)
          .join(", ")}.`,
        "Switch the job to Darcy–Weisbach.",
      );
    case "schools-disagree":
      return words(
        "The two friction formulas disagree",
        `The other formula gives ${q(value)} instead of ${q(limit)}.`,
        "Trust Darcy–Weisbach for small bores and water away from 15 °C.",
      );
  }
}

function liftTitle({ level, code }: { level: Verdict["level"]; code: VerdictCode }): string {
  const whose = code === "suction-lift-pump" ? "the pump" : "air pressure";
  if (level === "good")
    return `Suction lift within ${whose === "the pump" ? "the pump’s limit" : "the barometric limit"}`;
  return level === "stop"
    ? `Suction lift too high for ${whose}`
    : `Suction lift near the limit of ${whose}`;
}

function mendLift(value: number, limit: number, head: (si: number) => string): string {
  const over = value - 0.9 * limit;
  return `Lower the pump by ${head(over)}, cut suction friction, or move to a submersible.`;
}

function largerSize(path: readonly PathItem[], itemId: string | undefined): string | undefined {
  const item = everyItem(path).find((candidate) => candidate.id === itemId);
  const stock = item?.kind === "pipe" ? findPipeStock(item.stock) : undefined;
  return stock && nextSizeUp(stock)?.nominal;
}
