import { lazy, Suspense, useMemo } from "react";
import { useSearchParams } from "react-router";
import type { JobDocument } from "#contract/documents/job.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { judgementKey } from "#core/check/registry.ts";
import { WATER_LEVELS } from "#core/fluid/levels.ts";
import { derivationOf, type JobSolution, type Subject } from "#model/job/solveJob.ts";
import { checkWords } from "#words/checks.ts";
import { itemName, waterOf } from "#words/items.ts";
import { ledgerSentence } from "#words/ledger.ts";
import { useUnits } from "../state/settings.ts";
import { Dialog } from "../ui/Dialog.tsx";
import { Loading } from "../ui/Notices.tsx";

const DerivationSheet = lazy(() => import("./DerivationSheet.tsx"));

/** Opens the working of a number. It stands in the address, so that a link reopens it. */
export function useDerivation(): (subject: Subject | undefined) => void {
  const [, setParams] = useSearchParams();
  return (subject) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (subject) next.set("working", named(subject));
        else next.delete("working");
        return next;
      },
      { replace: true },
    );
}

/** The sheet over the page while the address asks for one that exists. */
export function DerivationLink({ job, solved }: { job: JobDocument; solved: JobSolution }) {
  const [params] = useSearchParams();
  const show = useDerivation();
  const units = useUnits();
  const name = params.get("working");
  // Worked out once a solution, not at every render around it.
  const sheet = useMemo(() => {
    if (solved.kind === "refused" || name === null) return undefined;
    const subject = subjectNamed(name, solved);
    return (
      subject && {
        title: titleOf(subject, solved, job, units),
        steps: derivationOf(subject, solved.solution, job),
      }
    );
  }, [name, solved, job, units]);
  if (!sheet) return null;
  return (
    <Dialog open onClose={() => show(undefined)} title={sheet.title}>
      <Suspense fallback={<Loading what="the working" />}>
        <DerivationSheet steps={sheet.steps} />
      </Suspense>
    </Dialog>
  );
}

type Solved = Exclude<JobSolution, { kind: "refused" }>;
const PLAIN = [
  "flow",
  "delivered",
  "outlet",
  "lost",
  "head",
  "static",
  "power",
  "efficiency",
] as const;

function named(subject: Subject): string {
  switch (subject.kind) {
    case "ledger":
      return `ledger.${subject.index}`;
    case "check":
      return `check.${judgementKey(subject.judgement)}`;
    case "other-friction":
    case "other-fittings":
      return `${subject.kind}.normal`;
    default:
      return [subject.kind, subject.at, subject.itemId].filter(Boolean).join(".");
  }
}

function subjectNamed(name: string, { judgements, solution }: Solved): Subject | undefined {
  const [kind = "", rest = ""] = [
    name.slice(0, name.indexOf(".")),
    name.slice(name.indexOf(".") + 1),
  ];
  if (kind === "ledger") {
    const index = Number(rest);
    return solution.cases.normal.running?.ledger[index] && { kind, index };
  }
  if (kind === "check") {
    const judgement = judgements.find((each) => judgementKey(each) === rest);
    return judgement && { kind, judgement };
  }
  if (kind === "other-friction" || kind === "other-fittings") return { kind };
  const plain = PLAIN.find((each) => each === kind);
  const [level, itemId] = rest.split(".");
  const at = WATER_LEVELS.find((each) => each === level);
  return plain && at && { kind: plain, at, ...(itemId !== undefined && { itemId }) };
}

function titleOf(
  subject: Subject,
  { solution }: Solved,
  job: JobDocument,
  units: UnitSystem,
): string {
  switch (subject.kind) {
    case "check":
      return checkWords(subject.judgement, job, units).title;
    case "other-friction":
    case "other-fittings": {
      const { friction, fittings } = solution.crossChecks;
      const { duty } = subject.kind === "other-friction" ? friction : fittings;
      return `Cross-check: ${duty ? format(duty.flow, "flow", units) : "does not settle"}`;
    }
    case "ledger": {
      const entry = solution.cases.normal.running?.ledger[subject.index];
      return entry ? ledgerSentence(entry, job, units) : "";
    }
    default: {
      const { running, staticHead } = solution.cases[subject.at];
      const shown = {
        flow: running && format(flowOf(running, subject.itemId), "flow", units),
        outlet: running && format(outletFlow(running, solution, subject.itemId), "flow", units),
        delivered: running && format(running.state.delivered, "flow", units),
        lost: running && format(running.duty.flow - running.state.delivered, "flow", units),
        head: running && format(running.duty.head, "head", units),
        static: format(staticHead, "head", units),
        power: running?.power && format(running.power, "power", units),
        efficiency: running?.efficiency && formatPercent(running.efficiency),
      }[subject.kind];
      const whose = subject.itemId ? ` of ${itemName(job.path, subject.itemId, units)}` : "";
      return `${NAMES[subject.kind]}${whose}, ${waterOf(job.source)[subject.at]}: ${shown ?? "none"}`;
    }
  }
}

type Running = NonNullable<Solved["solution"]["cases"]["low"]["running"]>;

function flowOf({ duty, pumps }: Running, itemId: string | undefined): number {
  return pumps.find((pump) => pump.itemId === itemId)?.duty.flow ?? duty.flow;
}

function outletFlow(
  { state }: Running,
  { line }: Solved["solution"],
  itemId: string | undefined,
): number {
  const index = line.outlets.findIndex(({ item }) => item.id === itemId);
  return state.byOutlet[index] ?? state.delivered;
}

const NAMES = {
  flow: "Flow",
  outlet: "Flow",
  delivered: "Flow at the outlets",
  lost: "Lost through holes",
  head: "Total dynamic head",
  static: "Static head",
  power: "Power taken",
  efficiency: "Efficiency",
} as const;
