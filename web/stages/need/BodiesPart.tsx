import type { BodyOfWater, JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { Quantity } from "#contract/units/units.ts";
import { startElevations } from "#core/line/elevations.ts";
import { mayFill } from "#core/outlet/outlets.ts";
import { bottomOf, depthOf, type Shape, storeOf } from "#model/demand/bodies.ts";
import {
  GRAVEL,
  SHAPES,
  withAnotherBody,
  withoutBody,
  withReceiver,
  withSourceBody,
} from "#model/simulation/begin.ts";
import { troublesOf } from "#model/simulation/troubles.ts";
import { amountOf, troubleWords } from "#words/simulation.ts";
import { BodyDrawing } from "../../drawings/BodyDrawing.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { edit, outletItems, visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { PercentField, SelectField, TextField } from "../../ui/Fields.tsx";
import { Trash2 } from "../../ui/icons.ts";
import { AreaTable } from "./AreaTable.tsx";
import { ShellFields } from "./ShellFields.tsx";

const SHAPE_NAMES: Record<Shape["kind"], string> = {
  cylinder: "Round, upright",
  box: "Box or room",
  wedge: "Sloping floor",
  cone: "Round, tapered",
  trapezoid: "Pond, sloping sides",
  "horizontal-cylinder": "Lying round tank",
  table: "Table of areas",
};

type Dimension = { field: string; name: string; quantity?: Quantity };
const DIMENSIONS: Record<Shape["kind"], readonly Dimension[]> = {
  box: [
    { field: "length", name: "Long" },
    { field: "width", name: "Wide" },
    { field: "depth", name: "Deep" },
  ],
  wedge: [
    { field: "length", name: "Long, along the fall" },
    { field: "width", name: "Wide" },
    { field: "fall", name: "Shallower at the far end by" },
    { field: "fallAcross", name: "Shallower at the side by" },
    { field: "depth", name: "Deep at the deep corner" },
  ],
  cylinder: [
    { field: "diameter", name: "Across" },
    { field: "depth", name: "Deep" },
  ],
  cone: [
    { field: "bottom", name: "Across, at the bottom" },
    { field: "top", name: "Across, at the rim" },
    { field: "depth", name: "Deep" },
  ],
  trapezoid: [
    { field: "length", name: "Floor, long" },
    { field: "width", name: "Floor, wide" },
    { field: "slope", name: "Sides run out per 1 up", quantity: "ratio" },
    { field: "depth", name: "Deep" },
  ],
  "horizontal-cylinder": [
    { field: "diameter", name: "Across" },
    { field: "length", name: "Long" },
  ],
  table: [],
};
const SLOPE = { min: 0, max: 20, what: "The slope" };

/** Every body of water the job moves, its shape and what comes in. */
export function BodiesPart({ job }: { job: JobDocument }) {
  const { bodies = [], source, path } = job;
  const hasSource = source.kind === "mains" || source.kind === "well" || source.body !== undefined;
  const free = outletItems(path).filter(
    ({ outlet }) => mayFill(outlet) && !("body" in outlet && outlet.body),
  );
  return (
    <section aria-label="Bodies of water" className="grid gap-3">
      {bodies.map((body, i) => (
        <Body key={body.id} {...{ job, body }} index={i} />
      ))}
      <div className="flex flex-wrap gap-2">
        {!hasSource && (
          <Button onClick={() => edit(withSourceBody)}>How large is the water it draws from</Button>
        )}
        {free.slice(0, 1).map((outlet) => (
          <Button
            key={outlet.id}
            onClick={() =>
              edit((j) =>
                withReceiver(
                  j,
                  outlet.id,
                  startElevations(j.path, j.source.intake).get(outlet.id) ?? 0,
                ),
              )
            }
          >
            How large is the water it goes to
          </Button>
        ))}
        {bodies.length > 0 && (
          <Button onClick={() => edit(withAnotherBody)}>A pit it overflows into</Button>
        )}
      </div>
    </section>
  );
}

function Body({ job, body, index }: { job: JobDocument; body: BodyOfWater; index: number }) {
  const units = useUnits();
  const { shape } = body;
  const put = (patch: Partial<BodyOfWater>) =>
    edit(
      (j) =>
        ({
          ...j,
          bodies: j.bodies?.map((own) => (own.id === body.id ? { ...own, ...patch } : own)),
        }) as JobDocument,
    );
  const setShape = (patch: object) => put({ shape: { ...shape, ...patch } as Shape });
  const bottom = bottomOf(body, job);
  const rim = bottom + depthOf(shape);
  const problem = troublesOf(job).find(({ at }) => at === `bodies.${index}.shape`);
  const isSource = "body" in job.source && job.source.body === body.id;
  const start =
    body.levels?.normal ??
    (isSource ? (job.source.kind !== "mains" ? job.source.level.normal : bottom) : bottom);
  const name = body.name || `Water ${index + 1}`;
  return (
    <fieldset className="grid gap-2 rounded border border-rule p-2">
      <legend className="plate px-1 text-[17px]">{name}</legend>
      <div className="flex items-start gap-2">
        <BodyDrawing body={body} told={{ id: body.id, bottom, rim, floats: [] }} level={start} />
        <div className="grid min-w-0 flex-1 grid-cols-2 gap-2">
          <TextField
            label="What it is"
            value={body.name ?? ""}
            maxLength={80}
            onVisit={visit}
            onChange={(value) => put({ name: value })}
          />
          <SelectField
            label="Shape"
            visibleLabel
            value={shape.kind}
            onChange={(kind) => put({ shape: SHAPES[kind as Shape["kind"]](depthOf(shape)) })}
          >
            {Object.entries(SHAPE_NAMES).map(([kind, label]) => (
              <option key={kind} value={kind}>
                {label}
              </option>
            ))}
          </SelectField>
          {DIMENSIONS[shape.kind].map(({ field, name: label, quantity = "length" }) => (
            <JobQuantity
              key={field}
              label={label}
              quantity={quantity}
              range={
                field === "slope"
                  ? SLOPE
                  : field.startsWith("fall")
                    ? RANGES.depthOrNone
                    : RANGES.length
              }
              value={(shape as unknown as Record<string, number>)[field] ?? 0}
              onChange={(value) => setShape({ [field]: value })}
            />
          ))}
        </div>
        <IconButton label={`Take ${name} out`} onClick={() => edit((j) => withoutBody(j, body.id))}>
          <Trash2 size={16} aria-hidden />
        </IconButton>
      </div>
      {shape.kind === "table" && (
        <AreaTable rows={shape.rows} onChange={(rows) => setShape({ rows })} />
      )}
      {problem && (
        <p role="alert" className="text-[14px] text-signal">
          {troubleWords(problem, units)}
        </p>
      )}
      <WaterFields {...{ body, put, bottom, start, problem }} />
      <RareFields {...{ job, body, put, bottom, isSource }} />
    </fieldset>
  );
}

interface FieldsOf {
  body: BodyOfWater;
  put: (patch: Partial<BodyOfWater>) => void;
  /** m */
  bottom: number;
}

/** Where its water stands, and what always comes in and goes. */
function WaterFields({
  body,
  put,
  bottom,
  start,
  problem,
}: FieldsOf & { start: number; problem: object | undefined }) {
  const units = useUnits();
  const store = problem ? undefined : storeOf(body, bottom);
  return (
    <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
      <JobQuantity
        label="Bottom at"
        quantity="length"
        range={RANGES.elevation}
        value={bottom}
        onChange={(value) => put({ bottom: value })}
      />
      <JobQuantity
        label="Water at the start"
        quantity="length"
        range={RANGES.elevation}
        value={start}
        onChange={(normal) =>
          put({
            levels: {
              low: Math.min(body.levels?.low ?? normal, normal),
              normal,
              high: Math.max(body.levels?.high ?? normal, normal),
            },
          })
        }
      />
      <JobQuantity
        label="Always coming in"
        optional
        quantity="flow"
        range={RANGES.flowOrNone}
        value={body.inflow}
        onChange={(inflow) => put({ inflow } as Partial<BodyOfWater>)}
      />
      <JobQuantity
        label="Always drawn off"
        optional
        quantity="flow"
        range={RANGES.flowOrNone}
        value={body.drawn}
        onChange={(drawn) => put({ drawn } as Partial<BodyOfWater>)}
      />
      <p className="text-[14px]">
        <span className="block text-[13px] text-soft">It holds</span>
        <span className="plate text-[21px]">
          {amountOf(store?.volumeAt(store.rim) ?? 0, units)}
        </span>
        {store && (
          <span className="block text-[13px] text-soft">
            {amountOf(store.volumeAt(start), units)} at the start
          </span>
        )}
      </p>
    </div>
  );
}

/** What few bodies of water have. */
function RareFields({
  job,
  body,
  put,
  bottom,
  isSource,
}: FieldsOf & { job: JobDocument; isSource: boolean }) {
  const [pipe] = body.inflowPipes ?? [];
  const others = (job.bodies ?? []).filter(({ id }) => id !== body.id);
  return (
    <details>
      <summary className="min-h-8 content-center text-[14px] text-soft">
        Gravel, pipes that lead in, film, overflow, weight in wet ground
      </summary>
      <div className="grid grid-cols-2 gap-2 pt-1 sm:grid-cols-3">
        <JobQuantity
          label="Gravel round it, across"
          optional
          quantity="length"
          range={RANGES.length}
          value={body.surround?.across}
          onChange={(across) =>
            put({
              surround: across
                ? { porosity: body.surround?.porosity ?? GRAVEL, across }
                : undefined,
            } as Partial<BodyOfWater>)
          }
        />
        {body.surround && (
          <PercentField
            label="Of the gravel, water fills"
            value={body.surround.porosity}
            max={100}
            onVisit={visit}
            onChange={(porosity) =>
              put({ surround: { ...body.surround, porosity } } as Partial<BodyOfWater>)
            }
          />
        )}
        <JobQuantity
          label="Pipe that leads in, bore"
          optional
          quantity="diameter"
          range={RANGES.bore}
          value={pipe?.bore}
          onChange={(bore) =>
            put({
              inflowPipes: bore
                ? [{ length: pipe?.length ?? 5, invert: pipe?.invert ?? bottom, bore }]
                : undefined,
            } as Partial<BodyOfWater>)
          }
        />
        {pipe && (
          <>
            <JobQuantity
              label="Pipe, long"
              quantity="length"
              range={RANGES.length}
              value={pipe.length}
              onChange={(length) => put({ inflowPipes: [{ ...pipe, length }] })}
            />
            <JobQuantity
              label="Pipe, its lowest point"
              quantity="length"
              range={RANGES.elevation}
              value={pipe.invert}
              onChange={(invert) => put({ inflowPipes: [{ ...pipe, invert }] })}
            />
          </>
        )}
        <JobQuantity
          label="Film that stays"
          optional
          quantity="diameter"
          range={RANGES.solids}
          value={body.film}
          onChange={(film) => put({ film } as Partial<BodyOfWater>)}
        />
        <label className="target flex items-center gap-2 self-end">
          <input
            type="checkbox"
            className="size-5"
            checked={body.carpet === true}
            onChange={(event) =>
              put({ carpet: event.target.checked || undefined } as Partial<BodyOfWater>)
            }
          />
          Carpet and pad, not cut
        </label>
        {others.length > 0 && (
          <SelectField
            label="Over the rim it runs"
            visibleLabel
            value={body.overflowTo ?? ""}
            onChange={(value) => put({ overflowTo: value || undefined } as Partial<BodyOfWater>)}
          >
            <option value="">over the floor</option>
            {others.map(({ id, name: other }) => (
              <option key={id} value={id}>
                into {other || id}
              </option>
            ))}
          </SelectField>
        )}
        {!(isSource && job.kind === "emptying") && (
          <ShellFields
            shell={body.shell}
            onChange={(shell) => put({ shell } as Partial<BodyOfWater>)}
          />
        )}
      </div>
    </details>
  );
}
