import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { CONDUCTORS, conductorName } from "#core/driving/conductor.ts";
import { costOfVolume, inputPower, type MotorAtWork, USUAL_START } from "#core/driving/motor.ts";
import type { Driving } from "#model/selection/driving.ts";
import { AllFound } from "../../findings/Found.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { edit, useJobStore, visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { NumberField, SelectField } from "../../ui/Fields.tsx";
import { Figure } from "../../ui/Figure.tsx";
import { LOT, priceOf } from "./usual.ts";

/** A motor with its cord, breaker and generator, and what its water costs. */
export function ElectricDrive({ driving, job }: { driving: Driving; job: JobDocument }) {
  const units = useUnits();
  const { motor, pump, flow } = driving;
  const lot = LOT[units];
  const assumed = job.overTime?.energyPrice === undefined;
  return (
    <section aria-label="Electricity" className="grid gap-2">
      <h2 className="plate text-[19px]">Electricity</h2>
      <Feeding />
      {motor ? (
        <>
          <dl className="grid grid-cols-2 gap-x-4 gap-y-2">
            <Figure
              name="Takes"
              value={format(motor.power, "power", "metric")}
              note="from the supply"
            />
            <Figure
              name="Current"
              value={`${motor.current.toFixed(1)} A`}
              note={currentNote(motor)}
            />
            <Figure
              name="Power factor"
              value={motor.powerFactor.toFixed(2)}
              note={powerFactorNote(pump, motor)}
            />
            {flow !== undefined && (
              <Figure
                name={`Cost of ${lot.name}`}
                value={(
                  costOfVolume(motor.power, flow, priceOf(job) / 3.6e6) * lot.volume
                ).toPrecision(2)}
                note={`in money, at ${priceOf(job)} a kWh${assumed ? ", assumed" : ""}`}
              />
            )}
            <Figure
              name="Starting current"
              value={`${motor.starting.current.toFixed(0)} A`}
              note={
                motor.starting.assumed ? `assumed, ${USUAL_START} times running` : "by its plate"
              }
            />
          </dl>
          <div className="grid gap-2">
            <AllFound of="motor" among={driving.findings} />
          </div>
        </>
      ) : (
        <p className="text-soft">
          {pump.points.every(({ power }) => power === undefined)
            ? "Its power is not published: read it with a clamp meter, and type it with the pump."
            : "Its plate does not say its voltage, or it does not run on this line."}
        </p>
      )}
      <p className="text-[14px]">
        A licensed electrician chooses cable, breaker and earthing by the local code, and joins
        them; this only says what the numbers are. Test the residual-current device before a pump is
        lowered, and lock off before hands go near it.
      </p>
    </section>
  );
}

function currentNote({ ofPlate, currentFrom }: MotorAtWork): string | undefined {
  if (ofPlate !== undefined) return `${formatPercent(ofPlate)} of its plate`;
  return currentFrom === "usual" ? "reckoned with a usual power factor" : undefined;
}

/** At its flow, and between shut off and run-out where its current is published. */
function powerFactorNote({ points, electric }: PumpDocument, { currentFrom }: MotorAtWork) {
  if (currentFrom !== "points" || !electric?.volts) return undefined;
  const factors = points.flatMap(({ power, current }) =>
    power && current
      ? [power / inputPower(electric.volts as number, current, 1, electric.phase ?? 1)]
      : [],
  );
  const [shut, last] = [factors[0], factors.at(-1)];
  if (shut === undefined || last === undefined) return "by its published current";
  return `by its published current; ${shut.toFixed(2)} shut, ${last.toFixed(2)} at run-out`;
}

/** What lies between supply and motor: as typed, where what is told of it follows later. */
function Feeding() {
  const { cable, supplies } = useJobStore(({ job }) => job.site);
  const first = supplies?.[0];
  const setSite = (patch: object) => edit((j) => ({ ...j, site: { ...j.site, ...patch } }));
  const setFirst = (patch: object) =>
    setSite({ supplies: [{ ...first, ...patch }, ...(supplies ?? []).slice(1)] });
  return (
    <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4">
      <SelectField
        label="Cord or cable"
        visibleLabel
        value={cable?.conductor ?? ""}
        onChange={(conductor) =>
          setSite({ cable: conductor ? { length: cable?.length ?? 20, conductor } : undefined })
        }
      >
        <option value="">not said</option>
        {CONDUCTORS.map((conductor) => (
          <option key={conductor.id} value={conductor.id}>
            {conductorName(conductor)}
          </option>
        ))}
      </SelectField>
      {cable && (
        <JobQuantity
          label="Its length"
          quantity="length"
          range={RANGES.length}
          value={cable.length}
          onChange={(length) => setSite({ cable: { ...cable, length } })}
        />
      )}
      {first && (
        <>
          <NumberField
            label="Breaker, A"
            visibleLabel
            value={first.breaker ?? 0}
            min={0}
            max={1000}
            onVisit={visit}
            onChange={(breaker) => setFirst({ breaker: breaker || undefined })}
          />
          <NumberField
            label="Generator, kW"
            visibleLabel
            value={(first.power ?? 0) / 1000}
            min={0}
            max={2000}
            onVisit={visit}
            onChange={(kilowatts) =>
              setFirst({
                power: kilowatts ? kilowatts * 1000 : undefined,
                generator: kilowatts ? true : undefined,
              })
            }
          />
        </>
      )}
      {!first && (
        <p className="col-span-2 text-[14px] text-soft">
          Say under “Power there” what supply there is: then a breaker or a generator can be held
          against it.
        </p>
      )}
    </div>
  );
}
