import type { FieldDocument, JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatPercent, formatUncertain, withUncertainty } from "#contract/units/format.ts";
import { findingsIn } from "#core/finding/registry.ts";
import { jetBore } from "#core/outlet/gun.ts";
import { INCH } from "#core/quantity/constants.ts";
import { FLOW_UNCERTAINTY, GAUGE_UNCERTAINTY } from "#model/irrigation/usual.ts";
import { doubtfulPercent } from "#words/fieldTests.ts";
import { halvingWords, headFactorWords, STOOD, togetherWords } from "#words/irrigation.ts";
import { Found } from "../../findings/Found.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { Usual } from "../../jobFields/Usual.tsx";
import { without } from "../../lib/without.ts";
import { visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { PercentField, SelectField } from "../../ui/Fields.tsx";
import { setIn } from "./field.ts";
import type { ResultProps } from "./resultProps.ts";

/** What readings at the guns say of nozzles, pressure and pump, each with what would make it surer. */
export function ReadResults({ told }: ResultProps) {
  const units = useUnits();
  const { nozzles, expectedArea, fromThrow, headFactors, together, offCurve, outsideWindow } =
    told.read;
  const [gun] = told.guns;
  const nothing =
    !nozzles && !fromThrow.one && !fromThrow.two && !headFactors.one && !headFactors.two;
  if (nothing && offCurve.length === 0 && outsideWindow.length === 0) {
    return (
      <p className="text-soft">
        Type what was read at the gun: flow and pressure give its nozzles, a pressure or a throw
        with one gun and then with two gives the pump’s real headFactors.
      </p>
    );
  }
  return (
    <div className="grid gap-4">
      {nozzles && (
        <Deduced title="Nozzles" next={halvingWords(nozzles.halving)}>
          <p>
            Flow and pressure want {area(nozzles.value, 2 * nozzles.standardUncertainty, units)} of
            nozzle, its coefficient in it.
            {expectedArea !== undefined &&
              gun &&
              ` The line has ${area(expectedArea, 0, units)}: what was read is ${doubtfulPercent({
                value: nozzles.value / expectedArea,
                standardUncertainty: nozzles.standardUncertainty / expectedArea,
              })} of it${
                Math.abs(nozzles.value - expectedArea) <= 2 * nozzles.standardUncertainty
                  ? ", the same within the doubt."
                  : nozzles.value > expectedArea
                    ? `: worn or larger, as one nozzle of ${format(
                        jetBore({ type: "nozzle", ...gun.gun }) *
                          Math.sqrt(nozzles.value / expectedArea),
                        "diameter",
                        units,
                      )}.`
                    : ": smaller than typed, or partly blocked."
              }`}
          </p>
        </Deduced>
      )}
      {(["one", "two"] as const).map((stood) => {
        const found = fromThrow[stood];
        return (
          found && (
            <Deduced
              key={stood}
              title={`Pressure from the throw, ${STOOD[stood].toLowerCase()}`}
              next={halvingWords(found.halving)}
            >
              <p>
                {formatUncertain(found.value, 2 * found.standardUncertainty, "pressure", units)} at
                its base. The throw goes with the root of the pressure, so the doubt of the throw
                counts twice.
              </p>
            </Deduced>
          )
        );
      })}
      {outsideWindow.flatMap((stood) =>
        findingsIn("worked-back", { stood }).map((own) => <Found key={stood} finding={own} />),
      )}
      {(headFactors.one || headFactors.two || offCurve.length > 0) && (
        <Deduced
          title="The pump"
          next={halvingWords(
            together?.halving ?? headFactors.one?.halving ?? headFactors.two?.halving,
          )}
        >
          {headFactors.one && <p>{headFactorWords(headFactors.one, units)}</p>}
          {headFactors.two && <p>{headFactorWords(headFactors.two, units)}</p>}
          {together && <p className="font-medium">{togetherWords(together)}</p>}
          {offCurve.map((stood) => (
            <p key={stood}>
              {STOOD[stood]}: that pressure lies off the pump’s published curve on this line. Check
              the gauge, the nozzle typed, and the hoses.
            </p>
          ))}
          {headFactors.two && told.guns.length < 2 && (
            <p className="text-[14px] text-soft">
              The second gun is taken as one like the first, on a tee and 20 m of the same hose.
            </p>
          )}
          <p className="text-[13px] text-soft">
            The line’s loss is taken as known to ±10 % and nozzles to ±3 %, one standard deviation
            (common practice, no source).
          </p>
        </Deduced>
      )}
    </div>
  );
}

/** cm² or in², a nozzle's measure. */
function area(si: number, doubt: number, units: "us" | "metric"): string {
  const [unit, symbol] = units === "us" ? [INCH ** 2, "in²"] : [1e-6, "mm²"];
  const decimals = units === "us" ? 3 : 0;
  const value = si / unit;
  return `${doubt > 0 ? withUncertainty(value, doubt / unit, decimals) : value.toFixed(decimals)} ${symbol}`;
}

function Deduced({
  title,
  next,
  children,
}: {
  title: string;
  next: string | undefined;
  children: React.ReactNode;
}) {
  return (
    <section aria-label={title} className="grid gap-1 border-b border-rule pb-3">
      <h2 className="plate text-2xl">{title}</h2>
      {children}
      {next && <p className="text-[14px]">{next}</p>}
    </section>
  );
}

export function ReadFields({ field }: { job: JobDocument; field: FieldDocument }) {
  const read = field.read ?? {};
  const set = (patch: Parameters<typeof setIn<"read">>[1]) => setIn("read", patch);
  return (
    <div className="grid gap-4">
      <section aria-label="One gun, flow and pressure" className="grid gap-2">
        <h2 className="text-xl">Flow and pressure</h2>
        <div className="grid grid-cols-2 items-end gap-2">
          <JobQuantity
            label="Flow of one gun"
            optional
            quantity="flow"
            range={RANGES.flow}
            value={read.flow}
            onChange={(flow) => set({ flow })}
          />
          <JobQuantity
            label="At its base"
            optional
            quantity="pressure"
            range={RANGES.emitterPressure}
            value={read.pressure}
            onChange={(pressure) => set({ pressure })}
          />
          <PercentField
            label={read.flowDoubt === undefined ? "Flow is within (assumed)" : "Flow is within"}
            max={50}
            value={read.flowDoubt ?? FLOW_UNCERTAINTY}
            onVisit={visit}
            onChange={(flowDoubt) => set({ flowDoubt })}
          />
          <Usual
            label="The gauge is within"
            quantity="pressure"
            range={RANGES.emitterPressure}
            usual={GAUGE_UNCERTAINTY}
            value={read.pressureDoubt}
            onChange={(pressureDoubt) => set({ pressureDoubt })}
          />
        </div>
      </section>
      {(["one", "two"] as const).map((stood) => {
        const own = read[stood] ?? {};
        const change = (patch: Partial<typeof own>) => {
          const next = without({ ...own, ...patch });
          set({
            [stood]: next.pressure === undefined && next.radius === undefined ? undefined : next,
          });
        };
        return (
          <section key={stood} aria-label={STOOD[stood]} className="grid gap-2">
            <h2 className="text-xl">{STOOD[stood]}</h2>
            <div className="grid grid-cols-2 items-end gap-2">
              <JobQuantity
                label="Pressure at the first"
                optional
                quantity="pressure"
                range={RANGES.emitterPressure}
                value={own.pressure}
                onChange={(pressure) => change({ pressure })}
              />
              {own.pressure === undefined && (
                <JobQuantity
                  label="or it throws"
                  optional
                  quantity="length"
                  range={RANGES.throw}
                  value={own.radius}
                  onChange={(radius) => change({ radius })}
                />
              )}
              {own.pressure === undefined && own.radius !== undefined && (
                <SelectField
                  label="Taken by"
                  visibleLabel
                  value={own.by ?? "tape"}
                  onChange={(by) => change({ by: by as "tape" | "paces" })}
                >
                  <option value="tape">Tape</option>
                  <option value="paces">Paces</option>
                </SelectField>
              )}
            </div>
          </section>
        );
      })}
      <p className="text-[13px] text-soft">
        Same engine speed for all of them. The largest doubt of each answer is named with it
        {read.flowDoubt === undefined
          ? `; a flow by bucket is taken as ± ${formatPercent(FLOW_UNCERTAINTY)}`
          : ""}
        .
      </p>
    </div>
  );
}
