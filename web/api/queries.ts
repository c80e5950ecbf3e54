import { QueryClient, queryOptions } from "@tanstack/react-query";
import type { CollectionName } from "#contract/collections.ts";
import { api, mayPass } from "./client.ts";

/** What was read from the server, for the whole application. */
export const queries = new QueryClient({
  defaultOptions: {
    // What was refused for good will not change by asking again; silence may, and a server at its limits.
    queries: {
      retry: (count, error) => mayPass(error) && count < 2,
      refetchOnMount: ({ state }) => state.dataUpdatedAt !== arrivedAt,
    },
  },
});

/** When what came with the page was taken in, until somebody goes on to another. */
let arrivedAt = 0;

/**
 * Takes in what the server sent with the page, each answer under its address: it counts as read, and is not read again
 * only because the page is drawn.
 */
export function takeArrived(answers: Readonly<Record<string, unknown>>): void {
  arrivedAt = Date.now();
  for (const [address, answer] of Object.entries(answers)) {
    queries.setQueryData(keyAt(address), answer, { updatedAt: arrivedAt });
  }
}

/** From here on what came with the page is read again wherever it is shown. */
export const goOn = (): void => {
  arrivedAt = 0;
};

/** Where what was read is kept: one document, all of a collection, or those that belong to another document. */
export const keyOf = (collection: CollectionName, id: string) => [collection, "one", id] as const;
const keyOfAll = (collection: CollectionName) => [collection, "all"] as const;
const keyOfThoseOf = (collection: CollectionName, parent: string) =>
  [collection, "of", parent] as const;

/** What is asked for, each under its key. */
export const oneOf = <C extends CollectionName>(collection: C, id: string) => ({
  queryKey: keyOf(collection, id),
  queryFn: () => api.get(collection, id),
});
/** ms after which jobs whose numbers were still being worked out are asked for again */
const PENDING = 700;
export const allJobs = queryOptions({
  queryKey: keyOfAll("jobs"),
  queryFn: api.jobs,
  refetchInterval: ({ state }) => (state.data?.some(({ pending }) => pending) ? PENDING : false),
});
export const allPumps = { queryKey: keyOfAll("pumps"), queryFn: () => api.all("pumps") };
/** Tests of a job, or of one real pump wherever it was tested. */
export const testsOf = (id: string, of: "jobs" | "units" = "jobs") => ({
  queryKey: keyOfThoseOf("tests", id),
  queryFn: () => api.tests(id, of),
});
export const allPumpAssets = { queryKey: keyOfAll("units"), queryFn: () => api.all("units") };

/** Under what key an answer that a page begins with is kept. */
function keyAt(address: string): readonly unknown[] {
  if (address === "/api/health") return ofServer.queryKey;
  if (address === "/api/jobs") return allJobs.queryKey;
  return keyOf("jobs", address.slice("/api/jobs/".length));
}

/** The one firm of this installation. */
export const FIRM = "firm";
/** The firm, or nothing where nobody has said anything of it yet. */
export const theFirm = {
  queryKey: keyOf("firms", FIRM),
  // Out of the list of them: asked for by itself, one that is not there would be an error.
  queryFn: async () => (await api.all("firms")).find(({ id }) => id === FIRM) ?? null,
};

/** What the server says of itself; that does not change while it runs. */
export const ofServer = {
  queryKey: ["health"],
  queryFn: api.health,
  staleTime: Number.POSITIVE_INFINITY,
};

export const streamsOf = (jobId: string) => ({
  queryKey: ["streams", "of", jobId],
  queryFn: () => api.streams(jobId),
});
/** A document as it once was, which changes no more. */
export const revisionOf = <C extends CollectionName>(
  collection: C,
  id: string,
  revision: number,
) => ({
  queryKey: [...keyOf(collection, id), "at", revision],
  queryFn: () => api.revision(collection, id, revision),
  staleTime: Number.POSITIVE_INFINITY,
});
