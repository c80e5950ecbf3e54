import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client.ts";
import { Download } from "../ui/icons.ts";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { inWords, WhatTakesRoom } from "./WhatTakesRoom.tsx";

const LINK =
  "target inline-flex items-center gap-1.5 rounded border border-ink px-3 font-medium hover:bg-press";

/** Everything in one file: made now, or by itself on the days before. */
export default function BackupsPage() {
  const query = useQuery({ queryKey: ["backups"], queryFn: api.backups, staleTime: 0 });
  return (
    <div className="relative mx-auto h-full max-w-3xl overflow-y-auto p-4">
      <div className="flex flex-wrap items-center gap-2 pb-3">
        <h1 className="flex-1 text-3xl">Backups</h1>
        <a className={`${LINK} bg-ink text-paper hover:bg-ink/85`} href="/api/backups/now" download>
          <Download size={18} aria-hidden /> Make one now
        </a>
      </div>
      <p>
        One file with every job, pump, test, reading, picture and instrument’s record, and the
        states they were saved in. Keep one away from this computer now and then.
      </p>
      {query.isPending && <Loading what="the backups" />}
      {query.isError && <Trouble error={query.error} onRetry={() => void query.refetch()} />}
      {query.data && (
        <>
          <h2 className="plate mt-5 text-[22px]">Made by themselves</h2>
          <p className="text-[14px] text-soft">
            Once a day on which something changed; the newest fourteen are kept in{" "}
            <span className="break-all">{query.data.place}</span>, folder “backups”.
          </p>
          {query.data.dated.length === 0 ? (
            <p className="py-3">None yet. The first is made soon after the first thing is saved.</p>
          ) : (
            <ul aria-label="Dated backups" className="mt-2 grid gap-1.5">
              {query.data.dated.map(({ name, madeAt, size }) => (
                <li
                  key={name}
                  className="flex items-center gap-3 rounded border border-rule bg-sheet px-3 py-1"
                >
                  <span className="plate flex-1 text-[19px]">
                    {new Date(madeAt).toLocaleString([], {
                      dateStyle: "medium",
                      timeStyle: "short",
                    })}
                  </span>
                  <span className="text-soft">{inWords(size)}</span>
                  <a className={LINK} href={`/api/backups/${name}`} download>
                    <Download size={18} aria-hidden />
                    <span>
                      Download <span className="sr-only">the one of {madeAt.slice(0, 10)}</span>
                    </span>
                  </a>
                </li>
              ))}
            </ul>
          )}
          <h2 className="plate mt-5 text-[22px]">Bringing one back</h2>
          <p>
            A backup is restored into a new folder, so what you have stays as it is. On the computer
            that runs the server:
          </p>
          <pre className="mt-2 overflow-x-auto rounded bg-press p-2 text-[14px]">
            npm run restore -- FILE --data NEW-FOLDER{"\n"}npm start -- --data NEW-FOLDER
          </pre>
        </>
      )}
      <WhatTakesRoom />
    </div>
  );
}
