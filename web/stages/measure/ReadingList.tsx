import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { formatUncertain } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { locate } from "#core/line/path.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import { measuredFlow } from "#core/measurement/instruments.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { compareReading, takenOnAnother } from "#model/measurement/readings.ts";
import { ACCEPTANCE, comparisonWords } from "#words/comparison.ts";
import { pumpsName } from "#words/items.ts";
import { api, type TestWithReadings } from "../../api/client.ts";
import { testsOf } from "../../api/queries.ts";
import type { Owner } from "../../openJob/owner.ts";
import type { Entry } from "../../outbox/outbox.ts";
import { Picture } from "../../pictures/Picture.tsx";
import { useUnits } from "../../state/settings.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { deletedToast } from "../../ui/deletedToast.ts";
import { TextField } from "../../ui/Fields.tsx";
import { Trash2 } from "../../ui/icons.ts";
import { toast } from "../../ui/toast.ts";

/** The judgement of the day it was taken; a reading that was never judged is held against today's line. */
function whatWasSaid(
  { path }: JobDocument,
  solved: JobSolution,
  reading: ReadingDocument,
  units: UnitSystem,
) {
  const { judged, jobRevision, running } = reading;
  const another = solved.kind === "solved" && takenOnAnother(solved, reading);
  const there = running?.every((id) => locate(path, id));
  const ran =
    running &&
    (there
      ? `Ran: ${pumpsName(path, running, units)}${running.length === 1 ? " alone" : ""}.`
      : "Some of the pumps ran; the line has others now.");
  if (judged) {
    const on = jobRevision ? `, on the job’s revision ${jobRevision}` : "";
    const since = another ? " Taken with another pump than stands there now." : "";
    return {
      ran,
      title: ACCEPTANCE[judged.acceptance],
      measured: judged.sentences[0],
      note: `Judged that day${on}.${since}`,
    };
  }
  const comparison = compareReading(solved, reading);
  if (comparison) {
    const { title, measured } = comparisonWords(comparison, units);
    return { ran, title, measured, note: "Held against the line and pump as they are now." };
  }
  const { value, standardUncertainty } = measuredFlow(reading.flow);
  return {
    ran,
    title: another ? "Taken with another pump" : "Not compared",
    measured: `Measured ${formatUncertain(value, COVERAGE * standardUncertainty, "flow", units)}.`,
  };
}

function whyHere(entry: Entry | undefined): string {
  if (!entry || entry.state === "waiting") return "it goes to the server by itself.";
  return `the server did not take it. ${entry.message ?? ""} Under Jobs it can be thrown away.`;
}

const valveOf = ({ flow, throttled }: ReadingDocument) =>
  flow.method === "shut" ? "valve shut" : throttled ? "valve throttled" : "valve open";

/** Leaves a reading out of what the test says, with the reason, or takes it in again. It stays on file either way. */
function LeaveOut({
  reading: { id, revision, document },
  refresh,
}: {
  reading: TestWithReadings["readings"][number];
  refresh: () => Promise<void>;
}) {
  const [asking, setAsking] = useState(false);
  const [why, setWhy] = useState("");
  const save = (leftOut: string | undefined) => {
    const { leftOut: _, ...rest } = document;
    const next = leftOut === undefined ? rest : { ...rest, leftOut };
    api.save("readings", id, revision, next as ReadingDocument).then(
      async () => {
        setAsking(false);
        await refresh();
      },
      (error: Error) => toast.error(`Not changed: ${error.message}`),
    );
  };
  if (document.leftOut !== undefined) {
    return (
      <Button look="quiet" className="text-[14px]" onClick={() => save(undefined)}>
        Take it in
      </Button>
    );
  }
  if (!asking) {
    return (
      <Button look="quiet" className="text-[14px]" onClick={() => setAsking(true)}>
        Leave out
      </Button>
    );
  }
  return (
    <form
      className="flex items-end gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (why.trim() !== "") save(why.trim());
      }}
    >
      <TextField label="Why it is left out" value={why} maxLength={200} onChange={setWhy} />
      <Button type="submit" disabled={why.trim() === ""}>
        Leave out
      </Button>
    </form>
  );
}

/** The readings of visits, each as it was held against its curve; a deleted one can be brought back. */
export function ReadingList({
  tests,
  held,
  solved,
  job,
  owner,
  outliers,
}: {
  tests: readonly TestWithReadings[];
  /** what of them is on this device only */
  held: readonly Entry[];
  solved: JobSolution;
  job: JobDocument;
  owner: Owner;
  /** by the id of a reading, in its own deviations */
  outliers: ReadonlyMap<string, number>;
}) {
  const units = useUnits();
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: testsOf(owner.id).queryKey });
  const rows = tests
    .flatMap((test) => test.readings)
    .toSorted((a, b) => a.document.takenAt.localeCompare(b.document.takenAt));
  return (
    <ul>
      {rows.map((reading) => {
        const said = whatWasSaid(job, solved, reading.document, units);
        return (
          <li
            key={reading.id}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center border-t border-rule py-1.5"
          >
            <div>
              {reading.revision === 0 && (
                <p className="text-[14px] font-medium text-signal">
                  On this device only: {whyHere(held.find(({ id }) => id === reading.id))}
                </p>
              )}
              <p>
                <span className="plate text-[17px]">{said.title}</span>{" "}
                <span className="text-[14px] text-soft">{valveOf(reading.document)}</span>
              </p>
              {said.measured && <p className="text-[14px]">{said.measured}</p>}
              {said.ran && <p className="text-[14px]">{said.ran}</p>}
              {outliers.has(reading.id) && (
                <p className="text-[14px] font-medium text-signal">
                  Lies off the others by {Math.abs(outliers.get(reading.id) ?? 0).toFixed(1)} times
                  its own doubt: look whether it was typed, timed or read wrong. It counts until you
                  leave it out.
                </p>
              )}
              {reading.document.leftOut && (
                <p className="text-[14px] font-medium">Left out: {reading.document.leftOut}</p>
              )}
              {said.note && <p className="text-[13px] text-soft">{said.note}</p>}
              {reading.document.note && (
                <p className="text-[14px] text-soft">{reading.document.note}</p>
              )}
              {reading.document.attachments && (
                <p className="flex flex-wrap gap-1.5 pt-1">
                  {reading.document.attachments.map((picture, i) => (
                    <Picture key={picture} id={picture} name={`Picture ${i + 1}`} />
                  ))}
                </p>
              )}
            </div>
            {reading.revision > 0 && (
              <span className="flex items-center">
                <LeaveOut {...{ reading, refresh }} />
                <IconButton
                  label="Delete this reading"
                  onClick={() =>
                    void api.remove("readings", reading.id).then(
                      async () => {
                        await refresh();
                        deletedToast("Reading deleted.", () =>
                          api.restore("readings", reading.id).then(refresh),
                        );
                      },
                      (error: Error) => toast.error(error.message),
                    )
                  }
                >
                  <Trash2 size={17} aria-hidden />
                </IconButton>
              </span>
            )}
          </li>
        );
      })}
    </ul>
  );
}
