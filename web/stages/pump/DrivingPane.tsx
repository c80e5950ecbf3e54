import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { findingsIn } from "#core/finding/registry.ts";
import { ZERO_CELSIUS } from "#core/quantity/constants.ts";
import { DRIVING_COMPUTATIONS } from "#model/results/ofDriving.ts";
import { type Driving, USUAL_AIR } from "#model/selection/driving.ts";
import { PUMP_KINDS, pumpsName } from "#words/items.ts";
import { formatDuration } from "#words/simulation.ts";
import { SpeedPlot } from "../../charts/SpeedPlot.tsx";
import { AllFound, Found } from "../../findings/Found.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { edit, editItem, pumpItems } from "../../openJob/jobStore.ts";
import { onPage } from "../../openJob/results.ts";
import { useLibraryPumps } from "../../openJob/useLibraryPumps.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { Figure } from "../../ui/Figure.tsx";
import { ElectricDrive } from "./ElectricDrive.tsx";
import { LOT, priceOf, USUAL } from "./usual.ts";

onPage.learn(DRIVING_COMPUTATIONS);

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
  const driving = onPage.look({ job, documents: library, place: item?.id ?? "" })("driving");
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
        <ElectricDrive {...{ driving, job }} />
      ) : (
        <EngineDrive {...{ driving, job, library }} />
      )}
      <Together {...{ driving, job }} />
    </div>
  );
}

function Speeds({ driving, job, itemId }: { driving: Driving; job: JobDocument; itemId: string }) {
  const units = useUnits();
  const { speeds, pump, speedRatio, flow, perVolume: now } = driving;
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
          now={
            flow === undefined ? undefined : { flow, ...(now !== undefined && { perVolume: now }) }
          }
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
      {findingsIn("speeds", speeds).map((own) => (
        <Found key={own.code} finding={own} />
      ))}
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
              <Figure name="A tank lasts" value={formatDuration(engine.tankLasts)} />
            )}
            {flow !== undefined && (
              <Figure
                name={`Fuel for ${LOT[units].name}`}
                value={format((engine.fuel / flow) * LOT[units].volume, "volume", units)}
              />
            )}
          </dl>
          <AllFound of="engine" among={driving.findings} />
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
