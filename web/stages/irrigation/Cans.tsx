import { memo } from "react";
import type { FieldDocument, JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { FOOT } from "#core/quantity/constants.ts";
import { WIND } from "#model/irrigation/usual.ts";
import { findingWords } from "#words/findings.ts";
import { CAN_REFUSED, depthOf, evennessWords, rateOf } from "#words/irrigation.ts";
import { CansDrawing } from "../../drawings/CansDrawing.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { useUnits } from "../../state/settings.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { SelectField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { StatusMark } from "../../ui/StatusMark.tsx";
import { Figure } from "./Figure.tsx";
import { editField, setField } from "./field.ts";
import type { ResultProps } from "./resultProps.ts";

type Cans = NonNullable<FieldDocument["cans"]>;

/** How evenly it fell, what that adds up to, and beside what the line says. */
export function CansResults({ job, told }: ResultProps) {
  const units = useUnits();
  const { cans, guns } = told;
  if (!cans) {
    return (
      <p className="text-soft">
        Set straight-sided cans out from the gun, run it, and type what stood in each: how even it
        falls, how much, and whether that is what the line says.
      </p>
    );
  }
  const { test } = cans;
  const typed = job.field?.cans;
  if (typed?.measure === "volume" && !typed.mouth) {
    return (
      <p className="text-soft">
        Type how wide a can’s mouth is: without it a volume is no depth of water.
      </p>
    );
  }
  if (test.kind === "refused") return <p className="text-soft">{CAN_REFUSED[test.why]}</p>;
  const { evenness, rate, flow, flowUncertainty, reach, edgeMissed, lopsided } = test;
  const finding = told.findings.find(({ context }) => context === "cans");
  const held = finding && findingWords(finding, { system: units });
  return (
    <div className="grid gap-3">
      {held && finding && (
        <div className="grid gap-1">
          <p className="flex flex-wrap items-center gap-x-3">
            <StatusMark severity={finding.severity} />
            <span className="plate text-2xl">{held.title}</span>
          </p>
          <p>{held.sentence}</p>
          {held.reasons && (
            <ol aria-label="The likeliest first" className="grid list-decimal gap-1 pl-6">
              {held.reasons.map((reason) => (
                <li key={reason}>{reason}</li>
              ))}
            </ol>
          )}
        </div>
      )}
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3" data-testid="can-figures">
        <Figure
          name="Evenness, Christiansen"
          value={formatPercent(evenness.christiansen)}
          note={reach === undefined ? evennessWords(evenness.christiansen) : "of one gun alone"}
          working="christiansen"
        />
        <Figure
          name="Low quarter"
          value={formatPercent(evenness.lowQuarter)}
          note="of the mean, each can by its ground"
          working="low-quarter"
        />
        {reach !== undefined && told.sets?.kind === "planned" && (
          <Figure
            name="With its neighbours"
            value={formatPercent(told.sets.evenness.christiansen)}
            note={`as the sets stand; ${evennessWords(told.sets.evenness.christiansen)}`}
          />
        )}
        <Figure
          name="It rained"
          value={rateOf(rate, units)}
          note={`${depthOf(evenness.mean, units)} on average`}
        />
        <Figure
          name={edgeMissed ? "Adds up to, at least" : "Adds up to"}
          value={format(flow, "flow", units)}
          note={`± ${format(2 * flowUncertainty, "flow", units)}`}
        />
        {reach !== undefined && (
          <Figure name="Farthest wet can" value={format(reach, "length", units)} />
        )}
        {lopsided !== undefined && (
          <Figure
            name="Most of any side"
            value={`+${formatPercent(lopsided)}`}
            note="over the mean of all sides"
          />
        )}
      </dl>
      {!held && guns.length === 0 && (
        <p className="text-soft">With a gun that runs on the line this is held against its flow.</p>
      )}
      <CansDrawing cans={cans} reach={reach} />
    </div>
  );
}

/** What stood in the cans, by distance along legs or in a grid. */
export function CansFields({ field }: { job: JobDocument; field: FieldDocument }) {
  const units = useUnits();
  const { cans } = field;
  if (!cans) {
    return (
      <div className="grid justify-items-start gap-2">
        <Button
          onClick={() =>
            setField({
              cans: {
                layout: "legs",
                cans: (units === "us"
                  ? [5, 15, 25, 35, 45, 55].map((feet) => feet * FOOT)
                  : [2, 5, 8, 11, 14, 17]
                ).map((distance) => ({ leg: 0, distance })),
              },
            })
          }
        >
          <Plus size={16} aria-hidden /> Cans by distance
        </Button>
        <Button
          onClick={() =>
            setField({
              cans: {
                layout: "grid",
                columns: 5,
                apart: { along: 5, across: 5 },
                cans: Array.from({ length: 25 }, () => ({})),
              },
            })
          }
        >
          <Plus size={16} aria-hidden /> Cans in a grid
        </Button>
      </div>
    );
  }
  const set = (patch: Partial<Cans>) => setField({ cans: { ...cans, ...patch } });
  return (
    <div className="grid gap-4">
      <section aria-label="The test" className="grid grid-cols-2 items-end gap-2">
        <JobQuantity
          label="It ran for"
          optional
          quantity="time"
          unit="min"
          range={RANGES.time}
          value={cans.seconds}
          onChange={(seconds) => set({ seconds })}
        />
        <SelectField
          label={cans.wind ? "Wind meanwhile" : "Wind meanwhile (assumed)"}
          visibleLabel
          value={cans.wind ?? field.wind ?? WIND}
          onChange={(wind) => set({ wind: wind as Cans["wind"] })}
        >
          <option value="calm">Calm</option>
          <option value="light">Light</option>
          <option value="fresh">Fresh</option>
          <option value="strong">Strong</option>
        </SelectField>
        <SelectField
          label="Read as"
          visibleLabel
          value={cans.measure ?? "depth"}
          onChange={(measure) => set({ measure: measure as Cans["measure"] })}
        >
          <option value="depth">Depth in the can</option>
          <option value="volume">Volume poured out</option>
        </SelectField>
        {cans.measure === "volume" && (
          <JobQuantity
            label="Mouth of a can"
            optional
            quantity="diameter"
            range={RANGES.bore}
            value={cans.mouth}
            onChange={(mouth) => set({ mouth })}
          />
        )}
      </section>
      {cans.layout === "legs" ? <Legs {...{ cans, set }} /> : <Grid {...{ cans, set }} />}
      <Button
        look="quiet"
        className="justify-self-start"
        onClick={() => setField({ cans: undefined })}
      >
        <Trash2 size={16} aria-hidden /> Take the test out
      </Button>
      <p className="text-[13px] text-soft">
        Straight-sided cans, all alike, level, clear of grass.{" "}
        {units === "us" ? "Half an inch" : "A centimetre"} in the middle is enough.
      </p>
    </div>
  );
}

interface LayoutProps {
  cans: Cans;
  set: (patch: Partial<Cans>) => void;
}

type Can = Cans["cans"][number];

/** Changes one can of the test, whatever the others have become meanwhile. */
function editCan(index: number, patch: { [K in keyof Can]?: Can[K] | undefined }): void {
  editField((field) => {
    const { cans } = field;
    if (!cans) return field;
    return {
      ...field,
      cans: { ...cans, cans: cans.cans.with(index, { ...cans.cans[index], ...patch }) },
    };
  });
}

/** What stood in one can. Of hundreds only the one that is typed in is drawn anew. */
const Caught = memo(function Caught({
  index,
  value,
  volume,
  label,
  visibleLabel,
}: {
  index: number;
  value: number | undefined;
  volume: boolean;
  label: string;
  visibleLabel: boolean;
}) {
  const units = useUnits();
  return (
    <JobQuantity
      label={label}
      visibleLabel={visibleLabel}
      optional
      quantity={volume ? "volume" : "length"}
      unit={volume ? "mL" : units === "us" ? "in" : "mm"}
      range={volume ? RANGES.canVolume : RANGES.canDepth}
      value={value}
      onChange={(next) => editCan(index, { [volume ? "volume" : "depth"]: next })}
    />
  );
});

const caughtIn = ({ measure, cans }: Cans, index: number) => ({
  index,
  volume: measure === "volume",
  value: measure === "volume" ? cans[index]?.volume : cans[index]?.depth,
});

function Legs({ cans, set }: LayoutProps) {
  const legs = [...new Set(cans.cans.map(({ leg = 0 }) => leg))];
  const rowsOf = (leg: number) =>
    cans.cans.flatMap((can, index) => ((can.leg ?? 0) === leg ? [{ can, index }] : []));
  return (
    <>
      {legs.map((leg, k) => {
        const rows = rowsOf(leg);
        const last = rows.at(-1);
        const before = rows.at(-2)?.can.distance ?? 0;
        return (
          <section key={leg} aria-label={`Leg ${k + 1}`} className="grid gap-1">
            <h2 className="text-xl">Leg {k + 1}</h2>
            {rows.map(({ can, index }, i) => (
              <div key={index} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
                <JobQuantity
                  label={i === 0 ? "From the gun" : `From the gun, can ${i + 1}`}
                  visibleLabel={i === 0}
                  optional
                  quantity="length"
                  range={RANGES.throw}
                  value={can.distance}
                  onChange={(distance) => editCan(index, { distance })}
                />
                <Caught
                  {...caughtIn(cans, index)}
                  label={i === 0 ? "In it" : `In can ${i + 1} of leg ${k + 1}`}
                  visibleLabel={i === 0}
                />
                <IconButton
                  label={`Take can ${i + 1} of leg ${k + 1} out`}
                  onClick={() => set({ cans: cans.cans.toSpliced(index, 1) })}
                >
                  <Trash2 size={16} aria-hidden />
                </IconButton>
              </div>
            ))}
            <Button
              className="justify-self-start"
              onClick={() => {
                const distance =
                  (last?.can.distance ?? 0) + ((last?.can.distance ?? 3) - before || 3);
                set({ cans: [...cans.cans, { leg, distance }] });
              }}
            >
              <Plus size={16} aria-hidden /> A can
            </Button>
          </section>
        );
      })}
      <Button
        className="justify-self-start"
        disabled={legs.length > 7}
        onClick={() => {
          const leg = Math.max(-1, ...legs) + 1;
          const like = rowsOf(legs[0] ?? 0).map(({ can: { distance } }) => ({ leg, distance }));
          set({ cans: [...cans.cans, ...like] });
        }}
      >
        <Plus size={16} aria-hidden /> Another leg
      </Button>
    </>
  );
}

function Grid({ cans, set }: LayoutProps) {
  const columns = cans.columns ?? 5;
  const rows = Math.max(Math.ceil(cans.cans.length / columns), 1);
  const apart = cans.apart ?? { along: 5, across: 5 };
  /** Every can stays where it stood while rows and columns come and go. */
  const resize = (nextColumns: number, nextRows: number) =>
    set({
      columns: nextColumns,
      cans: Array.from({ length: nextColumns * nextRows }, (_, i) => {
        const [column, row] = [i % nextColumns, Math.floor(i / nextColumns)];
        return (column < columns && cans.cans[row * columns + column]) || {};
      }),
    });
  return (
    <section aria-label="The grid" className="grid gap-2">
      <div className="grid grid-cols-2 items-end gap-2">
        <JobQuantity
          label="Apart along a row"
          quantity="length"
          range={RANGES.length}
          value={apart.along}
          onChange={(along) => set({ apart: { ...apart, along } })}
        />
        <JobQuantity
          label="Apart between rows"
          quantity="length"
          range={RANGES.length}
          value={apart.across}
          onChange={(across) => set({ apart: { ...apart, across } })}
        />
      </div>
      <div
        className="grid gap-1 overflow-x-auto"
        style={{ gridTemplateColumns: `repeat(${columns}, minmax(3.6rem, 1fr))` }}
      >
        {cans.cans.map((_, index) => (
          <Caught
            key={index}
            {...caughtIn(cans, index)}
            label={`Row ${Math.floor(index / columns) + 1}, can ${(index % columns) + 1}`}
            visibleLabel={false}
          />
        ))}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => resize(columns, rows + 1)}>
          <Plus size={16} aria-hidden /> A row
        </Button>
        <Button onClick={() => resize(columns + 1, rows)}>
          <Plus size={16} aria-hidden /> A column
        </Button>
        <Button look="quiet" disabled={rows < 2} onClick={() => resize(columns, rows - 1)}>
          One row less
        </Button>
        <Button look="quiet" disabled={columns < 2} onClick={() => resize(columns - 1, rows)}>
          One column less
        </Button>
      </div>
    </section>
  );
}
