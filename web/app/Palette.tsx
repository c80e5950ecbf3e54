import * as Dialog from "@radix-ui/react-dialog";
import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useLocation, useNavigate, useParams } from "react-router";
import { JOB_KIND_NAMES } from "#words/kinds.ts";
import { allJobs, allPumps, ofServer } from "../api/queries.ts";
import { downloadJob } from "../exchange/downloadJob.ts";
import { STAGES } from "../jobPage/stages.ts";
import { useSettings } from "../state/settings.ts";

// The bench is there whenever a job is open; the palette itself must not wait for it, nor it for the palette.
const bench = () => import("../openJob/jobStore.ts");
const onBench = async (run: (store: Awaited<ReturnType<typeof bench>>) => void) =>
  run(await bench());

async function download(): Promise<void> {
  await onBench(({ useJobStore }) => {
    const { id, job } = useJobStore.getState();
    if (id) downloadJob(job);
  });
}

/** Every place and action by name. */
export default function Palette({ onClose, onKeys }: { onClose: () => void; onKeys: () => void }) {
  const navigate = useNavigate();
  const { id } = useParams();
  const { pathname } = useLocation();
  const { toggleUnits, toggleTheme } = useSettings();
  const jobs = useQuery(allJobs);
  const pumps = useQuery(allPumps);
  const health = useQuery(ofServer);
  const act = (name: string, run: () => void) => (
    <Command.Item
      key={name}
      value={name}
      onSelect={() => {
        onClose();
        run();
      }}
      className="target flex cursor-pointer items-center rounded px-3 data-[selected=true]:bg-press"
    >
      {name}
    </Command.Item>
  );
  const go = (name: string, to: string) => act(name, () => void navigate(to));
  const heading = "px-3 pt-2 text-[13px] text-soft";
  return (
    <Dialog.Root open onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[8vh] left-1/2 z-50 w-[min(36rem,94vw)] -translate-x-1/2 rounded-lg border border-rule bg-paper p-2 shadow-2xl"
        >
          <Dialog.Title className="sr-only">Commands</Dialog.Title>
          <Command label="Commands">
            <Command.Input
              placeholder="Type a job, a pump or an action"
              className="entry target mb-2 text-[17px]"
            />
            <Command.List className="max-h-[60vh] overflow-y-auto">
              <Command.Empty className="p-3 text-soft">Nothing by that name.</Command.Empty>
              {id && pathname.startsWith("/jobs/") && (
                <Command.Group heading={<span className={heading}>This job</span>}>
                  {STAGES.flatMap((stage) =>
                    stage.places.map(({ name, search = "" }) =>
                      go(name, `/jobs/${id}/${stage.id}${search && `?${search}`}`),
                    ),
                  )}
                  {act("Undo", () => void onBench(({ undo }) => undo()))}
                  {act("Redo", () => void onBench(({ redo }) => redo()))}
                  {act("Download this job as a file", () => void download())}
                  {act("Print this job", () => print())}
                </Command.Group>
              )}
              <Command.Group heading={<span className={heading}>Everywhere</span>}>
                {go("New job", "/new")}
                {Object.entries(JOB_KIND_NAMES).map(
                  ([kind, { says }]) => kind !== "measuring" && go(says, `/new/${kind}`),
                )}
                {go("Jobs", "/")}
                {go("Pump library", "/pumps")}
                {go("Compare hoses", "/hoses")}
                {go("Backups", "/backups")}
                {health.data?.open && go("Devices signed in", "/devices")}
                {go("Bin", "/bin")}
                {act("Switch between US and metric", toggleUnits)}
                {act("Switch between light and dark", toggleTheme)}
                {act("Keys", onKeys)}
              </Command.Group>
              <Command.Group heading={<span className={heading}>Jobs</span>}>
                {jobs.data?.map((job) => go(job.name, `/jobs/${job.id}`))}
              </Command.Group>
              <Command.Group heading={<span className={heading}>Pumps</span>}>
                {pumps.data?.map(({ document }) =>
                  go(`${document.maker} ${document.model}`, `/pumps/${document.id}`),
                )}
              </Command.Group>
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
