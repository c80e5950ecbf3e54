import { useState } from "react";
import { merge, type Touched } from "#contract/documents/merge.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { Quantity, UnitSystem } from "#contract/units/units.ts";
import { PLATE_FIELDS } from "#model/import/pumpTable/fields.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";

type Side = "mine" | "theirs";

/**
 * Two changes of one document side by side, where both changed the same: for each such field one of the two is kept.
 * What only one of them changed is kept anyway.
 */
export function TwoVersions<T>({
  base,
  mine,
  theirs,
  onKeep,
}: {
  base: unknown;
  mine: T;
  theirs: T;
  onKeep: (document: T) => void;
}) {
  const units = useUnits();
  const [kept, setKept] = useState<Record<string, Side>>({});
  const keyOf = (path: readonly string[]) => path.join("/");
  const { document, both } = merge(base, mine, theirs, (path) => kept[keyOf(path)] ?? "mine");
  return (
    <div className="grid gap-3">
      {both.length === 0 ? (
        <p>The two changed different things: both can be kept.</p>
      ) : (
        <>
          <p>What both changed; all else of both is kept.</p>
          <ul className="grid gap-2">
            {both.map((touched) => {
              const key = keyOf(touched.path);
              const name = fieldName(touched, mine, theirs);
              return (
                <li key={key}>
                  <fieldset className="grid grid-cols-2 gap-x-3 gap-y-1">
                    <legend className="font-medium">{name}</legend>
                    {(["mine", "theirs"] as const).map((side) => (
                      <label
                        key={side}
                        className="target flex items-center gap-2 rounded border border-rule bg-sheet px-2"
                      >
                        <input
                          type="radio"
                          name={key}
                          checked={(kept[key] ?? "mine") === side}
                          onChange={() => setKept((before) => ({ ...before, [key]: side }))}
                        />
                        <span className="min-w-0 break-words">
                          {side === "mine" ? "Mine" : "The other"}:{" "}
                          <strong>{said(touched, touched[side], units)}</strong>
                        </span>
                      </label>
                    ))}
                  </fieldset>
                </li>
              );
            })}
          </ul>
        </>
      )}
      <Button look="strong" className="justify-self-start" onClick={() => onKeep(document)}>
        {both.length === 0 ? "Keep both" : "Keep it so"}
      </Button>
    </div>
  );
}

/** A field by its name, with that of the entry it stands in. */
function fieldName({ path }: Touched, ...documents: unknown[]): string {
  const words = path.flatMap((key, i) => {
    const entry = documents.map((own) => at(own, path.slice(0, i + 1))).find(hasName);
    if (entry) return [String(entry.name ?? entry.model)];
    // An id says nothing to anyone.
    return /^[a-z]+(?:[A-Z][a-z]+)*$/.test(key) ? [plain(key)] : [];
  });
  const text = words.join(", ");
  return text === "" ? "All of it" : text[0]?.toUpperCase() + text.slice(1);
}

const plain = (key: string) => key.replace(/([A-Z])/g, (letter) => ` ${letter.toLowerCase()}`);

const hasName = (own: unknown): own is { name?: unknown; model?: unknown } =>
  typeof own === "object" && own !== null && ("name" in own || "model" in own);

function at(document: unknown, path: readonly string[]): unknown {
  return path.reduce<unknown>((own, key) => {
    if (Array.isArray(own)) return own.find((entry) => (entry as { id?: unknown })?.id === key);
    return typeof own === "object" && own !== null
      ? (own as Record<string, unknown>)[key]
      : undefined;
  }, document);
}

/** What keys hold: a quantity, or `plain` numbers such as counts and money. */
const HOLDS: Record<string, Quantity | "plain"> = {
  ...Object.fromEntries(
    PLATE_FIELDS.flatMap(({ path, kind }): [string, Quantity | "plain"][] => {
      const key = path.split(".").at(-1) as string;
      if (kind.is === "quantity") return [[key, kind.quantity]];
      return kind.is === "number" ? [[key, "plain"]] : [];
    }),
  ),
  ...{ fullScale: "pressure", volume: "volume", greatestFlow: "flow", pressure: "pressure" },
  ...{ rise: "length", intake: "length", normal: "length", low: "length", high: "length" },
  ...{ length: "length", wantedFlow: "flow", flow: "flow", head: "head", bore: "diameter" },
  ...{ count: "plain", amount: "plain", tariff: "plain", fuelPrice: "plain", sampleDays: "plain" },
};

function said({ path }: Touched, value: unknown, units: UnitSystem): string {
  const key = path.at(-1) ?? "";
  if (value === undefined || value === null) return "taken away";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") {
    if (key === "tolerance") return formatPercent(value, 1);
    const holds = HOLDS[key];
    if (holds !== undefined && holds !== "plain") return format(value, holds, units);
    // A number whose unit is not known here is in the document's own: SI.
    return `${Number(value.toPrecision(6))}${holds === "plain" ? "" : " (SI)"}`;
  }
  if (Array.isArray(value)) return `${value.length} ${value.length === 1 ? "entry" : "entries"}`;
  return typeof value === "object" ? "changed" : String(value);
}
