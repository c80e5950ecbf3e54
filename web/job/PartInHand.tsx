import { type ComponentProps, useEffect, useRef } from "react";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/quantity.ts";
import type { JobSolution } from "#contract/solveJob.ts";
import { findingSentence } from "#contract/wording/findings.ts";
import { OUTLETS } from "#contract/wording/items.ts";
import { FITTING_STOCK } from "#core/fitting/stock.ts";
import type { Outlet } from "#core/line/path.ts";
import { FAMILIES, PIPE_STOCK, type PipeFamily } from "#core/pipe/stock.ts";
import { newId } from "../api/client.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { NumberField, SelectField, TextField } from "../ui/Fields.tsx";
import { ArrowDown, ArrowUp, Plus, Trash2 } from "../ui/icons.ts";
import { QuantityField } from "../ui/QuantityField.tsx";
import { edit, editItem, insertItem, moveItem, partsOf, removeItem, visit } from "./jobStore.ts";
import { PumpChooser } from "./PumpChooser.tsx";
import type { Part } from "./Section.tsx";

interface Props {
  part: Part;
  job: JobDocument;
  solved: JobSolution;
  selected: string | undefined;
  onSelect: (itemId: string | undefined) => void;
}

/** The part of the job being worked on, as rows for keyboard or thumb. */
export function PartInHand(props: Props) {
  switch (props.part) {
    case "source":
      return <SourcePart job={props.job} />;
    case "suction":
    case "discharge":
      return <LinePart {...props} side={props.part} />;
    case "pump":
      return <PumpChooser job={props.job} />;
    case "outlet":
      return <OutletPart job={props.job} />;
  }
}

function SourcePart({ job }: { job: JobDocument }) {
  const { source, site, method } = job;
  const setLevel = (name: "low" | "normal" | "high") => (value: number) =>
    edit((j) => ({
      ...j,
      source: { ...j.source, level: { ...j.source.level, [name]: value } },
    }));
  const elevation = { quantity: "length", range: RANGES.elevation } as const;
  return (
    <div className="grid gap-3 p-3">
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Water"
          value={source.name ?? ""}
          onVisit={visit}
          maxLength={80}
          onChange={(name) => edit((j) => ({ ...j, source: { ...j.source, name } }))}
        />
        <TextField
          label="Levels measured from"
          value={job.datum ?? ""}
          onVisit={visit}
          onChange={(datum) => edit((j) => ({ ...j, datum }))}
        />
      </div>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        <JobQuantity
          {...elevation}
          label="Low water"
          value={source.level.low}
          onChange={setLevel("low")}
        />
        <JobQuantity
          {...elevation}
          label="Normal water"
          value={source.level.normal}
          onChange={setLevel("normal")}
        />
        <JobQuantity
          {...elevation}
          label="High water"
          value={source.level.high}
          onChange={setLevel("high")}
        />
        <JobQuantity
          {...elevation}
          label="Intake"
          value={source.intake}
          onChange={(intake) => edit((j) => ({ ...j, source: { ...j.source, intake } }))}
        />
      </div>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
        <JobQuantity
          label="Flow wanted"
          optional
          quantity="flow"
          range={RANGES.flow}
          value={job.wantedFlow}
          onChange={(wantedFlow) =>
            edit(({ wantedFlow: _, ...j }) => (wantedFlow === undefined ? j : { ...j, wantedFlow }))
          }
        />
        <JobQuantity
          label="Water to move"
          optional
          quantity="volume"
          range={RANGES.jobVolume}
          value={job.volume}
          onChange={(volume) =>
            edit(({ volume: _, ...j }) => (volume === undefined ? j : { ...j, volume }))
          }
        />
        <JobQuantity
          label="Altitude"
          quantity="length"
          range={RANGES.altitude}
          value={site.altitude}
          onChange={(altitude) => edit((j) => ({ ...j, site: { ...j.site, altitude } }))}
        />
        <JobQuantity
          label="Water temperature"
          quantity="temperature"
          range={RANGES.waterTemperature}
          value={site.waterTemperature}
          onChange={(waterTemperature) =>
            edit((j) => ({ ...j, site: { ...j.site, waterTemperature } }))
          }
        />
        <NumberField
          label="Specific gravity"
          visibleLabel
          value={site.specificGravity}
          min={0.9}
          max={1.6}
          onVisit={visit}
          onChange={(specificGravity) =>
            edit((j) => ({ ...j, site: { ...j.site, specificGravity } }))
          }
        />
      </div>
      <div className="grid grid-cols-1 gap-2 sm:grid-cols-2">
        <SelectField
          label="Friction by"
          visibleLabel
          value={method.friction}
          onChange={(friction) =>
            edit((j) => ({
              ...j,
              method: { ...j.method, friction: friction as typeof method.friction },
            }))
          }
        >
          <option value="darcy-weisbach">Darcy–Weisbach</option>
          <option value="hazen-williams">Hazen–Williams</option>
        </SelectField>
        <SelectField
          label="Fittings by"
          visibleLabel
          value={method.fittings}
          onChange={(fittings) =>
            edit((j) => ({
              ...j,
              method: { ...j.method, fittings: fittings as typeof method.fittings },
            }))
          }
        >
          <option value="coefficient">Loss coefficient K</option>
          <option value="equivalent-length">Equivalent length</option>
        </SelectField>
      </div>
      <div className="grid grid-cols-1 gap-2 sm:grid-cols-2">
        <TextField
          label="Place"
          value={job.place ?? ""}
          maxLength={200}
          onVisit={visit}
          onChange={(place) => edit((j) => ({ ...j, place }))}
        />
        <TextField
          label="Note"
          value={job.note ?? ""}
          maxLength={5000}
          onVisit={visit}
          onChange={(note) => edit((j) => ({ ...j, note }))}
        />
      </div>
      <p className="text-[13px] text-soft">
        Dirty water: the specific gravity counts in pressure and power; its viscosity stays that of
        clean water.
      </p>
    </div>
  );
}

/** An entry of the job on the bench: one visit is one step of undo. */
function JobQuantity(props: ComponentProps<typeof QuantityField>) {
  return <QuantityField onVisit={visit} {...props} />;
}

const ROW =
  "grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-start gap-1 sm:grid-cols-[minmax(0,2.3fr)_minmax(0,1fr)_minmax(0,1fr)_auto]";
/** On a phone the choice takes a line of its own. */
const CHOICE = "max-sm:col-span-2";

function LinePart({
  side,
  job,
  solved,
  selected,
  onSelect,
}: Props & { side: "suction" | "discharge" }) {
  const parts = partsOf(job.path);
  const { start, items } = parts[side];
  const findings = solved.kind === "refused" ? solved.findings : [];
  const lastPipe = [...items].reverse().find((item) => item.kind === "pipe");
  const add = (item: JobPathItem, index = start + items.length) => {
    insertItem(index, item);
    onSelect(item.id);
  };
  const defaultStock =
    lastPipe?.stock ?? (side === "suction" ? "suction-hose-2in" : "pvc-sch40-2in");
  return (
    <div className="p-3">
      <div className={`${ROW} pb-1 text-[13px] text-soft max-sm:hidden`} aria-hidden>
        <span>Along the water’s path</span>
        <span>Length, count</span>
        <span>Rise or size</span>
        <span className="w-24 pointer-coarse:w-33" />
      </div>
      <ol
        aria-label={side === "suction" ? "Suction line" : "Discharge line"}
        className="grid gap-1.5"
      >
        {items.map((item, index) => (
          <LineRow
            key={item.id}
            item={item}
            first={index === 0}
            last={index === items.length - 1}
            chosen={item.id === selected}
            problem={findings
              .filter((finding) => finding.itemId === item.id)
              .map(findingSentence)
              .join(" ")}
            onSelect={onSelect}
          />
        ))}
      </ol>
      {items.length === 0 && (
        <p className="py-3 text-soft">
          {side === "suction"
            ? "No suction line: the pump stands in the water. Add a hose if it stands above."
            : "No discharge line yet. Add the first run of pipe."}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button
          onClick={() =>
            add({ kind: "pipe", id: newId(), stock: defaultStock, length: 5, rise: 0 })
          }
        >
          <Plus size={16} aria-hidden /> Pipe or hose
        </Button>
        <Button
          onClick={() =>
            add({
              kind: "fitting",
              id: newId(),
              fitting: side === "suction" ? "foot-valve-hinged" : "elbow-90",
              count: 1,
            })
          }
        >
          <Plus size={16} aria-hidden /> Fitting
        </Button>
        <Button onClick={() => add({ kind: "rise", id: newId(), rise: 0 })}>
          <Plus size={16} aria-hidden /> Rise only
        </Button>
        {side === "discharge" && (
          <Button
            onClick={() =>
              add({ kind: "orifice", id: newId(), purpose: "vent-hole", bore: 0.004 }, start)
            }
          >
            <Plus size={16} aria-hidden /> Hole
          </Button>
        )}
      </div>
    </div>
  );
}

function LineRow({
  item,
  first,
  last,
  chosen,
  problem,
  onSelect,
}: {
  item: JobPathItem;
  first: boolean;
  last: boolean;
  chosen: boolean;
  problem: string;
  onSelect: (id: string) => void;
}) {
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (chosen) row.current?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  return (
    <li
      ref={row}
      className={`rounded ${chosen ? "bg-press" : ""}`}
      onFocus={() => onSelect(item.id)}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
        event.preventDefault();
        moveItem(item.id, event.key === "ArrowUp" ? -1 : 1);
      }}
    >
      <div className={ROW}>
        <RowFields item={item} />
        <span className="flex max-sm:col-start-3 max-sm:row-start-1">
          <IconButton
            label="Move towards the water"
            disabled={first}
            onClick={() => moveItem(item.id, -1)}
          >
            <ArrowUp size={17} aria-hidden />
          </IconButton>
          <IconButton
            label="Move towards the outlet"
            disabled={last}
            onClick={() => moveItem(item.id, 1)}
          >
            <ArrowDown size={17} aria-hidden />
          </IconButton>
          <IconButton label="Remove" onClick={() => removeItem(item.id)}>
            <Trash2 size={17} aria-hidden />
          </IconButton>
        </span>
      </div>
      {problem && (
        <p role="alert" className="pb-1 text-[14px] text-signal">
          {problem}
        </p>
      )}
    </li>
  );
}

function RowFields({ item }: { item: JobPathItem }) {
  switch (item.kind) {
    case "pipe":
      return (
        <>
          <SelectField
            className={CHOICE}
            label="Pipe or hose"
            value={item.stock}
            onChange={(stock) => editItem<"pipe">(item.id, { stock })}
          >
            <StockOptions chosen={item.stock} />
          </SelectField>
          <JobQuantity
            label="Length"
            visibleLabel="phone"
            quantity="length"
            range={RANGES.length}
            value={item.length}
            onChange={(length) => editItem<"pipe">(item.id, { length })}
          />
          <JobQuantity
            label="Rise"
            visibleLabel="phone"
            quantity="length"
            range={RANGES.rise}
            value={item.rise}
            onChange={(rise) => editItem<"pipe">(item.id, { rise })}
          />
        </>
      );
    case "fitting":
      return (
        <>
          <SelectField
            className={CHOICE}
            label="Fitting"
            value={item.fitting}
            onChange={(fitting) => editItem<"fitting">(item.id, { fitting })}
          >
            {!FITTING_STOCK.some((f) => f.id === item.fitting) && (
              <option value={item.fitting}>{item.fitting}</option>
            )}
            {FITTING_STOCK.map((f) => (
              <option key={f.id} value={f.id}>
                {f.label}
              </option>
            ))}
          </SelectField>
          <NumberField
            label="Count"
            value={item.count}
            min={1}
            max={999}
            whole
            onVisit={visit}
            onChange={(count) => editItem<"fitting">(item.id, { count })}
          />
          <SelectField
            label="Size of fitting"
            value={item.stock ?? ""}
            onChange={(stock) =>
              editItem<"fitting">(item.id, { stock: stock === "" ? undefined : stock })
            }
          >
            <option value="">as pipe</option>
            <StockOptions chosen={item.stock ?? ""} />
          </SelectField>
        </>
      );
    case "rise":
      return (
        <>
          <span className={`flex min-h-9 items-center px-2 ${CHOICE}`}>Rise only</span>
          <span />
          <JobQuantity
            label="Rise"
            visibleLabel="phone"
            quantity="length"
            range={RANGES.rise}
            value={item.rise}
            onChange={(rise) => editItem<"rise">(item.id, { rise })}
          />
        </>
      );
    case "orifice":
      return (
        <>
          <SelectField
            className={CHOICE}
            label="Hole"
            value={item.purpose}
            onChange={(purpose) =>
              editItem<"orifice">(item.id, { purpose: purpose as typeof item.purpose })
            }
          >
            <option value="vent-hole">Vent hole</option>
            <option value="leak">Leak</option>
          </SelectField>
          <span className="flex min-h-9 items-center px-2 text-[14px] text-soft">bore</span>
          <JobQuantity
            label="Bore of hole"
            visibleLabel={false}
            quantity="diameter"
            range={RANGES.bore}
            value={item.bore}
            onChange={(bore) => editItem<"orifice">(item.id, { bore })}
          />
        </>
      );
    default:
      return (
        <span className="col-span-3 flex min-h-9 items-center px-2 text-soft">
          {OTHER[item.kind]}
        </span>
      );
  }
}

const OTHER = { split: "Split", pump: "Pump", outlet: "Outlet" } as const;

function StockOptions({ chosen }: { chosen: string }) {
  return (
    <>
      {chosen !== "" && !PIPE_STOCK.some((s) => s.id === chosen) && (
        <option value={chosen}>{chosen}</option>
      )}
      {(Object.keys(FAMILIES) as PipeFamily[]).map((family) => (
        <optgroup key={family} label={FAMILIES[family].label}>
          {PIPE_STOCK.filter((s) => s.family === family).map((s) => (
            <option key={s.id} value={s.id}>
              {s.nominal} {FAMILIES[family].label}
            </option>
          ))}
        </optgroup>
      ))}
    </>
  );
}

function OutletPart({ job }: { job: JobDocument }) {
  const { outlet: item } = partsOf(job.path);
  if (!item) {
    return (
      <div className="p-3">
        <p className="pb-2 text-soft">The path has no outlet yet.</p>
        <Button
          onClick={() =>
            insertItem(job.path.length, { kind: "outlet", id: newId(), outlet: { type: "free" } })
          }
        >
          <Plus size={16} aria-hidden /> Outlet
        </Button>
      </div>
    );
  }
  const { outlet } = item;
  const set = (next: Outlet) => editItem<"outlet">(item.id, { outlet: next });
  const start = (type: Outlet["type"]): Outlet => {
    const { level } = job.source;
    switch (type) {
      case "free":
        return { type };
      case "submerged":
        return { type, level };
      case "pressure":
        return { type, pressure: 200_000 };
      case "nozzle":
        return { type, bore: 0.012, dischargeCoefficient: 0.95 };
    }
  };
  return (
    <div className="grid gap-3 p-3">
      <SelectField
        label="The water leaves"
        visibleLabel
        value={outlet.type}
        onChange={(type) => set(start(type as Outlet["type"]))}
      >
        {(Object.keys(OUTLETS) as Outlet["type"][]).map((type) => (
          <option key={type} value={type}>
            {OUTLETS[type]}
          </option>
        ))}
      </SelectField>
      {outlet.type === "submerged" && (
        <div className="grid grid-cols-3 gap-2">
          {(["low", "normal", "high"] as const).map((name) => (
            <JobQuantity
              key={name}
              label={`Receiving water, ${name}`}
              quantity="length"
              range={RANGES.elevation}
              value={outlet.level[name]}
              onChange={(value) => set({ ...outlet, level: { ...outlet.level, [name]: value } })}
            />
          ))}
        </div>
      )}
      {outlet.type === "pressure" && (
        <JobQuantity
          label="Pressure to keep"
          quantity="pressure"
          range={RANGES.outletPressure}
          value={outlet.pressure}
          onChange={(pressure) => set({ ...outlet, pressure })}
        />
      )}
      {outlet.type === "nozzle" && (
        <div className="grid grid-cols-2 gap-2">
          <JobQuantity
            label="Nozzle bore"
            quantity="diameter"
            range={RANGES.bore}
            value={outlet.bore}
            onChange={(bore) => set({ ...outlet, bore })}
          />
          <NumberField
            label="Discharge coefficient"
            visibleLabel
            value={outlet.dischargeCoefficient}
            min={0.4}
            max={1}
            onVisit={visit}
            onChange={(dischargeCoefficient) => set({ ...outlet, dischargeCoefficient })}
          />
        </div>
      )}
      <p className="text-[13px] text-soft">{OUTLET_NOTES[outlet.type]}</p>
    </div>
  );
}

const OUTLET_NOTES: Record<Outlet["type"], string> = {
  free: "The outlet’s height follows from the rises along the line. Where water may go is for local rules and the land’s owner: ask before discharging.",
  submerged:
    "The receiving level counts, not the pipe’s end. Low water at the source is solved with high water here, and the other way round. Stop backflow where it could do harm.",
  pressure: "The pump works against this pressure as well as the lift.",
  nozzle:
    "q = Cd · A · √(2p/ρ). A tapered gun nozzle has Cd 0.92 to 0.97 (common practice, no source).",
};
