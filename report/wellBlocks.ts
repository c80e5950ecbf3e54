import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { type Context, findingsIn } from "#core/finding/registry.ts";
import { ownFindings, type WellResult } from "#model/well/well.ts";
import { RULES } from "#words/checks.ts";
import { findingWords } from "#words/findings.ts";
import { itemName } from "#words/items.ts";
import { litres, PART_NAMES, PIPE_STATES, seasonName } from "#words/well.ts";
import { type Block, left, right } from "./blocks.ts";
import { alsoSaid, stopBlocks } from "./findingBlocks.ts";

/** A well on the sheet: through the year, where the pump hangs and on what, its cable, its tank, and what goes down. */
export function wellBlocks(
  job: Pick<JobDocument, "path" | "site" | "pressureTank">,
  told: WellResult,
  system: UnitSystem,
): Block[] {
  const length = (si: number | undefined) =>
    si === undefined ? "–" : format(si, "length", system);
  const pressure = (si: number | undefined) =>
    si === undefined ? "not known" : format(si, "pressure", system);
  const flow = (si: number | undefined) => (si === undefined ? "–" : format(si, "flow", system));
  const { window, dropPipe, cable, tank, parts } = told;
  const findings = ownFindings(job, told);
  const voice = { system };
  const said = (...contexts: Context[]): Block[] => {
    const text = alsoSaid(findings, voice, ...contexts);
    return text ? [{ kind: "paragraph", text }] : [];
  };
  const rows = dropPipe.runs.flatMap(({ itemId, holds, rating }) =>
    holds.map(({ state, pressure: own }) => [
      `${itemName(job.path, itemId, system)}: ${PIPE_STATES[state].toLowerCase()}`,
      pressure(own),
      rating === undefined ? "no rating" : pressure(rating),
    ]),
  );
  return [
    { kind: "heading", level: 2, text: "The well" },
    {
      ...{ kind: "table", caption: "Down from the casing’s top" },
      columns: [
        ...[left("Season"), right("Standing"), right("Pumped to")],
        ...[right("At cut-in"), right("It gives")],
      ],
      rows: told.seasons.map(({ at, assumed, standing, pumping, flow: own, gives }) => [
        ...[seasonName({ at, assumed }), length(standing), length(pumping), flow(own)],
        gives !== undefined && Number.isFinite(gives) ? flow(gives) : "–",
      ]),
    },
    ...stopBlocks(findings, voice),
    ...said("well", "drawdown-test"),
    {
      ...{ kind: "table", caption: `The intake hangs ${length(told.depth)} down` },
      columns: [left("It may hang"), right("Depth"), left("Why")],
      rows: window.bounds.map(({ rule, side, depth }) => [
        side === "not-above" ? "at or below" : "at or above",
        length(depth),
        RULES[rule],
      ]),
    },
    ...(rows.length > 0
      ? [
          {
            ...{ kind: "table" as const, caption: "Across the wall, the water outside taken off" },
            columns: [left("Drop pipe"), right("Pressure"), right("Rated")],
            rows,
          },
        ]
      : []),
    ...said("hanging"),
    ...(cable.choice
      ? findingsIn("cable", cable.choice).map(
          (own): Block => ({ kind: "paragraph", text: findingWords(own, voice).sentence }),
        )
      : []),
    {
      kind: "paragraph",
      text: `Tank of ${litres(tank.tank.volume, system)}, air ${pressure(tank.tank.preCharge)}, ${pressure(tank.tank.cutIn)} to ${pressure(tank.tank.cutOut)}. ${alsoSaid(findings, voice, "tank")}`,
    },
    {
      ...{ kind: "table", caption: "Down the well beside pump and pipe" },
      columns: [left("What"), right("How much")],
      rows: parts.map((part) => [
        PART_NAMES[part.what],
        "count" in part ? String(part.count) : length(part.length),
      ]),
    },
    {
      kind: "caution",
      text: "Lock the power off before anybody is over the well. Lift by rope and pipe, never by the cable. Keep what goes down clean, and the casing closed. Well work, drinking water and electrical work belong to licensed people.",
    },
  ];
}
