import { proxy, releaseProxy, wrap } from "comlink";
import { useEffect, useState } from "react";
import type { Reader, TableName, Tables } from "./tableWorker.ts";

type Given<N extends TableName> =
  Parameters<Tables[N]> extends [...infer Rest, (done: number) => void] ? Rest : never;

export interface TableRead<N extends TableName> {
  /** what was read last; of an earlier text while `progress` is less than 1 */
  value: ReturnType<Tables[N]> | undefined;
  /** 0 to 1 */
  progress: number;
  error: string | undefined;
}

/** Reads a table beside the page, where one is given, and again whenever what is given changes; what nobody waits for is ended. */
export function useTable<N extends TableName>(name: N, given: Given<N> | undefined): TableRead<N> {
  const [read, setRead] = useState<TableRead<N>>({
    value: undefined,
    progress: 1,
    error: undefined,
  });
  useEffect(() => {
    if (!given) {
      setRead({ value: undefined, progress: 1, error: undefined });
      return;
    }
    let gone = false;
    const change = (patch: Partial<TableRead<N>>) => {
      if (!gone) setRead((before) => ({ ...before, ...patch }));
    };
    change({ progress: 0, error: undefined });
    const worker = new Worker(new URL("./tableWorker.ts", import.meta.url), { type: "module" });
    const remote = wrap<Reader>(worker);
    const broken = new Promise<never>((_, reject) => {
      worker.addEventListener("error", ({ message }) =>
        reject(new Error(message || "What reads tables could not be loaded.")),
      );
    });
    const close = () => {
      remote[releaseProxy]();
      worker.terminate();
    };
    const progress = proxy((done: number) => change({ progress: done }));
    Promise.race([remote.read(name, given, progress), broken])
      .then(
        (value) => change({ value: value as ReturnType<Tables[N]>, progress: 1 }),
        (error: Error) => change({ error: error.message, progress: 1 }),
      )
      .finally(() => {
        if (!gone) close();
        gone = true;
      });
    return () => {
      if (!gone) close();
      gone = true;
    };
  }, [name, ...(given ?? [undefined])]);
  return read;
}
