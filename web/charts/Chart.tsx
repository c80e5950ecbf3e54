import { useEffect, useRef, useState } from "react";
import { useSettings } from "../state/settings.ts";
import { type ChartSpec, plotOf } from "./chart.ts";
import { inks } from "./inks.ts";
import { loadPlotly, type Plotly } from "./plotly.ts";

/** ms after the last change before a chart that is there is drawn again: longer than from key to key */
const AT_REST = 900;

/** A chart, as large as what it stands in. The chart library is fetched when the first one is drawn. */
export function Chart({
  label,
  spec,
  onTake,
  moving = false,
}: {
  /** what it shows, for those who do not see it */
  label: string;
  /** the same one for as long as nothing of it changes */
  spec: ChartSpec;
  /** a point with an id was pressed */
  onTake?: (id: string) => void;
  /** follows a hand: it is drawn again at once */
  moving?: boolean;
}) {
  const node = useRef<HTMLDivElement>(null);
  const [trouble, setTrouble] = useState(false);
  const { theme } = useSettings();
  const taking = useRef(onTake);
  taking.current = onTake;

  useEffect(() => {
    const element = node.current;
    if (!element) return;
    let gone = false;
    const draw = async () => {
      const plotly = await loadPlotly();
      if (gone) return;
      element.ariaBusy = null;
      // The theme is read from the page's colours.
      const { data, layout } = plotOf(spec, inks());
      const config = { displayModeBar: false, scrollZoom: false, doubleClick: false };
      await plotly.react(element, data, layout, config);
      if (!gone) hear(element, (id) => taking.current?.(id));
    };
    // Drawn once it is drawn again when typing rests: it takes longer than a key may.
    const isDrawn = element.classList.contains(DRAWN);
    if (isDrawn && !moving) element.ariaBusy = "true";
    const timer = setTimeout(
      () => draw().catch(() => setTrouble(true)),
      isDrawn && !moving ? AT_REST : 0,
    );
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [spec, moving, theme]);

  useEffect(() => {
    const element = node.current;
    if (!element) return;
    const ifDrawn = (then: (plotly: Plotly) => unknown) => {
      if (element.classList.contains(DRAWN)) void loadPlotly().then(then);
    };
    const observer = new ResizeObserver(() => {
      if (element.clientHeight > 0) ifDrawn((plotly) => plotly.Plots.resize(element));
    });
    observer.observe(element);
    return () => {
      observer.disconnect();
      ifDrawn((plotly) => plotly.purge(element));
    };
  }, []);

  if (trouble) {
    return <p className="p-4 text-signal">The chart could not be loaded. Reload the page.</p>;
  }
  return <div ref={node} role="img" aria-label={label} className="h-full w-full overflow-hidden" />;
}

/** How the chart library marks an element it has drawn in. */
const DRAWN = "js-plotly-plot";

/** What it adds to it. */
interface Drawn {
  on?: (name: string, heard: (event: { points: { customdata?: unknown }[] }) => void) => void;
  removeAllListeners?: (name: string) => void;
}

function hear(element: HTMLElement, take: (id: string) => void): void {
  const drawn = element as unknown as Drawn;
  drawn.removeAllListeners?.("plotly_click");
  drawn.on?.("plotly_click", ({ points: [first] }) => {
    if (typeof first?.customdata === "string") take(first.customdata);
  });
}
