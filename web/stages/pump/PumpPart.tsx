import { useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { besideItself, hasRoomForTwo } from "#core/whatif/changes.ts";
import { newId } from "../../api/client.ts";
import { PlaceFields, withKnown } from "../../jobFields/PlaceFields.tsx";
import { edit, insertItem, partsOf, pumpItems, replaceItem } from "../../openJob/jobStore.ts";
import type { PartProps } from "../../openJob/stage.ts";
import { Button } from "../../ui/Button.tsx";
import { Plus } from "../../ui/icons.ts";
import { LineRows } from "../line/LineRows.tsx";
import { PumpChooser } from "./PumpChooser.tsx";

/** The pump, or each of several with what stands beside it, and the library to choose from. */
export default function PumpPart({ job, solved, selected, onSelect }: PartProps) {
  const pumps = pumpItems(job.path);
  const { pumpSplit } = partsOf(job.path);
  const [chosen, setChosen] = useState<string>();
  const item =
    pumps.find(({ id }) => id === selected) ?? pumps.find(({ id }) => id === chosen) ?? pumps[0];
  const diagnostics = solved.kind === "refused" ? solved.diagnostics : [];

  if (!item) {
    return (
      <div className="p-3">
        <p className="pb-2 text-soft">There is no pump on the path yet.</p>
        <Button onClick={() => insertItem(0, { kind: "pump", id: newId(), pump: null })}>
          <Plus size={16} aria-hidden /> Pump in the water
        </Button>
      </div>
    );
  }
  return (
    <>
      {pumpSplit && (
        <div className="border-b border-rule p-3">
          <LineRows
            {...{ diagnostics, selected, onSelect }}
            label="Pumps side by side"
            items={[pumpSplit]}
          />
        </div>
      )}
      {pumps.length > 1 && (
        <div role="group" aria-label="Choose for" className="flex flex-wrap gap-1 px-3 pt-2">
          {pumps.map(({ id }, i) => (
            <Button
              key={id}
              look={id === item.id ? "strong" : "plain"}
              aria-pressed={id === item.id}
              onClick={() => {
                setChosen(id);
                onSelect(undefined);
              }}
            >
              Pump {i + 1}
            </Button>
          ))}
        </div>
      )}
      <PumpChooser item={item}>
        {/* What decides who may stand there comes after who does: the answer before the form. */}
        <div className="grid gap-2 border-t border-rule px-3 py-2">
          <PlaceFields
            site={job.site}
            onChange={(patch) => edit((j) => ({ ...j, site: withKnown(j.site, patch) }))}
          />
          {pumps.length === 1 && (
            <div className="flex flex-wrap gap-2">
              {/* A pump in a branch gets its neighbours in the rows above. */}
              {!pumpSplit && hasRoomForTwo(job) && (
                <Button look="quiet" onClick={() => putBeside(item)}>
                  <Plus size={16} aria-hidden /> Second pump beside it
                </Button>
              )}
              <Button look="quiet" onClick={() => putAfter(item)}>
                <Plus size={16} aria-hidden /> Second pump after it
              </Button>
            </div>
          )}
        </div>
      </PumpChooser>
    </>
  );
}

type PumpRow = ReturnType<typeof pumpItems>[number];

/** Two pumps side by side, drawing from the suction there is. */
function putBeside(item: PumpRow): void {
  edit((job) => {
    const path = besideItself(job.path, item, () => newId());
    return path ? { ...job, path: path as JobDocument["path"] } : job;
  });
}

/** A second pump of the same kind fed by the first. */
function putAfter(item: PumpRow): void {
  replaceItem(item.id, (row) => [row, { ...item, id: newId() }]);
}
