import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { Reach } from "#core/measurement/reach.ts";
import { pitOf } from "#model/demand/pit.ts";
import { pumpSets } from "#model/job/pumpSets.ts";
import { pumpsName } from "#words/items.ts";
import { outletItems, pumpItems } from "../../../openJob/jobStore.ts";
import { useUnits } from "../../../state/settings.ts";
import { SelectField } from "../../../ui/Fields.tsx";
import { QuantityField } from "../../../ui/QuantityField.tsx";
import { METHODS, type WayProps, wayOf } from "./flowWays.tsx";
import { InstrumentPick } from "./InstrumentPick.tsx";
import { legend, type PartProps } from "./part.ts";
import { dischargeBy, type Flows, flowBy, type Method } from "./readingDraft.ts";

/** The flow: by bucket and watch, by what ran in a set time, by a meter, or by the fall of the water. */
export function FlowPart({
  draft,
  change,
  job,
  setups,
  reach,
}: PartProps & {
  reach: Reach;
  job: JobDocument;
  /** what the visit holds side by side */
  setups: readonly { id: string; name: string }[];
}) {
  const outlets = outletItems(job.path);
  const { method } = draft;
  const { how, Fields, Watch, Doubts } = wayOf(method);
  const pit = useMemo(() => pitOf(job), [job]);
  const way = {
    flow: draft.flows[method],
    set: (by: Partial<Flows[Method]>) => change(flowBy(method, by)),
    change,
    pit,
  } as WayProps<Method>;
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Flow</legend>
      <div className="grid grid-cols-2 gap-2">
        <SelectField
          label="Measured by"
          visibleLabel
          value={method}
          onChange={(next) => change({ method: next as Method })}
        >
          {METHODS.map(({ method: value, name }) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </SelectField>
        <Fields {...way} />
        {outlets.length > 1 && (
          <SelectField
            label="Taken at"
            visibleLabel
            value={draft.outletId}
            onChange={(outletId) => change({ outletId })}
          >
            {outlets.map(({ id }, i) => (
              <option key={id} value={id}>
                Outlet {i + 1}
              </option>
            ))}
          </SelectField>
        )}
        <WhichRan {...{ draft, change, job }} />
        {setups.length > 0 && (
          <SelectField
            label="Which set-up"
            visibleLabel
            value={setups.some(({ id }) => id === draft.setup) ? draft.setup : ""}
            onChange={(setup) => change({ setup })}
          >
            <option value="">none of them</option>
            {setups.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </SelectField>
        )}
        {setups.length > 0 && (
          <QuantityField
            label="Throw"
            optional
            quantity="length"
            range={RANGES.length}
            value={draft.throwDistance}
            onChange={(throwDistance) => change({ throwDistance })}
          />
        )}
      </div>
      {Watch && <Watch {...way} />}
      {how && (
        <p className="text-[13px] text-soft">
          {how(draft.valve === "open" ? "open the discharge fully, " : "")} Keep hands and cords
          clear of the outlet: a hose under pressure whips.
        </p>
      )}
      <InstrumentPick {...{ draft, change, reach }} of="flow" />
      <details className="text-[14px]">
        <summary className="min-h-7 text-soft">How good that is</summary>
        <div className="grid grid-cols-2 gap-2 pt-1">
          <Doubts {...way} />
        </div>
      </details>
    </fieldset>
  );
}

/** Which of several pumps ran, the others standing: one alone can be held against its own curve. */
function WhichRan({ draft, change, job }: PartProps & { job: JobDocument }) {
  const units = useUnits();
  const pumps = pumpItems(job.path).map(({ id }) => id);
  if (pumps.length < 2) return null;
  const sets = pumpSets(pumps).filter(({ length }) => length < pumps.length);
  return (
    <SelectField
      label="Which pumps ran"
      visibleLabel
      value={draft.running.join(" ")}
      onChange={(value) => {
        const running = value === "" ? [] : value.split(" ");
        // A gauge at a pump's port goes to the one that ran.
        const [first] = running;
        change((before) => ({
          running,
          ...(first !== undefined &&
            pumps.includes(before.discharge.afterItemId) &&
            dischargeBy({ afterItemId: first, elevation: undefined })(before)),
        }));
      }}
    >
      <option value="">All of them</option>
      {sets.map((ids) => (
        <option key={ids.join(" ")} value={ids.join(" ")}>
          {pumpsName(job.path, ids, units)}
          {ids.length === 1 ? " alone" : ""}
        </option>
      ))}
    </SelectField>
  );
}
