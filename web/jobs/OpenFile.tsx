import { lazy, Suspense, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { JobBundle } from "#contract/jobBundle.ts";
import { api, newId } from "../api/client.ts";
import type { Progress } from "../exchange/takeIn.ts";
import { Button } from "../ui/Button.tsx";
import { FileUp } from "../ui/icons.ts";
import { toast } from "../ui/toast.ts";

/** The format of a file that has a job with its tests and pictures. */
const BUNDLE = "upright-gusher/job-with-tests";

const Opening = lazy(() => import("./Opening.tsx"));

/** @throws Error with a sentence, where the file cannot be taken in */
async function readBundle(
  given: unknown,
  name: string,
  signal: AbortSignal,
  told: (progress: Progress) => void,
): Promise<string> {
  const [{ bundleSchema }, { fieldIssues }, { openBundle }] = await Promise.all([
    import("#contract/jobBundle.ts"),
    import("#contract/documents/issues.ts"),
    import("../exchange/bundle.ts"),
  ]);
  const parsed = bundleSchema.safeParse(given);
  if (parsed.success) return openBundle(parsed.data as JobBundle, signal, told);
  const [first] = fieldIssues(parsed.error);
  throw new Error(`${name}: ${first?.path ? `${first.path}: ` : ""}${first?.message}`);
}

/** Takes in a job file, such as one downloaded here or written for the command line. */
export function OpenFile() {
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const [opening, setOpening] = useState<Progress>();
  const stop = useRef<AbortController>(undefined);

  async function read(file: File): Promise<void> {
    stop.current = undefined;
    try {
      // Fetched when it is needed: the board itself reads no documents.
      const [{ jobSchema }, { fieldIssues }] = await Promise.all([
        import("#contract/documents/job.ts"),
        import("#contract/documents/issues.ts"),
      ]);
      const given: unknown = JSON.parse(await file.text());
      if ((given as { format?: unknown } | null)?.format === BUNDLE) {
        stop.current = new AbortController();
        setOpening({ sent: 0, of: 1 });
        const id = await readBundle(given, file.name, stop.current.signal, setOpening);
        await navigate(`/jobs/${id}/measure`);
        return;
      }
      const parsed = jobSchema.safeParse(given);
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
      if (stop.current?.signal.aborted) toast(`${file.name} was not opened.`);
      else if ((error as Error).name === "NotKnown") toast.error(`${file.name}: ${reason}`);
      else toast.error(`${file.name} was not opened. ${reason}`);
    } finally {
      setOpening(undefined);
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
        <FileUp size={18} aria-hidden />
        <span>
          Open <span className="max-sm:hidden">a job </span>file
        </span>
      </Button>
      {opening && (
        <Suspense>
          <Opening progress={opening} onCancel={() => stop.current?.abort()} />
        </Suspense>
      )}
    </>
  );
}
