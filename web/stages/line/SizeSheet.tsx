import { useMemo, useState } from "react";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { FAMILIES, findPipeStock, PIPE_STOCK, type PipeFamily } from "#core/catalogue/pipes.ts";
import { changeItems, everyItem } from "#core/line/path.ts";
import { KNEE, type SizeRow } from "#core/sizes/sizes.ts";
import { SIZE_COMPUTATIONS } from "#model/results/ofSizes.ts";
import { duration } from "#words/duration.ts";
import { itemName, stockName, UNSETTLED } from "#words/items.ts";
import { edit } from "../../openJob/jobStore.ts";
import { onPage } from "../../openJob/results.ts";
import type { LineViewProps } from "../../openJob/stage.ts";
import { useResult } from "../../openJob/useResult.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { SelectField } from "../../ui/Fields.tsx";
import { Loading } from "../../ui/Notices.tsx";

onPage.learn(SIZE_COMPUTATIONS);

/** Sizes side by side for one run, or for every run like it, each at its own duty; one click lays it. */
export default function SizeSheet({ job, solved, selected }: LineViewProps) {
  // With no pump yet sizes are compared by the head the wanted flow takes in them.
  const asked = solved.kind === "asked";
  const units = useUnits();
  const runs = everyItem<JobPathItem>(job.path).filter((item) => item.kind === "pipe");
  const longest = runs.reduce<(typeof runs)[number] | undefined>(
    (best, run) => (best && best.length >= run.length ? best : run),
    undefined,
  );
  const [chosen, setChosen] = useState<string>();
  const [family, setFamily] = useState<PipeFamily>();
  const [together, setTogether] = useState(false);
  const run =
    runs.find((item) => item.id === chosen) ?? runs.find((item) => item.id === selected) ?? longest;
  const laid = run && findPipeStock(run.stock);
  const shown = family ?? laid?.family ?? "pvc-sch40";
  const like = runs.filter((item) => item.stock === run?.stock);
  const ids = useMemo(
    () => (together ? like.map((item) => item.id) : run ? [run.id] : []).join(" "),
    [together, like, run],
  );
  const sizing = useMemo(
    () => ({
      itemIds: ids.split(" "),
      sizes: PIPE_STOCK.filter((stock) => stock.family === shown),
    }),
    [ids, shown],
  );
  const { value: comparison, stale } = useResult("sizes", { job, sizing });
  if (!run)
    return <p className="p-4 text-soft">There is no run of pipe to compare sizes for yet.</p>;

  const lay = (stock: string) => {
    const targets = new Set(ids.split(" "));
    edit((j) => ({
      ...j,
      path: changeItems<JobPathItem>(j.path, (item) =>
        item.kind === "pipe" && targets.has(item.id) ? { ...item, stock } : item,
      ),
    }));
  };

  return (
    <div>
      <div className="grid grid-cols-2 gap-2 px-3 pt-2">
        <SelectField label="Run" visibleLabel value={run.id} onChange={setChosen}>
          {runs.map((item) => (
            <option key={item.id} value={item.id}>
              {itemName(job.path, item.id, units)}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Tried in"
          visibleLabel
          value={shown}
          onChange={(value) => setFamily(value as PipeFamily)}
        >
          {Object.entries(FAMILIES).map(([value, { label }]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </SelectField>
      </div>
      {like.length > 1 && (
        <label className="flex min-h-9 items-center gap-2 px-3 text-[14px]">
          <input
            type="checkbox"
            className="size-4.5 accent-(--water)"
            checked={together}
            onChange={(event) => setTogether(event.target.checked)}
          />
          All {like.length} runs of {stockName(run.stock)} together
        </label>
      )}
      {comparison === undefined ? (
        <Loading what="the sizes" />
      ) : comparison.rows.length === 0 ? (
        <p className="p-4 text-soft">
          Sizes can be compared once a flow is wanted or a pump chosen, and the line can be solved.
        </p>
      ) : (
        <div className={`@container ${stale ? "opacity-60" : ""}`} aria-busy={stale}>
          <table className="mt-1 w-full text-[14px]" aria-label="Sizes compared">
            <thead className="text-right text-[13px] text-soft">
              <tr>
                <th className="py-1 pl-3 text-left font-normal">Size</th>
                <th className="pl-2 font-normal">{asked ? "Head asked" : "Flow"}</th>
                <th className="pl-2 font-normal">Velocity</th>
                <th className={`pl-2 font-normal ${takesColumn(job)}`}>Takes</th>
                <th className="pl-2 font-normal @max-xl:hidden">Left at outlet</th>
                <th className="pl-2 font-normal @max-xl:hidden">Power</th>
                <th className={`pl-2 font-normal ${priceColumn(job)}`}>Price</th>
                {job.volume !== undefined && <th className="pl-2 font-normal">Time</th>}
                <th className="pr-3">
                  <span className="sr-only">Lay it</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {comparison.rows.map((row) => (
                <SizeLine
                  key={row.stock.id}
                  {...{ row, job, asked }}
                  laid={row.stock.id === run.stock}
                  knee={row.stock.id === comparison.kneeId}
                  onLay={() => lay(row.stock.id)}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="px-3 py-2 text-[13px] text-soft">
        {asked
          ? `The head each size asks of a pump at ${format(job.wantedFlow ?? 0, "flow", units)}, normal water. ◂ marks the knee: from there one size more saves less than ${formatPercent(KNEE)} of it.`
          : `Each size at its own duty, normal water. ◂ marks the knee: from there one size more brings less than ${formatPercent(KNEE)} more flow.`}{" "}
        Prices are invented, for the pipe alone.
      </p>
    </div>
  );
}

/** Where the time stands in the table as well, the price gives way to it sooner, and on a phone the head too. */
const takesColumn = ({ volume }: JobDocument) => (volume === undefined ? "" : "@max-md:hidden");
const priceColumn = ({ volume }: JobDocument) =>
  volume === undefined ? "@max-md:hidden" : "@max-xl:hidden";

function SizeLine({
  row,
  job,
  asked,
  laid,
  knee,
  onLay,
}: {
  row: SizeRow;
  job: JobDocument;
  /** no pump yet: what is compared is the head asked of one */
  asked: boolean;
  laid: boolean;
  knee: boolean;
  onLay: () => void;
}) {
  const units = useUnits();
  const { stock, flow, head, velocity, runHead, outletPressure, power, price } = row;
  // Where there is no room for columns of their own these stand under the size.
  const beside = [
    // Into the open there is nothing left, and nothing to say.
    outletPressure !== undefined &&
      outletPressure > 100 &&
      `${format(outletPressure, "pressure", units)} left`,
    power !== undefined && format(power, "power", units),
    job.volume !== undefined && `price ${price.toFixed(0)}`,
  ].filter(Boolean);
  const takes = runHead === undefined ? undefined : `takes ${format(runHead, "head", units)}`;
  const onPhone = job.volume === undefined ? `price ${price.toFixed(0)}` : takes;
  const enough = flow !== undefined && job.wantedFlow !== undefined && flow >= job.wantedFlow;
  return (
    <tr className={`border-t border-rule text-right ${laid ? "bg-press" : ""}`}>
      <th className="plate py-0.5 pl-3 text-left text-[17px] whitespace-nowrap">
        {stock.nominal}
        {knee && <span title="The knee of the curve"> ◂ knee</span>}
        <span className="block font-sans text-[12px] leading-tight font-normal text-soft @xl:hidden">
          {beside.join(", ")}
          {onPhone && (
            <span className="@md:hidden">
              {beside.length > 0 && <br />}
              {onPhone}
            </span>
          )}
        </span>
      </th>
      <td className="pl-2 font-medium whitespace-nowrap @max-md:pl-1">
        {flow === undefined
          ? UNSETTLED[row.outcome]
          : asked
            ? format(head ?? 0, "head", units)
            : format(flow, "flow", units)}
        {enough && !asked && <span title="At least the flow wanted"> ✓</span>}
      </td>
      <td className="pl-2 whitespace-nowrap @max-md:pl-1">
        {velocity === undefined ? "–" : format(velocity, "velocity", units)}
      </td>
      <td className={`pl-2 whitespace-nowrap @max-md:pl-1 ${takesColumn(job)}`}>
        {runHead === undefined ? "–" : format(runHead, "head", units)}
      </td>
      <td className="pl-2 whitespace-nowrap @max-xl:hidden">
        {outletPressure === undefined ? "–" : format(outletPressure, "pressure", units)}
      </td>
      <td className="pl-2 whitespace-nowrap @max-xl:hidden">
        {power === undefined ? "–" : format(power, "power", units)}
      </td>
      <td className={`pl-2 ${priceColumn(job)}`}>{price.toFixed(0)}</td>
      {job.volume !== undefined && (
        <td className="pl-2 whitespace-nowrap @max-md:pl-1">
          {flow === undefined ? "–" : duration(job.volume / flow)}
        </td>
      )}
      <td className="pr-3 pl-2">
        <Button
          className="px-2"
          disabled={laid}
          aria-label={laid ? `${stock.nominal} is laid now` : `Lay ${stock.nominal}`}
          onClick={onLay}
        >
          {laid ? "Laid" : "Lay"}
        </Button>
      </td>
    </tr>
  );
}
