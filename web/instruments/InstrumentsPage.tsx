import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Stored } from "#contract/api/api.ts";
import {
  type FirmDocument,
  firmVersions,
  INSTRUMENT_KINDS,
  type InstrumentKind,
} from "#contract/documents/firm.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { newId } from "../api/client.ts";
import { FIRM, theFirm } from "../api/queries.ts";
import { BroughtBack } from "../editing/BroughtBack.tsx";
import { EditedTwice } from "../editing/EditedTwice.tsx";
import { useEditing } from "../editing/useEditing.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { PercentField, SelectField, TextField } from "../ui/Fields.tsx";
import { Trash2 } from "../ui/icons.ts";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";
import { useRefused } from "../ui/refusals.ts";
import { toast } from "../ui/toast.ts";

type Instrument = NonNullable<FirmDocument["instruments"]>[number];

const KINDS: Record<
  InstrumentKind,
  { name: string; tolerance: string; usual: Partial<Instrument> }
> = {
  gauge: {
    name: "Pressure gauge",
    tolerance: "Class, of full scale",
    usual: { fullScale: 600_000, tolerance: 0.016 },
  },
  bucket: { name: "Bucket or drum", tolerance: "Mark ±", usual: { volume: 0.02, tolerance: 0.02 } },
  "flow-meter": { name: "Flow meter", tolerance: "Reading ±", usual: { tolerance: 0.02 } },
  "clamp-meter": { name: "Clamp meter", tolerance: "Reading ±", usual: { tolerance: 0.02 } },
  "power-meter": { name: "Power meter", tolerance: "Reading ±", usual: { tolerance: 0.03 } },
  tachometer: { name: "Tachometer", tolerance: "Reading ±", usual: { tolerance: 0.01 } },
  tape: { name: "Tape or rule", tolerance: "Reading ±", usual: { tolerance: 0.002 } },
  watch: { name: "Watch", tolerance: "Reading ±", usual: { tolerance: 0.001 } },
};

/** The instruments the firm owns, each once, with its range, class and last check. */
export default function InstrumentsPage() {
  const firm = useQuery(theFirm);
  if (firm.isError) return <Trouble error={firm.error} onRetry={() => void firm.refetch()} />;
  if (firm.data === undefined) return <Loading what="the instruments" />;
  return <Instruments stored={firm.data ?? undefined} />;
}

const NONE: FirmDocument = { format: firmVersions.format, version: firmVersions.version };

function Instruments({ stored }: { stored: Stored<FirmDocument> | undefined }) {
  const client = useQueryClient();
  const [saving, setSaving] = useState(false);
  const refused = useRefused();
  const editing = useEditing({
    ...{ collection: "firms", id: FIRM, stored },
    begun: stored?.document ?? NONE,
  });
  const own = editing.value.instruments ?? [];
  const setOwn = (next: (all: Instrument[]) => Instrument[]) =>
    editing.change((firm) => ({ ...firm, instruments: next([...(firm.instruments ?? [])]) }));
  const set = (i: number, by: Partial<Instrument>) =>
    setOwn((all) => all.map((one, k) => (k === i ? { ...one, ...by } : one)));
  const unnamed = own.some(({ name }) => name.trim() === "");

  async function save(document: FirmDocument, onto?: Stored<FirmDocument>): Promise<void> {
    setSaving(true);
    try {
      if (await editing.save(document, onto)) toast("Instruments saved.");
    } catch (error) {
      toast.error(`Not saved: ${(error as Error).message} What you typed is kept on this device.`);
    } finally {
      setSaving(false);
      await client.invalidateQueries({ queryKey: theFirm.queryKey });
    }
  }

  return (
    <div className="mx-auto grid h-full max-w-5xl content-start gap-4 overflow-y-auto p-4">
      <div className="flex flex-wrap items-end justify-between gap-2">
        <div>
          <h1 className="text-3xl">Instruments</h1>
          <p className="text-soft">
            Kept once and picked at each reading: how good an instrument is goes into every answer.
          </p>
        </div>
        <Button
          look="strong"
          disabled={!editing.changed || unnamed || saving || refused !== undefined}
          onClick={() => void save(editing.value)}
        >
          Save
        </Button>
      </div>
      {refused && <p className="text-[14px] text-signal">{refused}</p>}
      <BroughtBack editing={editing} />
      <EditedTwice editing={editing} onKeep={(both, onto) => void save(both, onto)} />
      {own.length === 0 && (
        <p className="text-soft">None yet. Begin with the gauge and the bucket.</p>
      )}
      <ul className="grid gap-3">
        {own.map((one, i) => {
          const kind = KINDS[one.kind];
          return (
            <li
              key={one.id}
              aria-label={one.name || kind.name}
              className="grid items-end gap-2 border-t border-rule pt-3 sm:grid-cols-[1.4fr_1.1fr_1fr_1fr_1fr_auto]"
            >
              <TextField
                label="What you call it"
                required
                maxLength={80}
                value={one.name}
                onChange={(name) => set(i, { name })}
              />
              <SelectField
                label="Kind"
                visibleLabel
                value={one.kind}
                onChange={(next) => {
                  const { id, name, checkedOn, checkNote } = one;
                  const fresh = {
                    id,
                    name,
                    kind: next as InstrumentKind,
                    ...KINDS[next as InstrumentKind].usual,
                  };
                  setOwn((all) =>
                    all.with(i, {
                      ...fresh,
                      ...(checkedOn && { checkedOn }),
                      ...(checkNote && { checkNote }),
                    }),
                  );
                }}
              >
                {INSTRUMENT_KINDS.map((value) => (
                  <option key={value} value={value}>
                    {KINDS[value].name}
                  </option>
                ))}
              </SelectField>
              {one.kind === "gauge" ? (
                <QuantityField
                  label="Full scale"
                  quantity="pressure"
                  range={RANGES.fullScale}
                  value={one.fullScale}
                  onChange={(fullScale) => set(i, { fullScale })}
                />
              ) : one.kind === "bucket" ? (
                <QuantityField
                  label="Holds"
                  quantity="volume"
                  range={RANGES.volume}
                  value={one.volume}
                  onChange={(volume) => set(i, { volume })}
                />
              ) : one.kind === "flow-meter" ? (
                <QuantityField
                  label="Reads up to"
                  optional
                  quantity="flow"
                  range={RANGES.flow}
                  value={one.greatestFlow}
                  onChange={(greatestFlow) =>
                    setOwn((all) =>
                      all.map((each, k) => {
                        if (k !== i) return each;
                        const { greatestFlow: _, ...rest } = each;
                        return greatestFlow === undefined ? rest : { ...rest, greatestFlow };
                      }),
                    )
                  }
                />
              ) : (
                <span aria-hidden className="max-sm:hidden" />
              )}
              <PercentField
                label={kind.tolerance}
                max={50}
                value={one.tolerance ?? 0.02}
                onChange={(tolerance) => set(i, { tolerance })}
              />
              <TextField
                label="Last checked"
                type="date"
                value={one.checkedOn ?? ""}
                onChange={(checkedOn) =>
                  setOwn((all) =>
                    all.map((each, k) => {
                      if (k !== i) return each;
                      const { checkedOn: _, ...rest } = each;
                      return checkedOn === "" ? rest : { ...rest, checkedOn };
                    }),
                  )
                }
              />
              <IconButton
                label={`Take ${one.name || "this instrument"} out`}
                onClick={() => setOwn((all) => all.toSpliced(i, 1))}
              >
                <Trash2 size={17} aria-hidden />
              </IconButton>
            </li>
          );
        })}
      </ul>
      <div className="flex flex-wrap gap-2">
        {(["gauge", "bucket", "flow-meter", "clamp-meter"] as const).map((kind) => (
          <Button
            key={kind}
            onClick={() =>
              setOwn((all) => [...all, { id: newId(), name: "", kind, ...KINDS[kind].usual }])
            }
          >
            Add a {KINDS[kind].name.toLowerCase()}
          </Button>
        ))}
      </div>
      <p className="text-[13px] text-soft">
        Class and ± are half-widths: a gauge of class 1.6 is within 1.6 % of its full scale. Hold
        each against something better now and then, and note the day.
      </p>
    </div>
  );
}
