/** ms after which a page that was just opened has what it shows */
const AT_REST = 3000;

/**
 * Fetches, once the page rests, what it needs later, where there may be no network by then; the document then says so
 * of `what`. Returns a function that stops.
 */
export function atRest(what: string, ...later: (() => Promise<unknown>)[]): () => void {
  const timer = setTimeout(async () => {
    // What cannot be had now is asked for again when it is wanted.
    const all = await Promise.allSettled(later.map((load) => load()));
    if (all.some(({ status }) => status === "rejected")) return;
    const { dataset } = document.documentElement;
    dataset.rested = [...new Set([...(dataset.rested ?? "").split(" "), what])].join(" ").trim();
  }, AT_REST);
  return () => clearTimeout(timer);
}
