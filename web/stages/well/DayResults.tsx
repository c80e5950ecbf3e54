import { useState } from "react";
import { format, formatPercent } from "#contract/units/format.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import { WEAK_TAP } from "#core/finding/well.ts";
import type { MethodDay } from "#model/well/day.ts";
import { amountOf } from "#words/simulation.ts";
import { clock, spell } from "#words/well.ts";
import { AllFound, Found } from "../../findings/Found.tsx";
import { useResult } from "../../openJob/useResult.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { Loading, NotWorkedOut } from "../../ui/Notices.tsx";
import { StatusMark } from "../../ui/StatusMark.tsx";
import type { ResultProps } from "./props.ts";
import { TankStrip } from "./TankStrip.tsx";

/** A day, or a week, of pressure, water level and starts by either school. */
export function DayResults({ job, told }: ResultProps) {
  const units = useUnits();
  const { value: day, kind, error, again, stale } = useResult("wellDay", { job });
  const [school, setSchool] = useState<"switched" | "valved">("switched");
  if (kind === "failed") return <NotWorkedOut {...{ error, again }} />;
  if (!day) return <Loading what="the day" />;
  const { switched, valved } = day;
  const own = school === "switched" ? switched : valved;
  const per = day.days === 1 ? "a day" : "a week";
  if (!switched || !valved || !own) {
    const { noWater = false, draws, volume } = day;
    return findingsIn("well-day", { noWater, runs: false, draws, volume }).map((own) => (
      <Found key={own.code} finding={own} />
    ));
  }
  return (
    <div className={`grid gap-4 ${stale ? "opacity-60" : ""}`} aria-busy={stale}>
      <p className="text-[15px]">
        {day.draws} draws, {amountOf(day.volume, units)} a day
        {day.countAssumed &&
          ` (${day.count} ${day.use === "house" ? "heads" : "plots"} assumed; what each draws is common practice, no source)`}
        ; dry season.
      </p>
      <div role="group" aria-label="School" className="flex">
        {(["switched", "valved"] as const).map((each) => (
          <Button
            key={each}
            look={school === each ? "strong" : "plain"}
            aria-pressed={school === each}
            className="rounded-none first:rounded-l last:rounded-r"
            onClick={() => setSchool(each)}
          >
            {each === "switched" ? "Switch alone" : "With the valve"}
          </Button>
        ))}
      </div>
      <TankStrip
        {...{ job, told, run: own.run, taps: own.taps, days: day.days }}
        tank={(school === "valved" && told.tank.valved?.tank) || told.tank.tank}
      />
      <AllFound of="draws" among={own.findings} />
      <Both {...{ switched, valved, per }} lifting={day.lifting} />
      <Taps taps={own.taps} />
    </div>
  );
}

/** Both schools on the same days. */
function Both({
  switched,
  valved,
  per,
  lifting,
}: {
  switched: MethodDay;
  valved: MethodDay;
  per: string;
  /** J of the pump in the well, beside a booster's */
  lifting: number | undefined;
}) {
  const units = useUnits();
  const row = (name: string, of: (own: MethodDay) => string) => (
    <tr className="border-t border-rule">
      <th scope="row" className="py-1 pr-2 font-normal">
        {name}
      </th>
      <td className="plate pr-3 text-[17px]">{of(switched)}</td>
      <td className="plate text-[17px]">{of(valved)}</td>
    </tr>
  );
  return (
    <table className="w-full max-w-160 border-collapse text-left text-[15px]" data-testid="both">
      <caption className="sr-only">Both schools on the same draws</caption>
      <thead>
        <tr className="text-[13px] text-soft">
          <td />
          <th scope="col" className="font-normal">
            Switch alone
          </th>
          <th scope="col" className="font-normal">
            With the valve
          </th>
        </tr>
      </thead>
      <tbody>
        {row(`Starts ${per}`, ({ run }) => String(run.starts))}
        {row("Most within an hour", ({ run }) => String(run.worstHour))}
        {row("Shortest run", ({ run }) =>
          run.shortestRun === undefined ? "–" : spell(run.shortestRun),
        )}
        {row(`Runs ${per}`, ({ run }) => spell(run.runTime))}
        {row(`Energy ${per}`, ({ run }) =>
          run.energy === undefined ? "not published" : format(run.energy, "energy", units),
        )}
        {lifting !== undefined &&
          row("and the pump in the well", () => format(lifting, "energy", units))}
        {row("Tank, least to most", ({ run }) => {
          const least = run.pressure.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
          const most = run.pressure.reduce((a, b) => Math.max(a, b), 0);
          return `${format(least, "pressure", units).replace(/ .*/, "")} to ${format(most, "pressure", units)}`;
        })}
        {row("Did not come", ({ run }) =>
          run.short > 0
            ? `${amountOf(run.short, units)}, ${formatPercent(run.short / run.wanted)}`
            : "nothing",
        )}
      </tbody>
    </table>
  );
}

const tapFinding = (least: number) => findingsIn("tap", { least })[0] as FindingIn<"tap">;

function Taps({ taps }: { taps: MethodDay["taps"] }) {
  const units = useUnits();
  if (taps.length === 0) {
    return (
      <p className="text-[14px] text-soft">
        Give it taps, each with its branch and height: then the pressure at each stands here.
      </p>
    );
  }
  return (
    <section aria-label="Pressure at the taps" className="grid gap-1">
      <h2 className="text-xl">Pressure at the taps</h2>
      <table className="w-full border-collapse text-left text-[15px]" data-testid="taps">
        <caption className="sr-only">Each tap while it draws</caption>
        <tbody>
          {taps.map(({ name, flow, least, most, at }, i) => (
            <tr key={i} className="border-t border-rule">
              <th scope="row" className="py-1 pr-2 font-normal">
                {name}, {format(flow, "flow", units)}
              </th>
              {least === undefined || most === undefined ? (
                <td colSpan={2} className="text-soft">
                  never drawn from
                </td>
              ) : (
                <>
                  <td className="plate pr-2 text-[17px]">
                    {least <= 0
                      ? "so much does not come"
                      : `${format(least, "pressure", units).replace(/ .*/, "")} to ${format(most, "pressure", units)}`}
                  </td>
                  <td>
                    <span className="flex flex-wrap items-center gap-1.5">
                      <StatusMark severity={tapFinding(least).severity} />
                      <span className="text-[13px] text-soft">
                        {at === undefined ? "" : `least at ${clock(at)}`}
                      </span>
                    </span>
                  </td>
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-[13px] text-soft">
        With all that draws at the same time in the shared pipe. Under{" "}
        {format(WEAK_TAP, "pressure", units)} people complain (common practice, no source).
      </p>
    </section>
  );
}
