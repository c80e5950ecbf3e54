import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { CONDUCTORS } from "#core/driving/conductor.ts";
import {
  BREAKER_PART,
  costOfVolume,
  DROP,
  GENERATOR_SURGE,
  inputPower,
  type MotorAtWork,
  START_VOLTAGE,
  USUAL_START,
} from "#core/driving/motor.ts";
import { GALLON, ZERO_CELSIUS } from "#core/quantity/constants.ts";
import { type Driving, drivingOf, USUAL_AIR } from "#model/choose/driving.ts";
import { PUMP_KINDS, pumpsName } from "#words/items.ts";
import { lasting } from "#words/overTime.ts";
import { useUnits } from "../app/settings.ts";
import { edit, editItem, pumpItems, visit } from "../job/jobStore.ts";
import { JobQuantity } from "../job/parts/JobQuantity.tsx";
import { useInTime } from "../time/useOverTime.ts";
import { Button } from "../ui/Button.tsx";
import { NumberField, SelectField } from "../ui/Fields.tsx";
import { StatusMark } from "../ui/StatusMark.tsx";
import { SpeedPlot } from "./SpeedPlot.tsx";
import { useLibraryPumps } from "./useChoice.ts";
import { USUAL } from "./usual.ts";

/** What drives the pump: its speed, its motor with cord and supply, or its engine; of several, what each moves alone. */
export default function DrivingPane({
  job,
  selected,
}: {
  job: JobDocument;
  selected: string | undefined;
}) {
  const rows = pumpItems(job.path);
  const item = rows.find(({ id }) => id === selected) ?? rows[0];
  const library = useLibraryPumps(job.pumps);
  const asked = useInTime(job);
  const itemId = item?.id;
  const driving = useMemo(
    () => (itemId === undefined ? undefined : drivingOf(asked, itemId, library)),
    [asked, itemId, library],
  );
  if (!item || !driving) {
    return (
      <p className="p-4 text-soft">
        Choose a pump, and let the line be one that can be solved: then this shows what drives it.
      </p>
    );
  }
  return (
    <div className="grid gap-4 p-3">
      <Speeds {...{ driving, job }} itemId={item.id} />
      {driving.pump.drive === "electric" ? (
        <Electric {...{ driving, job }} />
      ) : (
        <EngineDrive {...{ driving, job, library }} />
      )}
      <Together {...{ driving, job }} />
    </div>
  );
}

const priceOf = ({ overTime }: JobDocument) => overTime?.energyPrice ?? USUAL.energyPrice;

/** A cubic metre, or a thousand gallons, as water is paid for. */
const LOT = { us: { volume: 1000 * GALLON, name: "1000 gal" }, metric: { volume: 1, name: "m³" } };

function Figure({ name, value, note }: { name: string; value: string; note?: string | undefined }) {
  return (
    <div>
      <dt className="text-[13px] text-soft">{name}</dt>
      <dd>
        <span className="plate text-2xl leading-none">{value}</span>
        {note && <span className="block text-[13px] text-soft">{note}</span>}
      </dd>
    </div>
  );
}

function Speeds({ driving, job, itemId }: { driving: Driving; job: JobDocument; itemId: string }) {
  const units = useUnits();
  const { speeds, pump, speedRatio, flow, power } = driving;
  if (!speeds) {
    return (
      <p className="text-[14px] text-soft">
        It runs at one speed. A pump whose plate gives its speeds shows here what slowing it down
        brings.
      </p>
    );
  }
  const rpm = (ratio: number) => `${(ratio * pump.ratedSpeedRpm).toFixed(0)} rpm`;
  const lot = LOT[units];
  const energy = (perVolume: number) => format(perVolume * lot.volume, "energy", units);
  const now = flow && power ? power / flow : undefined;
  const { slowest, cheapest, floor, lift, fit } = speeds;
  const isMotor = pump.drive === "electric";
  const kind = isMotor ? "energy" : "energy at the shaft";
  const yearly =
    isMotor && now !== undefined && cheapest?.perVolume !== undefined && job.wantedFlow
      ? ((now - cheapest.perVolume) * job.wantedFlow * USUAL.hours * 3600 * priceOf(job)) / 3.6e6
      : undefined;
  const set = (ratio: number) =>
    editItem<"pump">(itemId, {
      speedRatio: Math.abs(ratio - 1) < 1e-6 ? undefined : Number(ratio.toFixed(4)),
    });
  const isSame = (ratio: number) => Math.abs(ratio - speedRatio) < 1e-3;
  return (
    <section aria-label="Speed" className="grid gap-2">
      <h2 className="plate text-[19px]">
        {pump.drive === "engine" ? "Throttle" : "Speed"}{" "}
        <span className="text-soft">now {rpm(speedRatio)}</span>
      </h2>
      <div className="h-60">
        <SpeedPlot
          {...{ speeds, speedRatio, lot }}
          rated={pump.ratedSpeedRpm}
          wanted={job.wantedFlow}
        />
      </div>
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2">
        {slowest ? (
          <Figure
            name="Slowest that moves what is wanted"
            value={rpm(slowest.ratio)}
            note={`${format(slowest.flow ?? 0, "flow", units)}${slowest.power === undefined ? "" : `, ${format(slowest.power, "power", units)}`}`}
          />
        ) : (
          job.wantedFlow !== undefined && (
            <Figure
              name="Slowest that moves what is wanted"
              value="none"
              note="at no speed it has"
            />
          )
        )}
        {cheapest?.perVolume !== undefined && (
          <Figure
            name={`Least ${kind} for ${lot.name}`}
            value={energy(cheapest.perVolume)}
            note={`at ${rpm(cheapest.ratio)}`}
          />
        )}
        {now !== undefined && <Figure name={`For ${lot.name} now`} value={energy(now)} />}
        <Figure
          name={`The lift alone, for ${lot.name}`}
          value={energy(floor)}
          note={`${format(lift, "head", units)}: no speed gets under this`}
        />
        {yearly !== undefined && yearly > 0.005 && (
          <Figure
            name="Saved a year at that speed"
            value={yearly.toFixed(yearly < 10 ? 1 : 0)}
            note={`in money; assumed ${USUAL.hours} h at the wanted flow, ${priceOf(job)} a kWh`}
          />
        )}
        {fit && (
          <Figure
            name="Taken idling, by its sweep"
            value={format(fit.idle, "power", units)}
            note={`and a part that goes with speed to the power ${fit.exponent.toFixed(2)}`}
          />
        )}
      </dl>
      {!fit && pump.drive === "electric" && (
        <p className="text-[13px] text-soft">
          Power by affinity, with the speed to the power 3. A sweep of its speeds, typed with the
          pump, would tell what its drive takes idling.
        </p>
      )}
      <div className="flex flex-wrap items-end gap-2">
        <JobQuantity
          label="Runs at"
          className="w-36"
          quantity="speed"
          range={{
            min: Math.max(pump.ratedSpeedRpm * 0.1, pump.speeds?.least ?? 0),
            max: pump.speeds?.most ?? pump.ratedSpeedRpm * 1.3,
            what: "The speed",
          }}
          value={speedRatio * pump.ratedSpeedRpm}
          onChange={(speed) => set(speed / pump.ratedSpeedRpm)}
        />
        {[
          ...(slowest ? [{ ratio: slowest.ratio, name: "Run it at the slowest" }] : []),
          ...(cheapest && cheapest.ratio !== slowest?.ratio
            ? [{ ratio: cheapest.ratio, name: "Run it at the least energy" }]
            : []),
          { ratio: 1, name: "Run it at its rated speed" },
        ].map(({ ratio, name }) => (
          <Button key={name} disabled={isSame(ratio)} onClick={() => set(roundedUp(ratio))}>
            {name}
          </Button>
        ))}
      </div>
    </section>
  );
}

/** To four figures, never slower: a hair less would not move what is wanted. */
const roundedUp = (ratio: number) => Math.ceil(ratio * 1e4 - 1e-6) / 1e4;

function Electric({ driving, job }: { driving: Driving; job: JobDocument }) {
  const units = useUnits();
  const { motor, pump, flow } = driving;
  const lot = LOT[units];
  const assumed = job.overTime?.energyPrice === undefined;
  return (
    <section aria-label="Electricity" className="grid gap-2">
      <h2 className="plate text-[19px]">Electricity</h2>
      <Feeding job={job} />
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
          <ul className="grid gap-2">
            {verdicts(motor).map(({ severity, text }) => (
              <li key={text} className="flex items-start gap-2 text-[15px]">
                <StatusMark severity={severity} />
                <span>{text}</span>
              </li>
            ))}
          </ul>
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

function verdicts({ cable, breaker, generator, ofPlate }: MotorAtWork) {
  const found: { severity: "stop" | "watch" | "good"; text: string }[] = [];
  if (ofPlate !== undefined && ofPlate > 1.02) {
    found.push({
      severity: "watch",
      text: `It draws ${formatPercent(ofPlate - 1)} more than its plate: throttle it, or a smaller impeller.`,
    });
  }
  if (cable) {
    const { part, drop, atMotor, startPart, enough } = cable;
    const other = enough
      ? ` ${enough.label} would do.`
      : " No size here would do: shorten it, or a higher voltage.";
    found.push({
      severity: part > DROP.most ? "stop" : part > DROP.good ? "watch" : "good",
      text: `The cable takes ${drop.toFixed(1)} V, ${formatPercent(part, 1)}: ${atMotor.toFixed(0)} V reach the motor.${part > DROP.good ? other : ""}`,
    });
    found.push({
      severity: startPart < START_VOLTAGE ? "stop" : "good",
      text: `Starting, ${formatPercent(Math.max(startPart, 0))} of the voltage reach it; it needs about ${formatPercent(START_VOLTAGE)}.${startPart < START_VOLTAGE ? other : ""}`,
    });
  }
  if (breaker) {
    found.push({
      severity: breaker.fits ? "good" : "stop",
      text: `It takes ${formatPercent(breaker.part)} of the ${breaker.rating} A breaker; up to ${formatPercent(BREAKER_PART)} may be taken all the time.`,
    });
  }
  if (generator) {
    found.push({
      severity: generator.bears ? "good" : "stop",
      text: `Starting it asks ${(generator.asked / 1000).toFixed(1)} kVA of the ${(generator.power / 1000).toFixed(1)} kW generator, which bears about ${GENERATOR_SURGE} times that for a moment.`,
    });
  }
  return found;
}

/** What lies between supply and motor. */
function Feeding({ job }: { job: JobDocument }) {
  const { cable, supplies } = job.site;
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
        {CONDUCTORS.map(({ id, label }) => (
          <option key={id} value={id}>
            {label}
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

function EngineDrive({
  driving,
  job,
  library,
}: {
  driving: Driving;
  job: JobDocument;
  library: ReturnType<typeof useLibraryPumps>;
}) {
  const units = useUnits();
  const { engine, engineUnknown, rivals, flow } = driving;
  const perHour = (fuel: number) => format(fuel * 3600, "volume", units);
  const names = new Map(library.map(({ id, maker, model }) => [id, `${maker} ${model}`]));
  return (
    <section aria-label="Engine" className="grid gap-2">
      <h2 className="plate text-[19px]">Engine</h2>
      <div className="grid grid-cols-2 gap-2">
        <JobQuantity
          label={`Air${job.site.airTemperature === undefined ? ", assumed" : ""}`}
          quantity="temperature"
          range={RANGES.airTemperature}
          value={job.site.airTemperature ?? ZERO_CELSIUS + USUAL_AIR}
          onChange={(airTemperature) =>
            edit((j) => ({ ...j, site: { ...j.site, airTemperature } }))
          }
        />
      </div>
      {engineUnknown && (
        <p className="text-soft">
          Its plate does not say how strong the engine is: type it with the pump.
        </p>
      )}
      {engine && (
        <>
          <dl className="grid grid-cols-2 gap-x-4 gap-y-2">
            <Figure
              name="It gives here"
              value={format(engine.available, "power", units)}
              note={`${formatPercent(engine.part)} of its plate, by height and warmth`}
            />
            <Figure name="The shaft asks" value={format(engine.shaft, "power", units)} />
            <Figure
              name="Fuel an hour"
              value={perHour(engine.fuel)}
              note="about, common practice"
            />
            {engine.tankLasts !== undefined && (
              <Figure name="A tank lasts" value={lasting(engine.tankLasts)} />
            )}
            {flow !== undefined && (
              <Figure
                name={`Fuel for ${LOT[units].name}`}
                value={format((engine.fuel / flow) * LOT[units].volume, "volume", units)}
              />
            )}
          </dl>
          <p className="flex items-start gap-2 text-[15px]">
            <StatusMark severity={engine.sag < 0.995 ? "watch" : "good"} />
            <span>
              {engine.sag < 0.995
                ? `The shaft asks for more than the engine gives here: it sags to ${formatPercent(engine.sag)} of its speed, and the flow with it. Throttle the outlet, or a stronger engine.`
                : "The engine holds its speed."}
            </span>
          </p>
        </>
      )}
      {rivals.length > 1 && (
        <table className="w-full text-[14px]" aria-label="Engine pumps on this line">
          <caption className="text-left text-[13px] text-soft">
            Of the same ports, the best of each kind on this line
          </caption>
          <thead className="text-[13px] text-soft">
            <tr>
              <th className="text-left font-normal">Pump</th>
              <th className="text-right font-normal">Flow</th>
              <th className="text-right font-normal">Head</th>
              <th className="text-right font-normal">Fuel an hour</th>
            </tr>
          </thead>
          <tbody>
            {rivals.map(({ id, kind, flow: own, head, fuel }) => (
              <tr key={id} className="border-t border-rule">
                <td className="py-1">
                  {names.get(id)} <span className="text-soft">{PUMP_KINDS[kind]}</span>
                </td>
                <td className="text-right">{format(own, "flow", units)}</td>
                <td className="text-right">{format(head, "head", units)}</td>
                <td className="text-right">{fuel === undefined ? "–" : perHour(fuel)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="text-[14px]">
        Run it in the open only, downwind of people and intakes: its exhaust kills. Let it cool
        before it is refuelled.
      </p>
    </section>
  );
}

function Together({ driving, job }: { driving: Driving; job: JobDocument }) {
  const units = useUnits();
  if (driving.running.length === 0) return null;
  return (
    <table className="w-full text-[14px]" aria-label="Alone and together">
      <caption className="plate text-left text-[19px]">Alone and together</caption>
      <thead className="text-[13px] text-soft">
        <tr>
          <th className="text-left font-normal">Running</th>
          <th className="text-right font-normal">At the outlets</th>
          <th className="text-right font-normal">Power</th>
        </tr>
      </thead>
      <tbody>
        {driving.running.map(({ itemIds, flow, power }) => (
          <tr key={itemIds.join(" ")} className="border-t border-rule">
            <td className="py-1">{pumpsName(job.path, itemIds, units)}</td>
            <td className="text-right">{format(flow, "flow", units)}</td>
            <td className="text-right">
              {power === undefined ? "–" : format(power, "power", units)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
