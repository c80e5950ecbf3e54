import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { toast } from "sonner";
import type { Stored } from "#contract/api/api.ts";
import { type FieldIssue, fieldIssues } from "#contract/documents/issues.ts";
import { type PumpDocument, pumpSchema } from "#contract/documents/pump.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { TOLERANCE, type ToleranceGrade } from "#core/pump/pump.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { api, newId } from "../api/client.ts";
import { allPumps, keyOf, oneOf, queries } from "../api/queries.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { SelectField, TextField } from "../ui/Fields.tsx";
import { Plus, Trash2 } from "../ui/icons.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";

type Point = Partial<PumpDocument["points"][number]>;
type Patch = { [Key in keyof Point]: number | undefined };
type Draft = Omit<PumpDocument, "points"> & { points: Point[] };

const COLUMNS = [
  { key: "flow", label: "Flow", quantity: "flow", range: RANGES.curveFlow },
  { key: "head", label: "Head", quantity: "head", range: RANGES.head },
  { key: "power", label: "Power", quantity: "power", range: RANGES.power },
  { key: "npshRequired", label: "NPSH required", quantity: "head", range: RANGES.npsh },
] as const;

/** A pump of one's own, typed off its plate and its published curve; "new" starts an empty one. */
export default function PumpEditPage() {
  const { id = "" } = useParams();
  const fresh = id === "new";
  const query = useQuery({
    ...oneOf("pumps", id),
    enabled: !fresh,
  });
  if (fresh) return <Editor key="new" stored={undefined} />;
  if (query.isPending) return <Loading what="the pump" />;
  if (query.isError) {
    return "status" in query.error && query.error.status === 404 ? (
      <Empty title="There is no such pump">See the pump library.</Empty>
    ) : (
      <Trouble error={query.error} onRetry={() => void query.refetch()} />
    );
  }
  return <Editor key={id} stored={query.data} />;
}

function emptyPump(): Draft {
  return {
    format: "upright-gusher/pump",
    version: 1,
    id: newId(),
    maker: "",
    model: "",
    kind: "transfer",
    drive: "electric",
    submersible: false,
    ratedSpeedRpm: 2900,
    tolerance: "2B",
    points: [{ flow: 0 }, {}, {}, {}],
  };
}

function Editor({ stored }: { stored: Stored<PumpDocument> | undefined }) {
  const navigate = useNavigate();
  const [pump, setPump] = useState<Draft>(() => stored?.document ?? emptyPump());
  const [issues, setIssues] = useState<FieldIssue[]>([]);
  const change = (patch: Partial<Draft>) => setPump((before) => ({ ...before, ...patch }));
  const setPoint = (index: number, patch: Patch) =>
    change({
      points: pump.points.map((point, i) =>
        i === index ? ({ ...point, ...patch } as Point) : point,
      ),
    });

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    const points = pump.points.filter((p) => p.flow !== undefined || p.head !== undefined);
    const parsed = pumpSchema.safeParse({ ...pump, points });
    if (!parsed.success) return setIssues(fieldIssues(parsed.error));
    try {
      await api.save("pumps", pump.id, stored?.revision ?? 0, parsed.data);
      await queries.invalidateQueries({ queryKey: allPumps.queryKey });
      await queries.invalidateQueries({ queryKey: keyOf("pumps", pump.id) });
      await navigate(`/pumps/${pump.id}`);
    } catch (error) {
      toast.error(`Not saved. ${(error as Error).message}`);
    }
  }

  return (
    <form
      onSubmit={(event) => void save(event)}
      className="mx-auto grid h-full max-w-4xl content-start gap-4 overflow-y-auto p-4"
    >
      <h1 className="text-3xl">{stored ? `Change ${pump.maker} ${pump.model}` : "Add a pump"}</h1>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        <TextField
          label="Maker"
          value={pump.maker}
          maxLength={80}
          onChange={(maker) => change({ maker })}
        />
        <TextField
          label="Model"
          value={pump.model}
          maxLength={80}
          onChange={(model) => change({ model })}
        />
        <SelectField
          label="Kind"
          visibleLabel
          value={pump.kind}
          onChange={(kind) => change({ kind: kind as PumpDocument["kind"] })}
        >
          {Object.entries(PUMP_KINDS).map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Driven by"
          visibleLabel
          value={pump.drive}
          onChange={(drive) => change({ drive: drive as PumpDocument["drive"] })}
        >
          <option value="electric">Electric motor</option>
          <option value="engine">Engine</option>
        </SelectField>
        <SelectField
          label="Stands"
          visibleLabel
          value={pump.submersible ? "in" : "above"}
          onChange={(value) => change({ submersible: value === "in" })}
        >
          <option value="above">above the water</option>
          <option value="in">in the water</option>
        </SelectField>
        <QuantityField
          label="Rated speed"
          quantity="speed"
          range={RANGES.speed}
          value={pump.ratedSpeedRpm}
          onChange={(ratedSpeedRpm) => change({ ratedSpeedRpm })}
        />
        <QuantityField
          label="Greatest suction lift"
          optional
          quantity="head"
          range={RANGES.lift}
          value={pump.maxSuctionLift}
          onChange={(maxSuctionLift) => change({ maxSuctionLift })}
        />
        <SelectField
          label="Tolerance grade"
          visibleLabel
          value={pump.tolerance}
          onChange={(tolerance) => change({ tolerance: tolerance as ToleranceGrade })}
        >
          {Object.keys(TOLERANCE).map((grade) => (
            <option key={grade} value={grade}>
              {grade === "small" ? "small pump" : grade}
            </option>
          ))}
        </SelectField>
      </div>
      <fieldset>
        <legend className="plate text-xl">Points of the rated curve</legend>
        <p className="pb-2 text-[14px] text-soft">
          From shut-off to run-out, as published. Power and NPSH may be left out. Nothing is made up
          beyond the last point.
        </p>
        <ol aria-label="Points" className="grid gap-1.5">
          {pump.points.map((point, i) => (
            <li key={i} className="grid grid-cols-[repeat(4,minmax(0,1fr))_auto] items-end gap-1.5">
              {COLUMNS.map(({ key, label, quantity, range }) => (
                <QuantityField
                  key={key}
                  {...{ label, quantity, range }}
                  visibleLabel={i === 0}
                  optional
                  value={point[key]}
                  onChange={(value) => setPoint(i, { [key]: value })}
                />
              ))}
              <IconButton
                label={`Remove point ${i + 1}`}
                onClick={() => change({ points: pump.points.toSpliced(i, 1) })}
              >
                <Trash2 size={17} aria-hidden />
              </IconButton>
            </li>
          ))}
        </ol>
        <Button className="mt-2" onClick={() => change({ points: [...pump.points, {}] })}>
          <Plus size={16} aria-hidden /> Point
        </Button>
      </fieldset>
      {issues.length > 0 && (
        <ul role="alert" className="rounded border border-signal bg-sheet p-3 text-signal">
          {issues.map(({ path, message }) => (
            <li key={path + message}>
              {wherePoint(path)}
              {message}
            </li>
          ))}
        </ul>
      )}
      <div className="flex gap-2">
        <Button look="strong" type="submit">
          Save the pump
        </Button>
        <Button onClick={() => void navigate(stored ? `/pumps/${pump.id}` : "/pumps")}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

function wherePoint(path: string): string {
  const index = /^points\.(\d+)/.exec(path)?.[1];
  return index === undefined ? "" : `Point ${Number(index) + 1}: `;
}
