import { type Finding, findingsIn } from "#core/finding/registry.ts";
import { yardAtWork } from "../demand/yard.ts";
import { waters } from "../irrigation/waters.ts";
import { findingsOfDriving } from "../selection/driving.ts";
import { controlOf } from "../well/day.ts";
import { hasWell } from "../well/settle.ts";
import { ownFindings } from "../well/well.ts";
import type { Look } from "./graph.ts";
import type { Seen } from "./results.ts";

/**
 * What was found of a job, everywhere it was looked: over time, in the well, on the ground, at the motor, in the yard.
 * Guns are judged with the line. Other ways to lift a well's water, and sizes that were not chosen, are no part of the
 * job.
 */
export function findingsBeside(
  job: Seen<"findings">,
  look: Look<"line" | "run" | "well" | "switchedDay" | "valvedDay" | "irrigation">,
): Finding[] {
  const run = look("run");
  return [
    ...(run.kind === "run" ? run.answers.findings : []),
    ...(run.kind === "run" || run.kind === "wrong" ? run.troubles : []).flatMap((trouble) =>
      findingsIn("run-trouble", trouble),
    ),
    ...(hasWell(job) ? wellFindings(job, look) : []),
    ...(waters(job) ? look("irrigation").findings : []),
    ...drivingFindings(job, look),
    ...yardAtWork(job).flatMap(({ findings }) => findings),
  ];
}

/** In a well the cable is judged whole, its buried run too: not a second time as a cord of one size. */
function drivingFindings(job: Seen<"findings">, look: Look<"line" | "well">): Finding[] {
  const cabled = hasWell(job) && (look("well")?.cable.rows.length ?? 0) > 0;
  return findingsOfDriving(job, look("line"))
    .flatMap(({ findings }) => findings)
    .filter(({ code }) => !cabled || (code !== "cord-drop" && code !== "start-voltage"));
}

function wellFindings(
  { pressureTank, house }: Seen<"findings">,
  look: Look<"well" | "switchedDay" | "valvedDay">,
): Finding[] {
  const well = look("well");
  const kept = house && look(`${controlOf({ pressureTank })}Day`);
  return [...(well ? ownFindings({ pressureTank }, well) : []), ...(kept?.findings ?? [])];
}
