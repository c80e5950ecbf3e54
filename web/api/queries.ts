import { QueryClient } from "@tanstack/react-query";
import { Refused } from "./client.ts";

/** What was read from the server, for the whole application. */
export const queries = new QueryClient({
  defaultOptions: {
    // A refusal will not change by asking again; silence may.
    queries: { retry: (count, error) => !(error instanceof Refused) && count < 2 },
  },
});
