import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Stored } from "#contract/api/api.ts";
import { type FieldIssue, fieldIssues } from "#contract/documents/issues.ts";
import { type PumpDocument, pumpSchema, pumpVersions } from "#contract/documents/pump.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { ofKind } from "#model/import/pumpPlate.ts";
import { PLATE_FIELDS, withValue } from "#model/import/pumpTable/fields.ts";
import { newId } from "../api/client.ts";
import { allPumps, keyOf, oneOf, queries } from "../api/queries.ts";
import { BroughtBack } from "../editing/BroughtBack.tsx";
import { EditedTwice } from "../editing/EditedTwice.tsx";
import { useEditing } from "../editing/useEditing.ts";
import { Picture } from "../pictures/Picture.tsx";
import { keepPicture, takePicture } from "../pictures/takePicture.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { Trash2 } from "../ui/icons.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";
import { OptionalNumber } from "../ui/OptionalNumber.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";
import { Rows } from "../ui/Rows.tsx";
import { useRefused } from "../ui/refusals.ts";
import { toast } from "../ui/toast.ts";
import { CurveEntry } from "./CurveEntry.tsx";
import { PlateFields } from "./PlateFields.tsx";
import { SweepEntry } from "./SweepEntry.tsx";
import type { GotCurve } from "./trace/gotCurve.ts";

type Point = Partial<PumpDocument["points"][number]>;
type Draft = Omit<PumpDocument, "points"> & { points: Point[] };

const COLUMNS = [
  { key: "flow", label: "Flow", quantity: "flow", range: RANGES.curveFlow },
  { key: "head", label: "Head", quantity: "head", range: RANGES.head },
  { key: "power", label: "Power", quantity: "power", range: RANGES.power },
  { key: "npshRequired", label: "NPSH required", quantity: "head", range: RANGES.npsh },
] as const;

/** A pump of one's own, typed off its plate and its published curve; "new" starts an empty one, or a copy. */
export default function PumpEditPage() {
  const { id = "" } = useParams();
  const [params] = useSearchParams();
  const fresh = id === "new";
  const from = params.get("from");
  const line = params.get("line");
  const asked = fresh ? from : id;
  const query = useQuery({
    ...oneOf("pumps", asked ?? ""),
    enabled: asked !== null,
  });
  if (asked === null) return <Editor key="new" as="new" stored={undefined} begun={emptyPump()} />;
  if (query.isPending) return <Loading what="the pump" />;
  if (query.isError) {
    return "status" in query.error && query.error.status === 404 ? (
      <Empty title="There is no such pump">See the pump library.</Empty>
    ) : (
      <Trouble error={query.error} onRetry={() => void query.refetch()} />
    );
  }
  const { document } = query.data;
  return fresh ? (
    <Editor
      key={`copy of ${from}, ${line}`}
      as={`copy of ${from}, ${line}`}
      stored={undefined}
      begun={line === null ? copyOf(document) : copyOfLine(document, Number(line))}
    />
  ) : (
    <Editor key={id} as={id} stored={query.data} begun={document} />
  );
}

function emptyPump(): Draft {
  return {
    format: pumpVersions.format,
    version: pumpVersions.version,
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

/** The same pump once more, to be changed: nobody owns it yet, and it is nobody's invention. */
function copyOf({
  invented: _,
  owned: _owned,
  inVan: _van,
  archived: _archived,
  ...pump
}: PumpDocument): Draft {
  return { ...pump, id: newId(), model: `${pump.model}, copy`.slice(0, 80) };
}

/** A pump of another line of its sheet: the same one with that impeller, or run at that speed. */
function copyOfLine(pump: PumpDocument, at: number): Draft {
  const { otherLines = [], speeds: _, ...copy } = copyOf(pump);
  const line = otherLines[at];
  if (!line) return copyOf(pump);
  const model = `${pump.model}, ${line.name}`.slice(0, 80);
  return { ...copy, model, ratedSpeedRpm: line.speed ?? copy.ratedSpeedRpm, points: line.points };
}

function Editor({
  stored,
  begun,
  as,
}: {
  stored: Stored<PumpDocument> | undefined;
  begun: Draft;
  /** what the edit is kept under on this device */
  as: string;
}) {
  const navigate = useNavigate();
  // A new one has its id from the first: it does not change while the page is drawn again.
  const [first] = useState(begun);
  const editing = useEditing<"pumps", Draft>({
    ...{ collection: "pumps", id: first.id, as, stored },
    begun: stored ? begun : first,
  });
  const { value: pump, change: setPump } = editing;
  const refused = useRefused();
  const [issues, setIssues] = useState<FieldIssue[]>([]);
  const change = (patch: Partial<Draft>) => setPump((before) => ({ ...before, ...patch }));
  const got = ({ points, from, curveDoubt, trace, otherLines, picture: taken }: GotCurve) => {
    setPump(({ curveDoubt: _doubt, otherLines: _others, ...before }) => ({
      ...before,
      points: points.map(rounded),
      ...(curveDoubt !== undefined && { curveDoubt }),
      ...(otherLines && {
        otherLines: otherLines.map((own) => ({ ...own, points: own.points.map(rounded) })),
      }),
      curve: { from, ...(trace && { trace }) },
    }));
    if (taken) void keepTraced(taken);
  };
  /** Keeps what a curve was traced on at once, so that a reload loses neither. */
  async function keepTraced(taken: Blob): Promise<void> {
    try {
      const id = await keepPicture(taken, first.id);
      setPump(({ curve, ...before }) => ({
        ...before,
        ...(curve && { curve: { ...curve, picture: id } }),
      }));
    } catch (error) {
      toast.error(`The picture was not kept. ${(error as Error).message}`);
    }
  }

  async function save(next: Draft, onto?: Stored<PumpDocument>): Promise<void> {
    const points = next.points.filter((p) => p.flow !== undefined || p.head !== undefined);
    const parsed = pumpSchema.safeParse({ ...next, points });
    if (!parsed.success) return setIssues(fieldIssues(parsed.error));
    try {
      const document = parsed.data as PumpDocument;
      if (!(await editing.save(document, onto))) return;
      await queries.invalidateQueries({ queryKey: allPumps.queryKey });
      await queries.invalidateQueries({ queryKey: keyOf("pumps", next.id) });
      await navigate(`/pumps/${next.id}`);
    } catch (error) {
      toast.error(`Not saved. ${(error as Error).message} What you typed is kept on this device.`);
    }
  }

  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save(pump);
      }}
      className="relative h-full overflow-y-auto"
    >
      <div className="mx-auto grid max-w-4xl content-start gap-4 p-4">
        <h1 className="text-3xl">{stored ? `Change ${pump.maker} ${pump.model}` : "Add a pump"}</h1>
        <BroughtBack editing={editing} />
        <EditedTwice editing={editing} onKeep={(both, onto) => void save(both, onto)} />
        <PlateFields
          pump={pump}
          onChange={(path, value) =>
            setPump((before) =>
              path === "kind"
                ? ofKind(before, value as PumpDocument["kind"])
                : withValue(before, path, value),
            )
          }
        />
        <fieldset>
          <legend className="plate text-xl">Rated curve</legend>
          <CurveEntry
            from={pump.curve?.from ?? "table"}
            ratedSpeed={pump.ratedSpeedRpm}
            onGot={got}
          />
          <p className="pb-2 text-[14px] text-soft">
            From shut-off to run-out, as published. Power, NPSH and current may be left out. Nothing
            is made up beyond the last point.
          </p>
          <Rows
            rows={pump.points}
            onChange={(points) => change({ points })}
            label="Points"
            columns="grid-cols-[repeat(5,minmax(0,1fr))_auto] gap-1.5 max-sm:grid-cols-[repeat(3,minmax(0,1fr))_auto]"
            called={(_, i) => `point ${i + 1}`}
            add={{ name: "Point", row: (): Point => ({}) }}
          >
            {(point, set, i) => (
              <>
                {COLUMNS.map(({ key, label, quantity, range }) => (
                  <QuantityField
                    key={key}
                    {...{ label, quantity, range }}
                    visibleLabel={i === 0}
                    optional
                    value={point[key]}
                    onChange={(value) => set({ [key]: value })}
                  />
                ))}
                <Current
                  hidden={i > 0}
                  value={point.current}
                  onChange={(current) => set({ current })}
                />
              </>
            )}
          </Rows>
        </fieldset>
        {pump.speeds && (
          <SweepEntry
            speeds={pump.speeds}
            ratedSpeed={pump.ratedSpeedRpm}
            plate={pump.electric}
            onChange={(sweep) =>
              setPump((before) =>
                withValue(before, "speeds.sweep", sweep.length > 0 ? sweep : undefined),
              )
            }
          />
        )}
        <Pictures
          id={pump.id}
          ids={pump.attachments ?? []}
          onChange={(attachments) =>
            setPump((before) =>
              withValue(before, "attachments", attachments.length > 0 ? attachments : undefined),
            )
          }
        />
        {issues.length > 0 && (
          <ul role="alert" className="rounded border border-signal bg-sheet p-3 text-signal">
            {issues.map(({ path, message }) => (
              <li key={path + message}>
                {whereOf(path)}
                {message}
              </li>
            ))}
          </ul>
        )}
        <div className="flex gap-2">
          <Button look="strong" type="submit" disabled={refused !== undefined}>
            Save the pump
          </Button>
          <Button onClick={() => void navigate(stored ? `/pumps/${pump.id}` : "/pumps")}>
            Cancel
          </Button>
          {refused && <p className="content-center text-[14px] text-signal">{refused}</p>}
        </div>
      </div>
    </form>
  );
}

function Current({
  hidden,
  value,
  onChange,
}: {
  hidden: boolean;
  value: number | undefined;
  onChange: (value: number | undefined) => void;
}) {
  return (
    <div className={hidden ? "[&_label]:sr-only" : ""}>
      <OptionalNumber label="Current, A" most={5000} whole={false} {...{ value, onChange }} />
    </div>
  );
}

/** Photos of the plate, or of the pump where it stands. */
function Pictures({
  id,
  ids,
  onChange,
}: {
  id: string;
  ids: readonly string[];
  onChange: (ids: string[]) => void;
}) {
  return (
    <fieldset className="grid gap-2">
      <legend className="plate text-xl">Photos</legend>
      <div className="flex flex-wrap items-center gap-2">
        {ids.map((own, i) => (
          <span key={own} className="relative">
            <Picture id={own} name={`Photo ${i + 1}`} />
            <IconButton
              label={`Take photo ${i + 1} out`}
              onClick={() => onChange(ids.filter((other) => other !== own))}
            >
              <Trash2 size={16} aria-hidden />
            </IconButton>
          </span>
        ))}
        <label className="text-[14px]">
          <span className="sr-only">Add a photo</span>
          <input
            type="file"
            accept="image/*"
            className="target"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              event.target.value = "";
              if (!file) return;
              takePicture(file, id).then(
                (taken) => onChange([...ids, taken]),
                (error: Error) => toast.error(error.message),
              );
            }}
          />
        </label>
      </div>
    </fieldset>
  );
}

/** To as many figures as a traced or drawn curve deserves. */
const rounded = <T extends { flow: number; head: number }>(point: T): T => ({
  ...point,
  flow: Number(point.flow.toPrecision(5)),
  head: Number(point.head.toPrecision(5)),
});

function whereOf(path: string): string {
  const index = /^points\.(\d+)/.exec(path)?.[1];
  if (index !== undefined) return `Point ${Number(index) + 1}: `;
  const field = PLATE_FIELDS.find((own) => own.path === path);
  return field && !["maker", "model"].includes(path) ? `${field.name}: ` : "";
}
