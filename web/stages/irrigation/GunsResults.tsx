import { format } from "#contract/units/format.ts";
import { findingWords } from "#words/findings.ts";
import { calibrationWords, groundOf, rateOf, sharedWords } from "#words/irrigation.ts";
import { itemName } from "#words/items.ts";
import { ThrowPlot } from "../../charts/ThrowPlot.tsx";
import { useUnits } from "../../state/settings.ts";
import { StatusMark } from "../../ui/StatusMark.tsx";
import { Figure } from "./Figure.tsx";
import type { ResultProps } from "./resultProps.ts";

/** Each gun of the line: how it throws at the pressure it has, and why. */
export function GunsResults({ job, told }: ResultProps) {
  const units = useUnits();
  const { guns, calibration, alone } = told;
  if (guns.length === 0) {
    return (
      <p className="text-soft">
        {told.line === "none"
          ? "The line cannot be solved as it stands: see what stops it beside. Then each gun’s pressure and throw stand here."
          : "No outlet of the line is a gun. Under Line, Outlet, say that the water leaves by a nozzle or gun."}
      </p>
    );
  }
  const [first] = guns;
  return (
    <div className="grid gap-4">
      {told.line === "asked" && (
        <p className="text-soft">
          No pump is chosen yet: the guns have what the wanted flow brings them.
        </p>
      )}
      <ul aria-label="Guns" className="grid gap-4">
        {guns.map(({ itemId, gun, pressure, flow, thrown, area, rate, finding }, i) => {
          const said = findingWords(finding, { system: units });
          return (
            <li key={itemId} className="grid gap-2 border-b border-rule pb-3">
              <p className="flex flex-wrap items-center gap-x-3">
                <StatusMark severity={finding.severity} />
                <span className="plate text-2xl">{said.title}</span>
                <span className="text-soft">
                  {guns.length > 1 && `Gun ${i + 1}, `}
                  {gun.model ?? itemName(job.path, itemId, units)}
                </span>
              </p>
              <p>{said.sentence}</p>
              <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3">
                <Figure
                  name="It throws"
                  value={thrown.kind === "throws" ? format(thrown.radius, "length", units) : "–"}
                  {...(thrown.kind === "throws" && { working: "throw", gun: i })}
                />
                <Figure name="At its base" value={format(pressure, "pressure", units)} />
                <Figure name="Through it" value={format(flow, "flow", units)} />
                {area !== undefined && (
                  <Figure
                    name="Wets, standing alone"
                    value={groundOf(area, units)}
                    working="wets"
                    gun={i}
                  />
                )}
                {rate !== undefined && (
                  <Figure
                    name="It rains there"
                    value={rateOf(rate, units)}
                    working="rate"
                    gun={i}
                  />
                )}
              </dl>
            </li>
          );
        })}
      </ul>
      {alone && first && guns.length > 1 && (
        <p>
          {sharedWords(
            guns.length,
            {
              pressure: first.pressure,
              ...(first.thrown.kind === "throws" && { radius: first.thrown.radius }),
            },
            alone,
            units,
          )}
        </p>
      )}
      {first && (
        <ThrowPlot
          gun={first.gun}
          calibration={calibration}
          guns={guns.filter((own) => JSON.stringify(own.gun) === JSON.stringify(first.gun))}
        />
      )}
      {calibration &&
        calibrationWords(calibration, (guns[0] as (typeof guns)[number]).gun, units).map((said) => (
          <p key={said}>{said}</p>
        ))}
      {told.otherNozzle > 0 && (
        <p>
          {told.otherNozzle === 1 ? "One throw was" : `${told.otherNozzle} throws were`} taken with
          another nozzle, and {told.otherNozzle === 1 ? "says" : "say"} nothing of this one.
        </p>
      )}
      <p className="text-[13px] text-soft">
        Guns tip over: pin the stand. Never look into a nozzle, and keep the jet off power lines and
        roads. Lay-flat whips when it fills or bursts: stand clear. Nothing that goes to drinking
        water without a device against backflow; local rules say which.
      </p>
    </div>
  );
}
