import { formatUncertain } from "#contract/units/format.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import type { Estimate } from "#core/measurement/instruments.ts";
import type { SetupsCompared } from "#model/measurement/sideBySide.ts";
import { RATIO_OF, ratioWords } from "#words/fieldTests.ts";
import { useUnits } from "../../state/settings.ts";

const QUANTITY = { flow: "flow", pressure: "pressure", throw: "length" } as const;

/** Two set-ups measured at one place: what the second is of the first, and what it should be. */
export function SideBySideCard({ compared }: { compared: SetupsCompared }) {
  const units = useUnits();
  const { first, second, rows } = compared;
  const say = ({ value, standardUncertainty }: Estimate, of: keyof typeof QUANTITY) =>
    formatUncertain(value, COVERAGE * standardUncertainty, QUANTITY[of], units);
  return (
    <article aria-label={`${second} beside ${first}`}>
      <p className="plate text-2xl leading-tight">
        {second} beside {first}
      </p>
      {rows.map((row) => (
        <div key={row.of} className="mt-1">
          <p className="font-medium">{ratioWords(row, second)}</p>
          <p className="text-[14px] text-soft">
            {RATIO_OF[row.of]}: {say(row.first, row.of)}, then {say(row.second, row.of)}
          </p>
        </div>
      ))}
    </article>
  );
}
