import type { FieldDocument, JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { formatPercent } from "#contract/units/format.ts";
import { SPACING, type Wind } from "#core/irrigation/sets.ts";
import { FOOT } from "#core/quantity/constants.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { DEPTH, WIND } from "#model/irrigation/usual.ts";
import { sideName } from "../../drawings/FieldDrawing.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { Usual } from "../../jobFields/Usual.tsx";
import { edit, visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { NumberField, SelectField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { Rows } from "../../ui/Rows.tsx";
import { setField } from "./field.ts";
import { KEPT_OFF, type KeepOff, type KeepOffs, keepOffName } from "./keptOff.ts";

const WINDS: Record<Wind, string> = {
  calm: "Calm",
  light: "Light",
  fresh: "Fresh",
  strong: "Strong",
};

/** The ground's sides, what is kept off, soil, depth and wind. */
export function FieldFields({
  field,
  told,
}: {
  job: JobDocument;
  field: FieldDocument;
  told: IrrigationResult | undefined;
}) {
  const { ground, keepOff = [] } = field;
  // Ten feet where feet are read are three metres and a bit: sides come out round in either.
  const roundMetre = useUnits() === "us" ? (10 * FOOT) / 3 : 1;
  const outline = told?.ground?.kind === "surveyed" ? told.ground.outline : [];
  const corners = ground?.kind === "circle" ? 0 : outline.length;
  return (
    <div className="grid gap-4">
      <section aria-label="The ground" className="grid gap-2">
        <h2 className="text-xl">The ground</h2>
        <SelectField
          label="Its shape"
          visibleLabel
          value={ground?.kind ?? ""}
          onChange={(kind) => setField({ ground: firstGround(kind, roundMetre), from: undefined })}
        >
          {!ground && <option value="">Not told yet</option>}
          <option value="rectangle">Two sides</option>
          <option value="circle">A circle</option>
          <option value="walked">Walked round, side by side</option>
        </SelectField>
        {ground?.kind === "rectangle" && (
          <div className="grid grid-cols-2 gap-2">
            <JobQuantity
              label="Long"
              quantity="length"
              range={RANGES.length}
              value={ground.length}
              onChange={(length) => setField({ ground: { ...ground, length } })}
            />
            <JobQuantity
              label="Wide"
              quantity="length"
              range={RANGES.length}
              value={ground.width}
              onChange={(width) => setField({ ground: { ...ground, width } })}
            />
          </div>
        )}
        {ground?.kind === "circle" && (
          <JobQuantity
            label="Across"
            quantity="length"
            range={RANGES.length}
            value={ground.diameter}
            onChange={(diameter) => setField({ ground: { ...ground, diameter } })}
          />
        )}
        {ground?.kind === "walked" && <Legs ground={ground} />}
        {corners > 0 && (
          <SelectField
            label="Water comes from, and the first set is at"
            visibleLabel
            value={String(field.from ?? 0)}
            onChange={(from) => setField({ from: Number(from) })}
          >
            {Array.from({ length: corners }, (_, i) => (
              <option key={i} value={i}>
                Corner {i + 1}
              </option>
            ))}
          </SelectField>
        )}
      </section>
      <section aria-label="How much" className="grid gap-2">
        <h2 className="text-xl">How much</h2>
        <div className="grid grid-cols-2 items-end gap-2">
          <Depth field={field} />
          <SelectField
            label={field.soil ? "Soil" : "Soil (not told)"}
            visibleLabel
            value={field.soil ?? ""}
            onChange={(soil) =>
              setField({ soil: soil === "" ? undefined : (soil as "sand" | "loam" | "clay") })
            }
          >
            <option value="">Not told</option>
            <option value="sand">Sand</option>
            <option value="loam">Loam</option>
            <option value="clay">Clay</option>
          </SelectField>
          <SelectField
            label={field.wind ? "Wind" : "Wind (assumed)"}
            visibleLabel
            value={field.wind ?? WIND}
            onChange={(wind) => setField({ wind: wind as Wind })}
          >
            {Object.entries(WINDS).map(([value, name]) => (
              <option key={value} value={value}>
                {name}, {formatPercent(SPACING[value as Wind])}
              </option>
            ))}
          </SelectField>
          <NumberField
            label={field.spacing === undefined ? "Of the circle (by the wind)" : "Of the circle"}
            visibleLabel
            suffix="%"
            min={20}
            max={100}
            value={100 * (field.spacing ?? SPACING[field.wind ?? WIND])}
            onVisit={visit}
            onChange={(percent) => setField({ spacing: percent / 100 })}
          />
        </div>
        {field.spacing !== undefined && (
          <Button
            look="quiet"
            className="justify-self-start"
            onClick={() => setField({ spacing: undefined })}
          >
            Spacing by the wind again
          </Button>
        )}
      </section>
      <section aria-label="Kept dry" className="grid gap-2">
        <h2 className="text-xl">Kept dry</h2>
        {keepOff.map((own, i) => (
          <KeepOffFields key={i} {...{ own, i, keepOff }} sides={corners} />
        ))}
        <div className="flex flex-wrap gap-2">
          <Button
            disabled={corners === 0}
            onClick={() => setField({ keepOff: [...keepOff, { what: "hedge", side: 0, away: 1 }] })}
          >
            <Plus size={16} aria-hidden /> An edge
          </Button>
          <Button
            disabled={outline.length === 0}
            onClick={() =>
              setField({
                keepOff: [
                  ...keepOff,
                  { what: "building", box: { x: 5, y: 5, length: 10, width: 6 } },
                ],
              })
            }
          >
            <Plus size={16} aria-hidden /> A piece of ground
          </Button>
        </div>
        <p className="text-[13px] text-soft">
          Near an edge the gun turns through the part of the circle that stays off it. Water on a
          road or on wires is yours to answer for.
        </p>
      </section>
    </div>
  );
}

export function Depth({ field }: { field: FieldDocument }) {
  const units = useUnits();
  return (
    <Usual
      label="Depth once round"
      quantity="length"
      unit={units === "us" ? "in" : "mm"}
      range={RANGES.rain}
      usual={DEPTH}
      value={field.depth}
      onChange={(depth) => setField({ depth })}
    />
  );
}

/** A ground with round sides to type over. `m` is about a metre, a third of ten feet where feet are read. */
function firstGround(kind: string, m: number): FieldDocument["ground"] {
  switch (kind) {
    case "rectangle":
      return { kind, length: 60 * m, width: 40 * m };
    case "circle":
      return { kind, diameter: 60 * m };
    case "walked":
      return { kind, legs: [0, 90, 180, 270].map((bearing) => ({ length: 40 * m, bearing })) };
    default:
      return undefined;
  }
}

function Legs({ ground }: { ground: Extract<FieldDocument["ground"], { kind: "walked" }> }) {
  const { legs } = ground;
  return (
    <div className="grid gap-1">
      <p className="text-[14px] text-soft">
        Walk round with a compass: how long each side is, and its bearing clockwise from north.
        Paces will do.
      </p>
      <Rows
        rows={legs}
        onChange={(next) => setField({ ground: { ...ground, legs: next } })}
        columns="grid-cols-[auto_1fr_1fr_auto]"
        called={(_, i) => `side ${sideName(i)}`}
        add={{
          name: "A side",
          row: () => ({ length: 40, bearing: ((legs.at(-1)?.bearing ?? 270) + 90) % 360 }),
        }}
      >
        {(leg, set, i) => (
          <>
            <span className="plate pb-1.5 text-[17px]">{sideName(i)}</span>
            <JobQuantity
              label={i === 0 ? "Length" : `Length of ${sideName(i)}`}
              visibleLabel={i === 0}
              quantity="length"
              range={RANGES.length}
              value={leg.length}
              onChange={(length) => set({ length })}
            />
            <NumberField
              label={i === 0 ? "Bearing" : `Bearing of ${sideName(i)}`}
              visibleLabel={i === 0}
              suffix="°"
              min={0}
              max={360}
              value={leg.bearing}
              onVisit={visit}
              onChange={(bearing) => set({ bearing })}
            />
          </>
        )}
      </Rows>
    </div>
  );
}

function KeepOffFields({
  own,
  i,
  keepOff,
  sides,
}: {
  own: KeepOff;
  i: number;
  keepOff: KeepOffs;
  sides: number;
}) {
  const set = (next: KeepOff) => setField({ keepOff: keepOff.with(i, next) });
  const { box } = own;
  return (
    <div className="grid gap-2 border-t border-rule pt-2">
      <div className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
        <SelectField
          label="What it is"
          visibleLabel
          value={own.what}
          onChange={(what) => {
            // What it was called goes with what it was.
            const { name: _, ...rest } = own;
            set({ ...rest, what: what as KeepOff["what"] });
          }}
        >
          {Object.entries(KEPT_OFF).map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </SelectField>
        {box || sides === 0 ? (
          <span aria-hidden />
        ) : (
          <SelectField
            label="Beside side"
            visibleLabel
            value={String(own.side ?? 0)}
            onChange={(side) => set({ ...own, side: Number(side) })}
          >
            {Array.from({ length: sides }, (_, k) => (
              <option key={k} value={k}>
                {sideName(k)}
              </option>
            ))}
          </SelectField>
        )}
        {box || sides === 0 ? (
          <span aria-hidden />
        ) : (
          <JobQuantity
            label="Outside it by"
            quantity="length"
            range={AWAY}
            value={own.away ?? 0}
            onChange={(away) => set({ ...own, away })}
          />
        )}
        <IconButton
          label={`Take ${keepOffName(own).toLowerCase()} out`}
          onClick={() =>
            edit((job) => ({ ...job, field: { ...job.field, keepOff: keepOff.toSpliced(i, 1) } }))
          }
        >
          <Trash2 size={16} aria-hidden />
        </IconButton>
      </div>
      {!box && sides === 0 && (
        <p className="text-[14px] text-soft">It counts once the ground has sides.</p>
      )}
      {box && (
        <div className="grid grid-cols-2 gap-2">
          {(
            [
              ["x", "From the left", AWAY],
              ["y", "From below", AWAY],
              ["length", "Long", RANGES.length],
              ["width", "Wide", RANGES.length],
            ] as const
          ).map(([key, label, range]) => (
            <JobQuantity
              key={key}
              label={label}
              quantity="length"
              range={range}
              value={box[key]}
              onChange={(value) => set({ ...own, box: { ...box, [key]: value } })}
            />
          ))}
        </div>
      )}
    </div>
  );
}

const AWAY = { min: -1000, max: 1000, what: "The distance" };
