/** ms after which a page that was just opened has what it shows */
const AT_REST = 3000;

/**
 * Fetches, once the page rests, what it needs later, where there may be no network by then; the document then says so
 * of `what`. Returns a function that stops.
 */
export function atRest(what: string, ...later: (() => Promise<unknown>)[]): () => void {
  let stopped = false;
  const timer = setTimeout(async () => {
    // One after the other, each when there is nothing else to do: whoever types by then is not to wait for it.
    let had = 0;
    for (const load of later) {
      await idle();
      if (stopped) return;
      // What cannot be had now is asked for again when it is wanted.
      had += await load().then(
        () => 1,
        () => 0,
      );
    }
    if (had < later.length) return;
    const { dataset } = document.documentElement;
    dataset.rested = [...new Set([...(dataset.rested ?? "").split(" "), what])].join(" ").trim();
  }, AT_REST);
  return () => {
    stopped = true;
    clearTimeout(timer);
  };
}

/** ms to wait for a moment with nothing to do */
const PATIENCE = 2000;

const idle = () =>
  new Promise<unknown>((done) => {
    if ("requestIdleCallback" in globalThis) requestIdleCallback(done, { timeout: PATIENCE });
    else setTimeout(done);
  });
