import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { Stored } from "#contract/api/api.ts";
import type { PumpAssetDocument } from "#contract/documents/pumpAsset.ts";
import { ACCEPTANCE } from "#words/comparison.ts";
import { allPumpAssets, oneOf, queries, testsOf } from "../api/queries.ts";
import { BroughtBack } from "../editing/BroughtBack.tsx";
import { EditedTwice } from "../editing/EditedTwice.tsx";
import { useEditing } from "../editing/useEditing.ts";
import { Button } from "../ui/Button.tsx";
import { TextField } from "../ui/Fields.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { toast } from "../ui/toast.ts";

/** One real pump: its serial number, its warranty, where it stands, and every test of it, on a job or on the stand. */
export default function PumpAssetPage() {
  const { id = "" } = useParams();
  const unit = useQuery(oneOf("units", id));
  if (unit.isError) return <Trouble error={unit.error} onRetry={() => void unit.refetch()} />;
  if (!unit.data) return <Loading what="the pump" />;
  return <Unit key={id} stored={unit.data} />;
}

const DAYS = [
  ["bought", "Bought"],
  ["warrantyUntil", "Warranty until"],
  ["installed", "Installed"],
  ["removed", "Removed"],
] as const;

function Unit({ stored }: { stored: Stored<PumpAssetDocument> }) {
  const { id, document } = stored;
  const editing = useEditing({ collection: "units", id, stored, begun: document });
  const unit = editing.value;
  const pump = useQuery(oneOf("pumps", document.pumpId));
  const tests = useQuery(testsOf(id, "units"));
  const put = (key: keyof PumpAssetDocument, value: string) =>
    editing.change((before) => {
      const { [key]: _, ...rest } = before;
      return (value === "" ? rest : { ...rest, [key]: value }) as PumpAssetDocument;
    });
  async function save(next: PumpAssetDocument, onto?: Stored<PumpAssetDocument>): Promise<void> {
    try {
      if (!(await editing.save(next, onto))) return;
      toast("Saved.");
      await queries.invalidateQueries({ queryKey: allPumpAssets.queryKey });
    } catch (error) {
      toast.error(`Not saved: ${(error as Error).message} What you typed is kept on this device.`);
    }
  }
  const name = pump.data ? `${pump.data.document.maker} ${pump.data.document.model}` : "Pump";
  return (
    <div className="mx-auto grid h-full max-w-3xl content-start gap-4 overflow-y-auto p-4">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h1 className="text-3xl">
          {name} {unit.serial && `no ${unit.serial}`}
        </h1>
        <Link to={`/pumps/${document.pumpId}`} className="underline">
          Its plate and curve
        </Link>
      </div>
      <BroughtBack editing={editing} />
      <EditedTwice editing={editing} onKeep={(both, onto) => void save(both, onto)} />
      <div className="grid gap-2 sm:grid-cols-2">
        <TextField
          label="Serial number"
          maxLength={80}
          value={unit.serial ?? ""}
          onChange={(serial) => put("serial", serial)}
        />
        <TextField
          label="Where it stands"
          maxLength={200}
          value={unit.standsAt ?? ""}
          onChange={(standsAt) => put("standsAt", standsAt)}
        />
        {DAYS.map(([key, label]) => (
          <TextField
            key={key}
            label={label}
            type="date"
            value={unit[key] ?? ""}
            onChange={(day) => put(key, day)}
          />
        ))}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button look="strong" disabled={!editing.changed} onClick={() => void save(unit)}>
          Save
        </Button>
        <Link
          to={`/units/${id}/stand`}
          className="target inline-flex items-center rounded border border-rule bg-sheet px-3 hover:bg-press"
        >
          Test it on the stand
        </Link>
      </div>
      <section aria-label="Tests of this pump">
        <h2 className="text-xl">Tests of this pump</h2>
        {tests.data?.length === 0 && (
          <p className="text-soft">
            None yet. On a job, say at the visit which pump of this model it was.
          </p>
        )}
        <ul>
          {tests.data?.map(({ id: testId, document: test, readings }) => (
            <li key={testId} className="flex flex-wrap gap-x-3 border-t border-rule py-1.5">
              <span className="plate text-[17px]">{test.takenOn}</span>
              <Link
                className="flex-1 underline"
                to={test.jobId ? `/jobs/${test.jobId}/measure` : `/units/${id}/stand`}
              >
                {test.title}
              </Link>
              <span className="text-[14px] text-soft">
                {readings
                  .flatMap((own) => own.document.judged?.acceptance ?? [])
                  .filter((own, i, all) => all.indexOf(own) === i)
                  .map((own) => ACCEPTANCE[own].toLowerCase())
                  .join(", ")}
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
