import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { Change, Tried } from "#core/whatif/changes.ts";
import type { Checked } from "#core/whatif/claim.ts";
import { itemName } from "./items.ts";

/** What is done, as it is said to whoever does it. */
export function changeWords(
  change: Change,
  { path }: Pick<JobDocument, "path">,
  system: UnitSystem,
  pumpName: (id: string) => string,
): string {
  switch (change.kind) {
    case "size": {
      const { itemIds, from, to } = change;
      const [first = ""] = itemIds;
      return itemIds.length === 1
        ? `Lay ${itemName(path, first, system)} in ${to.nominal}`
        : `Lay all ${from.nominal} in ${to.nominal}`;
    }
    case "bend":
      return `One bend less: ${itemName(path, change.itemId, system)}`;
    case "pump":
      return `${pumpName(change.pump.id)} in its place`;
    case "second-pump":
      return "A second pump like it beside it";
  }
}

/** What became of a claim, in a title and sentences. */
export function claimWords(
  checked: Checked,
  system: UnitSystem,
  nameOf: (tried: Tried) => string,
): { title: string; sentence: string; advice?: string } {
  const flow = (si: number) => format(si, "flow", system);
  switch (checked.kind) {
    case "no-such-size":
      return {
        title: "Cannot be tried",
        sentence: `None of the pipe on this line is stocked in ${checked.nominal}.`,
      };
    case "flow": {
      const { claimed, arrives, holds, remedy, best } = checked;
      if (holds) return { title: "It holds", sentence: `${flow(arrives)} arrive on this line.` };
      const found = {
        title: "Not on this line",
        sentence: `${flow(arrives)} arrive, not ${flow(claimed)}.`,
      };
      if (remedy) {
        return {
          ...found,
          advice: `True with this: ${nameOf(remedy)}, and ${flow(remedy.flow)} arrive.`,
        };
      }
      return {
        ...found,
        advice: best
          ? `No single change makes it true. The most comes of this: ${nameOf(best)}, ${flow(best.flow)}.`
          : "No single change brings more.",
      };
    }
    case "pressure": {
      const { claimed, arrives, shut, holds } = checked;
      const pressure = (si: number) => format(si, "pressure", system);
      const most = `Shut off, the pump itself makes ${pressure(shut)}.`;
      return holds
        ? {
            title: "It holds",
            sentence: `${pressure(arrives)} stand before the outlet while it runs. ${most}`,
          }
        : {
            title: shut >= claimed ? "Only with nothing running" : "Not by this pump",
            sentence: `${pressure(arrives)} stand before the outlet while it runs, not ${pressure(claimed)}. ${most}`,
          };
    }
    case "times": {
      const { claimed, nominal, times, holds } = checked;
      const said = `In ${nominal} this line brings ${figure(times)} times what it brings now`;
      return holds
        ? { title: "It holds", sentence: `${said}.` }
        : {
            title: "Not on this line",
            sentence: `${said}, not ${figure(claimed)} times.`,
          };
    }
  }
}

/** Two figures: a claim deserves no more. */
function figure(value: number): string {
  return String(Number(value.toPrecision(2)));
}
