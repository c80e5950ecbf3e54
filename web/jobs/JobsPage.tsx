import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { toast } from "sonner";
import type { JobSummary } from "#contract/api/api.ts";
import { fieldIssues } from "#contract/documents/issues.ts";
import { jobSchema } from "#contract/documents/job.ts";
import { type JobKindId, KINDS, newJob } from "#model/kinds.ts";
import { api, newId } from "../api/client.ts";
import { allJobs } from "../api/queries.ts";
import { useUnits } from "../app/settings.ts";
import { Unsaved } from "../outbox/Unsaved.tsx";
import { useUnsaved } from "../outbox/useHeld.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { SelectField } from "../ui/Fields.tsx";
import { FileUp, Plus, Trash2 } from "../ui/icons.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";

export function JobsPage() {
  const jobs = useQuery(allJobs);
  const [params, setParams] = useSearchParams();
  const naming = params.get("new") === "1";
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: allJobs.queryKey });
  const setNaming = (open: boolean) => setParams(open ? { new: "1" } : {}, { replace: true });

  async function remove(job: JobSummary): Promise<void> {
    try {
      await api.remove("jobs", job.id);
      await refresh();
      toast(`“${job.name}” deleted.`, {
        action: { label: "Undo", onClick: () => void api.restore("jobs", job.id).then(refresh) },
      });
    } catch (error) {
      toast.error((error as Error).message);
    }
  }

  return (
    <div className="relative mx-auto h-full max-w-5xl overflow-y-auto p-4">
      <div className="flex flex-wrap items-center gap-2 pb-3">
        <h1 className="flex-1 text-3xl">Jobs</h1>
        <OpenFile />
        <Button look="strong" onClick={() => setNaming(true)}>
          <Plus size={18} aria-hidden /> New job
        </Button>
      </div>
      <Unsaved held={useUnsaved()} linked />
      {jobs.isPending && <Loading what="the jobs" />}
      {jobs.isError && <Trouble error={jobs.error} onRetry={() => void jobs.refetch()} />}
      {jobs.data?.length === 0 && (
        <Empty title="No jobs yet">
          <p>
            A job holds the levels, the line, the pump and what you measured. Start one at the pit:
            where is the water, how high and how far must it go?
          </p>
          <Button look="strong" onClick={() => setNaming(true)}>
            <Plus size={18} aria-hidden /> New job
          </Button>
        </Empty>
      )}
      <ul aria-label="Jobs" className="grid gap-2">
        {jobs.data?.map((job) => (
          <li key={job.id} className="flex items-stretch rounded border border-rule bg-sheet">
            <Link
              to={`/jobs/${job.id}`}
              className="min-w-0 flex-1 rounded px-4 py-2.5 hover:bg-press"
            >
              <span className="plate block text-[22px] leading-tight">{job.name}</span>
              <span className="block text-[14px] text-soft">
                {[
                  job.place,
                  job.pumps.join(", ") || "no pump chosen yet",
                  job.readings === 0
                    ? "not measured yet"
                    : `${job.readings} reading${job.readings === 1 ? "" : "s"}`,
                  `saved ${new Date(job.updatedAt).toLocaleDateString()}`,
                ]
                  .filter(Boolean)
                  .join(" · ")}
              </span>
            </Link>
            <IconButton
              label={`Delete ${job.name}`}
              className="px-2"
              onClick={() => void remove(job)}
            >
              <Trash2 size={18} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ul>
      <NewJobDialog open={naming} onClose={() => setNaming(false)} />
    </div>
  );
}

function NewJobDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const navigate = useNavigate();
  const units = useUnits();
  const [name, setName] = useState("");
  const [kind, setKind] = useState<JobKindId>("sump-riser");
  const [problem, setProblem] = useState<string>();

  async function create(event: FormEvent): Promise<void> {
    event.preventDefault();
    if (name.trim() === "")
      return setProblem("Give the job a name, such as the place and the water.");
    try {
      const stored = await api.save("jobs", newId(), 0, newJob(name.trim(), kind, units));
      setName("");
      await navigate(`/jobs/${stored.id}?part=source`);
    } catch (error) {
      setProblem((error as Error).message);
    }
  }

  return (
    <Dialog open={open} onClose={onClose} title="New job">
      <form onSubmit={(event) => void create(event)} className="grid gap-3">
        <label className="block">
          <span className="block text-[13px] text-soft">Name</span>
          <input
            className="entry target"
            value={name}
            maxLength={120}
            aria-invalid={problem !== undefined}
            onChange={(event) => {
              setName(event.target.value);
              setProblem(undefined);
            }}
          />
        </label>
        <p role="alert" className="min-h-5 text-[14px] text-signal">
          {problem}
        </p>
        <SelectField
          label="Begin with"
          visibleLabel
          value={kind}
          onChange={(value) => setKind(value as JobKindId)}
        >
          {Object.entries(KINDS).map(([id, { name }]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
        <div className="flex gap-2">
          <Button look="strong" type="submit">
            Start the job
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Takes in a job file, such as one downloaded here or written for the command line. */
function OpenFile() {
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();

  async function read(file: File): Promise<void> {
    try {
      const parsed = jobSchema.safeParse(JSON.parse(await file.text()));
      if (!parsed.success) {
        const [first] = fieldIssues(parsed.error);
        toast.error(
          `${file.name} was not opened. ${first?.path ? `${first.path}: ` : ""}${first?.message}`,
        );
        return;
      }
      const stored = await api.save("jobs", newId(), 0, parsed.data);
      await navigate(`/jobs/${stored.id}`);
    } catch (error) {
      const reason =
        error instanceof SyntaxError ? "It is not valid JSON." : (error as Error).message;
      toast.error(`${file.name} was not opened. ${reason}`);
    }
  }

  return (
    <>
      <input
        ref={input}
        type="file"
        accept="application/json,.json"
        className="hidden"
        aria-label="Job file"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) void read(file);
          event.target.value = "";
        }}
      />
      <Button onClick={() => input.current?.click()}>
        <FileUp size={18} aria-hidden /> Open a job file
      </Button>
    </>
  );
}
