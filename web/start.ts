import "@fontsource/barlow/latin-400.css";
import "@fontsource/barlow/latin-500.css";
import "@fontsource/barlow/latin-600.css";
import "@fontsource/barlow-condensed/latin-500.css";
import "@fontsource/barlow-condensed/latin-600.css";
import "./styles.css";

function begin(): void {
  // All that the page is made of at once: found in one another they would be asked for wave after wave.
  const modules = document.getElementById("arrived")?.dataset.modules?.split(" ") ?? [];
  for (const each of modules) {
    if (each === "") continue;
    const link = document.createElement("link");
    link.rel = "modulepreload";
    link.href = `/${each}`;
    document.head.append(link);
  }
  void import("./main.tsx");
}

// What the server drew is painted before anything else is begun: a frame's callbacks run before its paint, the task
// they put up after it.
if (document.getElementById("root")?.firstChild && document.visibilityState === "visible") {
  requestAnimationFrame(() => setTimeout(begin));
} else begin();
