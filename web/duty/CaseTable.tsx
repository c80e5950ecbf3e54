import { format } from "#contract/units/format.ts";
import { WATER_LEVELS, type WaterLevel } from "#core/fluid/levels.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { SolvedCase } from "#core/hydraulics/solveLine.ts";
import type { Source } from "#core/line/path.ts";
import { waterOf } from "#words/items.ts";
import { useUnits } from "../state/settings.ts";
import { Worked } from "./Figures.tsx";

/** Why there is no duty, in a word. */
export const NO_DUTY = {
  runs: "",
  "two-crossings": "",
  "cannot-lift": "Moves no water",
  "below-curve": "Off its curve",
  "beyond-curve": "Past its curve",
  stopped: "Off",
} as const;

/**
 * Head and flow at each level of the water.
 * @param asked the flow is given, and only the head it takes is told
 */
export function CaseTable({
  cases,
  source,
  asked = false,
}: {
  cases: Record<WaterLevel, SolvedCase>;
  source: Source;
  asked?: boolean;
}) {
  const units = useUnits();
  const names = waterOf(source);
  return (
    <table className="mx-3 mb-1 text-[14px]">
      <thead className="text-left text-[13px] text-soft">
        <tr>
          <th className="font-normal">At</th>
          <th className="text-right font-normal">Static</th>
          <th className="text-right font-normal">{asked ? "Head it takes" : "Head"}</th>
          {!asked && <th className="text-right font-normal">At the outlet</th>}
        </tr>
      </thead>
      <tbody>
        {WATER_LEVELS.map((name) => {
          const { outcome, staticHead, running } = cases[name];
          const duty = settledDuty(outcome);
          return (
            <tr key={name} className="border-t border-rule">
              <th className="text-left font-normal">{names[name]}</th>
              <td className="text-right">
                <Worked subject="static" at={name}>
                  {format(staticHead, "head", units)}
                </Worked>
              </td>
              <td className="text-right">
                {duty ? (
                  <Worked subject="head" at={name}>
                    {format(duty.head, "head", units)}
                  </Worked>
                ) : (
                  "–"
                )}
              </td>
              {!asked && (
                <td className="text-right font-medium">
                  {duty ? (
                    <Worked subject="delivered" at={name}>
                      {format(running?.state.delivered ?? duty.flow, "flow", units)}
                    </Worked>
                  ) : (
                    NO_DUTY[outcome.kind]
                  )}
                </td>
              )}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
