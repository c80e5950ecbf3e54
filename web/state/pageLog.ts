/** What went wrong on this page since it was opened, for whoever has to mend it. Stays on this device until copied. */

interface Entry {
  at: string;
  what: string;
}

const MOST = 60;
const entries: Entry[] = [];

export function note(what: string): void {
  entries.push({ at: new Date().toISOString(), what: what.slice(0, 2000) });
  if (entries.length > MOST) entries.shift();
}

const told = (error: unknown): string =>
  error instanceof Error ? (error.stack ?? `${error.name}: ${error.message}`) : String(error);

/** Hears what nobody caught. */
export function keepPageLog(): void {
  addEventListener("error", ({ error, message }) => note(told(error ?? message)));
  addEventListener("unhandledrejection", ({ reason }) => note(`Nobody waited: ${told(reason)}`));
}

/** A report in plain text: what broke, where, on what, and what went before. */
export function report(error: unknown, version: string | undefined): string {
  return [
    `Upright Gusher ${version ?? "(version not known)"}`,
    new Date().toISOString(),
    location.pathname + location.search,
    navigator.userAgent,
    `${innerWidth}x${innerHeight}, ${navigator.onLine ? "online" : "offline"}`,
    "",
    told(error),
    "",
    ...entries.map(({ at, what }) => `${at} ${what}`),
  ].join("\n");
}
