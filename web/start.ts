import "@fontsource/barlow/latin-400.css";
import "@fontsource/barlow/latin-500.css";
import "@fontsource/barlow/latin-600.css";
import "@fontsource/barlow-condensed/latin-500.css";
import "@fontsource/barlow-condensed/latin-600.css";
import "./styles.css";
import { keepEarly } from "./lib/early.ts";
import { fetchModules, modulesOf } from "./lib/fetchModules.ts";

async function begin(): Promise<void> {
  // All that the page is made of at once: found in one another they would be asked for wave after wave. What cannot be had
  // is asked for again as it is needed.
  fetchModules(modulesOf("modules")).catch(() => undefined);
  // While it is loaded React makes errors it may need later; nobody reads where, and finding it out takes as long as the
  // loading itself.
  const { stackTraceLimit } = Error;
  Error.stackTraceLimit = 0;
  try {
    // In two turns: what somebody does meanwhile is not kept waiting for both.
    await import("react-dom/client");
  } finally {
    Error.stackTraceLimit = stackTraceLimit;
  }
  await new Promise((done) => setTimeout(done));
  await import("./main.tsx");
}

if (document.getElementById("root")?.firstChild) keepEarly();
// What the server drew is painted before anything else is begun: a frame's callbacks run before its paint, the task
// they put up after it.
if (document.getElementById("root")?.firstChild && document.visibilityState === "visible") {
  requestAnimationFrame(() => setTimeout(begin));
} else void begin();
