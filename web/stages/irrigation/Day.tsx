import { useEffect, useRef } from "react";
import type { FieldDocument, JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import type { DayStep } from "#core/irrigation/dayPlan.ts";
import { GALLON } from "#core/quantity/constants.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { COOLING, FILLING, MOVE, PRIME, START } from "#model/irrigation/usual.ts";
import { duration } from "#words/duration.ts";
import { formatClock, stepWords } from "#words/irrigation.ts";
import { AllFound } from "../../findings/Found.tsx";
import { ClockField } from "../../jobFields/ClockField.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { Usual } from "../../jobFields/Usual.tsx";
import { localDay } from "../../lib/clock.ts";
import { downloadText } from "../../lib/downloadText.ts";
import { useJobStore, visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { NumberField, TextField } from "../../ui/Fields.tsx";
import { Download } from "../../ui/icons.ts";
import { toast } from "../../ui/toast.ts";
import { useLongList } from "../../ui/useLongList.ts";
import { Figure } from "./Figure.tsx";
import { editField, setIn } from "./field.ts";
import type { ResultProps } from "./resultProps.ts";

/** The day by the clock: sets, moves, fuel stops, waits. */
export function DayResults({ job, told }: ResultProps) {
  const { day, timing } = told;
  const own = job.field?.day ?? {};
  if (!timing || !day) {
    return (
      <p className="text-soft">
        The clock follows from the sets: say how large the ground is under Field, with a gun that
        throws.
      </p>
    );
  }
  const dayOf = own.at?.on ?? own.on ?? today();
  if (day.kind === "refused") {
    return (
      <div className="grid gap-3">
        <div role="alert">
          <AllFound of="day-refused" among={told.findings} />
        </div>
        <WhereYouAre sets={timing.runs.length} />
      </div>
    );
  }
  const first = day.steps[0]?.from ?? 0;
  return (
    <div className="grid gap-3">
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4" data-testid="day-figures">
        <Figure
          name={own.at ? `From set ${own.at.set + 1}` : "Begins"}
          value={formatClock(first)}
          note={dayName(dayOf)}
        />
        <Figure name="Done" value={formatClock(day.end)} note={dayName(dayOf, day.end)} />
        <Figure name="Running" value={duration(day.running)} />
        {told.drive.kind === "engine" && <Figure name="Fuel stops" value={day.fuelStops} />}
      </dl>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => void saveCalendar(day.steps, dayOf, own.on ?? "round", job)}>
          <Download size={16} aria-hidden /> Calendar file
        </Button>
        {!own.at && <Button onClick={() => planFrom(0)}>I am at a set: plan from now</Button>}
      </div>
      <WhereYouAre sets={timing.runs.length} />
      <StepList steps={day.steps} />
      <p className="text-[13px] text-soft">
        Watch the first set run through: a gun that stops turning drowns one strip. Exhaust kills:
        the engine stands in the open, away from the intake. Switch off and let it cool before fuel.
        Let the pressure down before a hose is uncoupled.
      </p>
    </div>
  );
}

/** Plans the rest from a set on, from now, with the tank as it was last said to be. */
function planFrom(set: number): void {
  const now = new Date();
  const time = now.getHours() * 3600 + now.getMinutes() * 60;
  editField((field) => ({
    ...field,
    day: { ...field.day, at: { ...field.day?.at, set, on: today(), time } },
  }));
}

/**
 * The set somebody is about to begin, what the clock says there, and what is left in the tank: as typed, where what is
 * told of the day follows later.
 */
function WhereYouAre({ sets }: { sets: number }) {
  const at = useJobStore(({ job }) => job.field?.day?.at);
  const section = useRef<HTMLElement>(null);
  const next = at?.set;
  // Said from far down the list, it stands at the top: that is where the clock and the tank are put right.
  useEffect(() => {
    if (next !== undefined) section.current?.scrollIntoView({ block: "nearest" });
  }, [next]);
  if (!at) return null;
  const set = (patch: Partial<typeof at>) => setIn("day", { at: { ...at, ...patch } });
  return (
    <section
      ref={section}
      aria-label="Where you are"
      className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4"
    >
      <NumberField
        label="Next set"
        visibleLabel
        whole
        min={1}
        max={Math.max(sets, 1)}
        value={at.set + 1}
        onVisit={visit}
        onChange={(next) => set({ set: next - 1 })}
      />
      <ClockField
        label="It is"
        seconds={at.time}
        onChange={(time) => time !== undefined && set({ time })}
      />
      <NumberField
        label={at.tankLeft === undefined ? "Left in the tank (full)" : "Left in the tank"}
        visibleLabel
        suffix="%"
        min={0}
        max={100}
        value={100 * (at.tankLeft ?? 1)}
        onVisit={visit}
        onChange={(percent) => set({ tankLeft: percent / 100 })}
      />
      <Button look="quiet" onClick={() => setIn("day", { at: undefined })}>
        From the start again
      </Button>
    </section>
  );
}

async function saveCalendar(
  steps: readonly DayStep[],
  day: string,
  round: string,
  job: JobDocument,
): Promise<void> {
  const { calendarFile } = await import("#report/calendar.ts");
  const { id } = useJobStore.getState();
  const sequence = Math.floor(Date.now() / 60_000);
  const file = calendarFile(
    steps,
    day,
    { id, name: job.name, place: job.place },
    { round, sequence },
  );
  if (file.ok) downloadText(`sets-${day}.ics`, file.text, "text/calendar");
  else toast.error(`No calendar file could be made: ${file.message}`);
}

function StepList({ steps }: { steps: readonly DayStep[] }) {
  const list = useRef<HTMLOListElement>(null);
  const { indexes, before, after, measure } = useLongList(list, steps.length, 40);
  return (
    <ol
      ref={list}
      aria-label="By the clock"
      style={{ paddingTop: before, paddingBottom: after }}
      className="border-t border-rule"
    >
      {indexes.map((index) => {
        const step = steps[index] as DayStep;
        const { title, note } = stepWords(step);
        return (
          <li
            key={index}
            ref={measure}
            data-index={index}
            className="flex items-baseline gap-3 border-b border-rule py-1.5"
          >
            <span className="plate w-32 shrink-0 text-right text-[18px]">
              {formatClock(step.from)}–{formatClock(step.to).replace(/^\+\d+ d /, "")}
            </span>
            <span className="min-w-0">
              {step.kind === "run" ? (
                <button
                  type="button"
                  className="target plate -my-1.5 inline-flex items-center text-[18px] underline decoration-rule underline-offset-4 hover:decoration-ink"
                  aria-label={`${title}: I am here now`}
                  title="I am here now: plan the rest"
                  onClick={() => planFrom(step.set)}
                >
                  {title}
                </button>
              ) : (
                <span className="text-soft">{title}</span>
              )}
              {note && <span className="block text-[13px] text-soft">{note}</span>}
            </span>
            <span className="ml-auto shrink-0 text-[14px] text-soft">
              {duration(step.to - step.from)}
            </span>
          </li>
        );
      })}
    </ol>
  );
}

/** When it begins, how long things take, and where somebody is. */
export function DayFields({
  field,
  told,
}: {
  job: JobDocument;
  field: FieldDocument;
  told: IrrigationResult | undefined;
}) {
  const units = useUnits();
  const day = field.day ?? {};
  const { calm } = day;
  const set = (patch: Parameters<typeof setIn<"day">>[1]) => setIn("day", patch);
  const drive = told?.drive;
  return (
    <div className="grid gap-4">
      <section aria-label="The start" className="grid grid-cols-2 items-end gap-2">
        <TextField
          label={day.on ? "Day" : "Day (today)"}
          type="date"
          value={day.on ?? today()}
          onVisit={visit}
          onChange={(on) => set({ on: on === "" ? undefined : on })}
        />
        <ClockField
          label="Start"
          seconds={day.start}
          usual={START}
          onChange={(start) => set({ start })}
        />
        <ClockField
          label="Calm from"
          seconds={calm?.from}
          onChange={(from) =>
            set({ calm: from === undefined ? undefined : { from, to: calm?.to ?? from } })
          }
        />
        <ClockField
          label="Calm to"
          seconds={calm?.to}
          onChange={(to) =>
            set({ calm: to === undefined ? undefined : { from: calm?.from ?? to, to } })
          }
        />
        {calm && (
          <Button
            look="quiet"
            className="col-span-2 justify-self-start"
            onClick={() => set({ calm: undefined })}
          >
            Any hour will do
          </Button>
        )}
      </section>
      <section aria-label="How long things take" className="grid grid-cols-2 items-end gap-2">
        <Usual
          label="A move"
          quantity="time"
          unit="min"
          range={RANGES.timeOrNone}
          usual={MOVE}
          value={day.move}
          onChange={(move) => set({ move })}
        />
        <Usual
          label="Priming"
          quantity="time"
          unit="min"
          range={RANGES.timeOrNone}
          usual={PRIME}
          value={day.prime}
          onChange={(prime) => set({ prime })}
        />
        {drive?.kind !== "electric" && (
          <>
            <Usual
              label="Cooling before fuel"
              quantity="time"
              unit="min"
              range={RANGES.timeOrNone}
              usual={COOLING}
              value={day.cooling}
              onChange={(cooling) => set({ cooling })}
            />
            <Usual
              label="Filling"
              quantity="time"
              unit="min"
              range={RANGES.timeOrNone}
              usual={FILLING}
              value={day.filling}
              onChange={(filling) => set({ filling })}
            />
            <JobQuantity
              label={
                day.tank === undefined && drive?.tank !== undefined ? "Tank (by its plate)" : "Tank"
              }
              optional
              quantity="volume"
              range={RANGES.volume}
              value={day.tank ?? drive?.tank}
              onChange={(tank) => set({ tank })}
            />
            <JobQuantity
              label={day.fuelRate === undefined ? "Fuel used (by its power)" : "Fuel used"}
              optional
              quantity="flow"
              unit={units === "us" ? "gph" : "L/h"}
              range={FUEL}
              value={day.fuelRate ?? (drive?.fuelRate && rounded(drive.fuelRate, units))}
              onChange={(fuelRate) => set({ fuelRate })}
            />
          </>
        )}
      </section>
      {drive?.kind === "engine" && (
        <p className="text-[14px] text-soft">
          {drive.tankLasts === undefined
            ? "How long the tank lasts is not known: type tank and fuel, else no stop for fuel is planned."
            : `A tank of ${format(drive.tank ?? 0, "volume", units)} lasts ${duration(drive.tankLasts)}.`}
        </p>
      )}
    </div>
  );
}

/** Three figures of it, as it is read. */
function rounded(fuelRate: number, units: "us" | "metric"): number {
  const unit = (units === "us" ? GALLON : 1e-3) / 3600;
  return Number((fuelRate / unit).toPrecision(3)) * unit;
}

const FUEL = { min: 0, max: 1e-3, what: "The fuel" };

const today = () => localDay(new Date());

/** "Friday 5 June" of a day so many s on. */
function dayName(day: string, seconds = 0): string {
  const at = new Date(Date.parse(`${day}T00:00:00Z`) + Math.floor(seconds / 86_400) * 86_400_000);
  return at.toLocaleDateString("en-GB", {
    ...{ weekday: "long", day: "numeric", month: "long" },
    timeZone: "UTC",
  } as Intl.DateTimeFormatOptions);
}
