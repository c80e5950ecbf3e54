import type { WellDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { USUAL_START } from "#core/driving/motor.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import { shownCable } from "#model/well/derivations.ts";
import { cableLength } from "#model/well/settle.ts";
import { findingWords } from "#words/findings.ts";
import { Found } from "../../findings/Found.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { without } from "../../lib/without.ts";
import { edit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { SelectField } from "../../ui/Fields.tsx";
import { OptionalNumber } from "../../ui/OptionalNumber.tsx";
import { StatusMark } from "../../ui/StatusMark.tsx";
import { setWell } from "./edits.ts";
import { Figure } from "./Figure.tsx";
import type { FieldProps, ResultProps } from "./props.ts";

/** The way the cable takes, what it is fed by, and what the electrician says of its sizes. */
export function CableFields({ job, told }: FieldProps) {
  const units = useUnits();
  const { cable = {}, cables = [] } = job.well ?? {};
  const first = job.site.supplies?.[0];
  const rows = told?.cable.rows ?? [];
  const setCable = (
    conductor: string,
    patch: { ampacity?: number | undefined; price?: number | undefined },
  ) => {
    const own = {
      ...(cables.find((each) => each.conductor === conductor) ?? { conductor }),
      ...patch,
    };
    const kept = Object.fromEntries(
      Object.entries(own).filter(([, value]) => value !== undefined),
    ) as typeof own;
    const others = cables.filter((each) => each.conductor !== conductor);
    const next = Object.keys(kept).length > 1 ? [...others, kept] : others;
    setWell({ cables: next.length > 0 ? (next as typeof cables) : undefined });
  };
  const sizes = cable.sizes ?? rows[0]?.conductor.id.split("-")[0] ?? "mm2";
  return (
    <div className="grid gap-4">
      <section aria-label="The way" className="grid grid-cols-2 items-end gap-2">
        <JobQuantity
          label="Supply to the well’s head"
          optional
          quantity="length"
          range={RANGES.lengthOrNone}
          value={cable.run}
          onChange={(run) =>
            setWell({ cable: without({ ...cable, run }) as NonNullable<WellDocument["cable"]> })
          }
        />
        <OptionalNumber
          label="Breaker, A"
          whole={false}
          most={1000}
          value={first?.breaker}
          onChange={(breaker) =>
            edit((j) => {
              const { breaker: _, ...rest } = j.site.supplies?.[0] ?? {};
              const supply = breaker === undefined ? rest : { ...rest, breaker };
              return {
                ...j,
                site: { ...j.site, supplies: [supply, ...(j.site.supplies ?? []).slice(1)] },
              };
            })
          }
        />
        <label className="target col-span-2 flex items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={cable.heavier ?? true}
            onChange={(event) => setWell({ cable: { ...cable, heavier: event.target.checked } })}
          />
          That run is buried: one size heavier there
        </label>
        <SelectField
          label="Sizes"
          visibleLabel
          value={sizes}
          onChange={(next) =>
            setWell({ cable: { ...cable, sizes: next as NonNullable<typeof cable.sizes> } })
          }
        >
          <option value="awg">AWG</option>
          <option value="mm2">mm², flexible (class 5)</option>
          <option value="mm2stranded">mm², stranded (class 2)</option>
        </SelectField>
      </section>
      {rows.length > 0 && (
        <section aria-label="What each size carries" className="grid gap-2">
          <h2 className="text-xl">What each size carries</h2>
          <p className="text-[13px] text-soft">
            Amperes as the electrician’s code gives them for this cable where it lies: until you
            type them a cautious table is taken, from memory. And the price of a{" "}
            {units === "us" ? "metre, as the firm buys it" : "metre"}.
          </p>
          {rows
            .filter(({ fails }) => !fails.includes("start") && !fails.includes("drop"))
            .slice(0, 4)
            .map(({ conductor }) => {
              const own = cables.find((each) => each.conductor === conductor.id);
              return (
                <div key={conductor.id} className="grid grid-cols-[4.6rem_1fr_1fr] items-end gap-2">
                  <span className="plate pb-1.5 text-[17px]">{conductor.label}</span>
                  <OptionalNumber
                    label={
                      own?.ampacity === undefined
                        ? `${conductor.label} carries, A (${conductor.ampacity} taken)`
                        : `${conductor.label} carries, A`
                    }
                    whole={false}
                    most={5000}
                    value={own?.ampacity}
                    onChange={(ampacity) => setCable(conductor.id, { ampacity })}
                  />
                  <OptionalNumber
                    label="a metre"
                    whole={false}
                    most={100_000}
                    value={own?.price}
                    onChange={(price) => setCable(conductor.id, { price })}
                  />
                </div>
              );
            })}
        </section>
      )}
    </div>
  );
}

const ROW =
  "grid grid-cols-[5.4rem_1fr_1fr_2.4rem] gap-x-2 px-1.5 sm:grid-cols-[5.4rem_6.2rem_5.6rem_2.6rem_minmax(0,1fr)]";

/** Sizes that are shown under the first that passes, and over it. */
const LESS = 2;
const MORE = 2;

/** Every size with what reaches the motor, and the cheapest that passes. */
export function CableResults({ job, told }: ResultProps) {
  const units = useUnits();
  const { cable } = told;
  const { motor, rows, choice, chosen } = cable;
  const volts = (si: number) => `${si.toFixed(si < 10 ? 1 : 0)} V`;
  if (!motor) {
    return findingsIn("cable-motor", cable).map((own) => <Found key={own.code} finding={own} />);
  }
  const best = choice && choice.kind !== "none" ? choice.row.conductor.id : undefined;
  // From a little too thin to a little more than needed.
  const first = rows.findIndex(({ fails }) => fails.length === 0);
  const taken = rows.findIndex(({ conductor }) => conductor.id === chosen);
  const last = first < 0 ? rows.length : Math.max(first, taken) + MORE;
  const shown = rows.slice(Math.max((first < 0 ? rows.length - MORE : first) - LESS, 0), last + 1);
  return (
    <div className="grid gap-4">
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
        <Figure
          name="Way"
          value={format(cable.run + cable.down, "length", units)}
          note={`${format(cable.run, "length", units)} along, ${format(cable.down, "length", units)} down`}
        />
        <Figure
          name="Runs at"
          value={`${motor.current.toFixed(1)} A`}
          note={motor.currentFrom === "plate" ? "by its plate" : "by the most it takes"}
        />
        <Figure
          name="Starts at"
          value={`${motor.starting.toFixed(0)} A`}
          note={motor.startingAssumed ? `assumed, ${USUAL_START} times running` : "by its plate"}
        />
        <Figure
          name="Supply"
          value={`${motor.volts} V`}
          note={`${motor.phase === 3 ? "three phases" : "one phase"}${motor.breaker === undefined ? ", breaker not typed" : `, ${motor.breaker} A breaker`}`}
        />
      </dl>
      {choice && findingsIn("cable", choice).map((own) => <Found key={own.code} finding={own} />)}
      <ul aria-label="Sizes of cable" className="text-[15px]" data-testid="cables">
        <li aria-hidden className={`${ROW} pb-1 text-[13px] text-soft max-sm:hidden`}>
          {["Size", "Running", "Starting", "Price", ""].map((name) => (
            <span key={name}>{name}</span>
          ))}
        </li>
        {shown.map((row) => {
          const { conductor, ground, part, atMotor, atStart, startPart, price, fails } = row;
          const { breaker } = motor;
          const [finding] = findingsIn("cable-size", { row, breaker }) as [FindingIn<"cable-size">];
          return (
            <li
              key={conductor.id}
              className={`${ROW} items-center border-t border-rule py-1 ${conductor.id === best ? "bg-press" : ""}`}
            >
              <span className="leading-tight">
                <span className="plate block text-[18px]">{conductor.label}</span>
                {cable.run > 0 && (
                  <span className="block text-[13px] text-soft">buried {ground.label}</span>
                )}
              </span>
              <span>
                <span className="text-[13px] text-soft sm:sr-only">runs </span>
                {volts(atMotor)}{" "}
                <span className="text-[13px] text-soft">−{formatPercent(part, 1)}</span>
              </span>
              <span>
                <span className="text-[13px] text-soft sm:sr-only">starts </span>
                {volts(atStart)}{" "}
                <span className="text-[13px] text-soft">{formatPercent(startPart)}</span>
              </span>
              <span className="max-sm:text-right">
                <span className="sr-only">price </span>
                {price.toFixed(0)}
              </span>
              <span className="flex items-center gap-x-2 flex-wrap max-sm:col-span-4">
                <StatusMark severity={finding.severity} />
                <span className="min-w-24 flex-1 text-[13px] leading-tight">
                  {findingWords(finding, { system: units }).sentence}
                </span>
                {fails.length === 0 &&
                  (conductor.id === chosen ? (
                    <span className="text-[13px] text-soft">taken</span>
                  ) : (
                    <Button
                      aria-label={`Take ${conductor.label}`}
                      onClick={() =>
                        edit((j) => ({
                          ...j,
                          site: {
                            ...j.site,
                            cable: { length: cableLength(j), conductor: conductor.id },
                          },
                        }))
                      }
                    >
                      Take it
                    </Button>
                  ))}
              </span>
            </li>
          );
        })}
      </ul>
      <dl>
        <Figure
          name="How the voltage is lost"
          value={(() => {
            const row = rows.find(({ conductor }) => conductor.id === shownCable(told));
            return row ? volts(row.drop) : "–";
          })()}
          note="along the way at the running current"
          working="cable"
        />
      </dl>
      <p className="text-[14px]">
        A licensed electrician chooses cable, breaker, earthing and splices by the local code, and
        joins them: this only says what the numbers are. Prices nobody typed are invented.
        {job.site.supplies?.[0]?.volts === undefined &&
          " The voltage is the pump’s plate: say under “Power there” what supply there is."}
      </p>
    </div>
  );
}
