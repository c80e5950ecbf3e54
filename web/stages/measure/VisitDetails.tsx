import { useQuery } from "@tanstack/react-query";
import { SAFETY_CHECKLIST, type SafetyItem } from "#contract/documents/fieldTest.ts";
import { formatPercent } from "#contract/units/format.ts";
import { gradeApplies, type Pump, toleranceOf } from "#core/pump/pump.ts";
import { SAFETY_CHECKLIST_WORDS, safetyChecklistFor } from "#words/fieldTests.ts";
import { allPumpAssets } from "../../api/queries.ts";
import { Button } from "../../ui/Button.tsx";
import { PercentField, SelectField, TextField } from "../../ui/Fields.tsx";
import type { AboutVisit } from "./reading/readingDraft.ts";
import { SetupRows } from "./SetupRows.tsx";

/** Who measured, what was seen to, and what the parties agreed the pump may be short by. */
export function VisitDetails({
  about,
  pump,
  changes,
  units,
  onChange,
}: {
  about: AboutVisit;
  /** labels of the job's changes, for set-ups side by side */
  changes: readonly string[];
  /** which of the firm's pumps it was can be said */
  units: boolean;
  pump: Pump | undefined;
  onChange: (about: AboutVisit) => void;
}) {
  const ticked = about.cautions ?? [];
  const offered = safetyChecklistFor(pump?.drive);
  const set = (by: Partial<AboutVisit>) => onChange({ ...about, ...by });
  const tick = (caution: SafetyItem, done: boolean) =>
    set({
      cautions: SAFETY_CHECKLIST.filter((own) => (own === caution ? done : ticked.includes(own))),
    });
  const { limits } = about;
  const tolerance = pump && toleranceOf(pump);
  return (
    <details className="text-[15px]">
      <summary className="min-h-11 content-center text-soft">
        Seen to: {offered.filter((own) => ticked.includes(own)).length} of {offered.length}
        {about.by ? `, by ${about.by}` : ""}
        {limits
          ? `, limits ${formatPercent(limits.flow, 1)} and ${formatPercent(limits.head, 1)}`
          : ""}
      </summary>
      <div className="grid gap-2 pt-1">
        <ul className="grid gap-0.5">
          {offered.map((caution) => (
            <li key={caution}>
              <label className="target flex items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5 shrink-0 accent-(--water)"
                  checked={ticked.includes(caution)}
                  onChange={(event) => tick(caution, event.target.checked)}
                />
                {SAFETY_CHECKLIST_WORDS[caution]}
              </label>
            </li>
          ))}
        </ul>
        <div className="grid gap-2 sm:grid-cols-2">
          <TextField
            label="Who measured"
            value={about.by ?? ""}
            maxLength={80}
            onChange={(by) => set({ by })}
          />
          <TextField
            label="About the visit"
            value={about.note ?? ""}
            maxLength={500}
            onChange={(note) => set({ note })}
          />
        </div>
        {units && pump && <WhichUnit {...{ pump, about, onChange }} />}
        {pump && tolerance && (
          <div className="grid gap-1">
            {!gradeApplies(pump) && !limits && (
              <p className="text-[14px] font-medium">
                Under 1 kW no ISO 9906 grade applies: agree with the customer what may be missing.
              </p>
            )}
            {limits ? (
              <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
                <PercentField
                  label="Flow may be short by"
                  max={50}
                  value={limits.flow}
                  onChange={(flow) => set({ limits: { ...limits, flow } })}
                />
                <PercentField
                  label="Head may be short by"
                  max={50}
                  value={limits.head}
                  onChange={(head) => set({ limits: { ...limits, head } })}
                />
                <Button
                  onClick={() => {
                    const { limits: _, ...rest } = about;
                    onChange(rest);
                  }}
                >
                  Take the grade
                </Button>
              </div>
            ) : (
              <div>
                <Button onClick={() => set({ limits: tolerance })}>
                  Agree on limits of your own
                </Button>
              </div>
            )}
          </div>
        )}
        <SetupRows
          setups={about.setups ?? []}
          changes={changes}
          onChange={(setups) => set({ setups })}
        />
      </div>
    </details>
  );
}

/** Which real pump of this model it was, where the firm keeps any. */
function WhichUnit({
  pump,
  about,
  onChange,
}: {
  pump: Pump;
  about: AboutVisit;
  onChange: (about: AboutVisit) => void;
}) {
  const units = useQuery(allPumpAssets);
  const own = (units.data ?? []).filter(({ document }) => document.pumpId === pump.id);
  if (own.length === 0) return null;
  return (
    <SelectField
      label="Which pump of this model"
      visibleLabel
      value={about.unitId ?? ""}
      onChange={(unitId) => {
        const { unitId: _, ...rest } = about;
        onChange(unitId === "" ? rest : { ...rest, unitId });
      }}
    >
      <option value="">not said</option>
      {own.map(({ id, document }) => (
        <option key={id} value={id}>
          {document.serial ?? "no serial number"}
        </option>
      ))}
    </SelectField>
  );
}
