import type { TankDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { GALLON } from "#core/quantity/constants.ts";
import { PRE_CHARGE_UNDER, type PreChargeMethod } from "#core/well/pressureTank.ts";
import type { AtUse, MethodResult } from "#model/well/tank.ts";
import { tankOf, valveOf } from "#model/well/usual.ts";
import { litres, spell } from "#words/well.ts";
import { StartsPlot } from "../../charts/StartsPlot.tsx";
import { AllFound } from "../../findings/Found.tsx";
import { Usual } from "../../jobFields/Usual.tsx";
import { useUnits } from "../../state/settings.ts";
import { SelectField } from "../../ui/Fields.tsx";
import { setTank } from "./edits.ts";
import { Figure } from "./Figure.tsx";
import type { FieldProps, ResultProps } from "./props.ts";

const SCHOOLS: Record<PreChargeMethod, { us: string; metric: string }> = {
  "2-psi-under": { us: "2 psi under, common pump", metric: "14 kPa under, common pump" },
  "5-psi-under": { us: "5 psi under, soft start", metric: "34 kPa under, soft start" },
};

/** The tank, its switch, and the valve that could hold its pressure. */
export function TankFields({ job }: FieldProps) {
  const units = useUnits();
  const given = job.pressureTank ?? {};
  const tank = tankOf(given);
  const { valve = {} } = given;
  const usual = valveOf({ ...given, valve: {} }, job.pumps[0]?.leastFlow);
  const pressure = { quantity: "pressure" as const, range: RANGES.outletPressure };
  const setValve = (patch: { [K in keyof typeof valve]?: (typeof valve)[K] | undefined }) => {
    const next = Object.fromEntries(
      Object.entries({ ...valve, ...patch }).filter(([, value]) => value !== undefined),
    );
    setTank({ valve: Object.keys(next).length > 0 ? (next as TankDocument["valve"]) : undefined });
  };
  return (
    <div className="grid gap-4">
      <section aria-label="Tank and switch" className="grid grid-cols-2 items-end gap-2">
        <Usual
          label="Tank"
          quantity="volume"
          range={RANGES.volume}
          usual={tank.volume}
          value={given.volume}
          onChange={(volume) => setTank({ volume })}
        />
        <Usual
          {...pressure}
          label="Its air, empty"
          usual={tank.preCharge}
          value={given.preCharge}
          onChange={(preCharge) => setTank({ preCharge })}
        />
        <Usual
          {...pressure}
          label="Cut-in"
          usual={tank.cutIn}
          value={given.cutIn}
          onChange={(cutIn) => setTank({ cutIn })}
        />
        <Usual
          {...pressure}
          label="Cut-out"
          usual={tank.cutOut}
          value={given.cutOut}
          onChange={(cutOut) => setTank({ cutOut })}
        />
        <SelectField
          className="col-span-2"
          label="Air below the cut-in"
          visibleLabel
          value={tank.school}
          onChange={(school) => setTank({ school: school as PreChargeMethod })}
        >
          {(Object.keys(PRE_CHARGE_UNDER) as PreChargeMethod[]).map((school) => (
            <option key={school} value={school}>
              {SCHOOLS[school][units]}
            </option>
          ))}
        </SelectField>
      </section>
      <section aria-label="Throttle valve" className="grid grid-cols-2 items-end gap-2">
        <h2 className="col-span-2 text-xl">Valve that holds the pressure</h2>
        <Usual
          {...pressure}
          label="Holds"
          usual={usual.valve.pressure}
          value={valve.pressure}
          onChange={(value) => setValve({ pressure: value })}
        />
        <Usual
          label="Always lets through"
          quantity="flow"
          range={RANGES.flow}
          usual={usual.valve.leastFlow}
          value={valve.leastFlow}
          onChange={(leastFlow) => setValve({ leastFlow })}
        />
        <Usual
          label="Tank behind it"
          quantity="volume"
          range={RANGES.volume}
          usual={usual.tank.volume}
          value={valve.volume}
          onChange={(volume) => setValve({ volume })}
        />
      </section>
      <p className="text-[14px]">
        Air is set with the tank empty of water and the power locked off; a tank under pressure
        bites. A relief valve on the line, and a connection to drinking water, belong to a licensed
        plumber.
      </p>
    </div>
  );
}

/** What the tank gives, how often the pump starts over all use, and the valve's school beside it. */
export function TankResults({ told }: ResultProps) {
  const units = useUnits();
  const { tank: own } = told;
  const { switched, valved, schools, tank, startsLimit } = own;
  return (
    <div className="grid gap-4">
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3" data-testid="tank-figures">
        <Figure
          name="The tank gives"
          value={litres(
            switched?.gives ?? schools.find(({ school }) => school === tank.school)?.gives ?? 0,
            units,
          )}
          note={`of ${litres(tank.volume, units)}, from cut-out to cut-in`}
          working="tank"
        />
        {switched?.shortest !== undefined && (
          <Figure
            name="Runs at the least"
            value={spell(switched.shortest)}
            note="cut-in to cut-out, nothing drawn, wet season"
          />
        )}
        {switched?.worst && (
          <Figure
            name="Starts, at the most"
            value={`${switched.worst.startsPerHour.toFixed(0)} an hour`}
            note={
              startsLimit === undefined ? "its plate does not say" : `${startsLimit} by its plate`
            }
            working="starts"
          />
        )}
        {own.forMinute !== undefined && (
          <Figure
            name="For a minute’s run"
            value={litres(own.forMinute, units)}
            note="of tank"
            working="minute"
          />
        )}
      </dl>
      <AllFound of="tank" among={told.findings} />
      <p className="text-[15px]">
        By either school of air:{" "}
        {schools
          .map(
            ({ school, preCharge, gives }) =>
              `air at ${format(preCharge, "pressure", units)} (${SCHOOLS[school][units]}): ${litres(gives, units)}`,
          )
          .join("; ")}
        .
      </p>
      {switched && valved && (
        <>
          <StartsPlot
            curves={[
              { name: "switch alone", starts: switched.starts },
              { name: "with the valve", starts: valved.starts },
            ]}
            limit={startsLimit}
          />
          <Schools {...{ switched, valved }} />
          <AllFound of="valve" among={told.findings} />
          <p className="text-[13px] text-soft">
            The valve lets a tank of {litres(valved.tank.volume, units)} do and the motor take less,
            and keeps the drop pipe under the pump’s pressure all the while. It closes over{" "}
            {units === "us" ? "3 psi" : "21 kPa"} (common practice, no source). Energy is what the
            pump takes for what is drawn: behind a valve it turns the rest into heat.
          </p>
        </>
      )}
    </div>
  );
}

/** The two schools side by side, at four uses. */
function Schools({ switched, valved }: { switched: MethodResult; valved: MethodResult }) {
  const units = useUnits();
  const cell = (at: AtUse) => ({
    pipe: format(at.pipe, "pressure", units),
    current: at.current === undefined ? "–" : `${at.current.toFixed(1)} A`,
    energy:
      at.perVolume === undefined
        ? "–"
        : units === "us"
          ? `${((at.perVolume * GALLON * 1000) / 3.6e6).toFixed(2)}`
          : `${(at.perVolume / 3.6e6).toFixed(2)}`,
  });
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left text-[15px]" data-testid="schools">
        <caption className="sr-only">Switch alone and valve, while water is drawn</caption>
        <thead>
          <tr className="text-[13px] text-soft">
            <td />
            <th scope="colgroup" colSpan={3} className="px-1.5 font-normal">
              Switch alone
            </th>
            <th scope="colgroup" colSpan={3} className="border-l border-rule px-1.5 font-normal">
              With the valve
            </th>
          </tr>
          <tr className="text-[13px] text-soft">
            <th scope="col" className="px-1.5 pb-1 font-normal">
              Drawn
            </th>
            {["switch", "valve"].flatMap((school) =>
              ["in the pipe", "takes", units === "us" ? "kWh/1000 gal" : "kWh/m³"].map(
                (name, k) => (
                  <th
                    key={`${school} ${name}`}
                    scope="col"
                    className={`px-1.5 pb-1 font-normal ${school === "valve" && k === 0 ? "border-l border-rule" : ""}`}
                  >
                    {name}
                  </th>
                ),
              ),
            )}
          </tr>
        </thead>
        <tbody>
          {switched.at.map((row, i) => {
            const a = cell(row);
            const b = cell(valved.at[i] as AtUse);
            return (
              <tr key={row.use} className="border-t border-rule">
                <th scope="row" className="px-1.5 py-1 font-normal whitespace-nowrap">
                  {format(row.use, "flow", units)}
                </th>
                <td className="px-1.5">{a.pipe}</td>
                <td className="px-1.5">{a.current}</td>
                <td className="px-1.5">{a.energy}</td>
                <td className="plate border-l border-rule px-1.5">{b.pipe}</td>
                <td className="plate px-1.5">{b.current}</td>
                <td className="plate px-1.5">{b.energy}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
