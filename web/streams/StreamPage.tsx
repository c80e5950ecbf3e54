import { useQuery } from "@tanstack/react-query";
import { type Remote, wrap } from "comlink";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { CHANNELS } from "#contract/streams/stream.ts";
import { format, formatUncertain } from "#contract/units/format.ts";
import { shownUnit } from "#contract/units/units.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import { steadinessOver } from "#core/measurement/steady.ts";
import { api } from "../api/client.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";
import type { ChannelNow } from "./LivePanel.tsx";
import type { RecordView, RecordWorker } from "./recordWorker.ts";
import { Strip } from "./Strip.tsx";

/** The whole of a stream over time: moved by hand, looked at closer, and a window of it taken as a reading. */
export default function StreamPage() {
  const { id = "" } = useParams();
  const units = useUnits();
  const navigate = useNavigate();
  const stream = useQuery({ queryKey: ["streams", "one", id], queryFn: () => api.stream(id) });
  const worker = useRef<Remote<RecordWorker> | undefined>(undefined);
  const [whole, setWhole] = useState<{ from: number; to: number; count: number }>();
  const [range, setRange] = useState<{ from: number; to: number }>();
  const [shown, setShown] = useState<{ view: RecordView; from: number; to: number }>();
  const [means, setMeans] = useState<ChannelNow[]>([]);
  const [trouble, setTrouble] = useState<Error>();

  useEffect(() => {
    const own = new Worker(new URL("./recordWorker.ts", import.meta.url), { type: "module" });
    const remote = wrap<RecordWorker>(own);
    worker.current = remote;
    let gone = false;
    remote.open(id).then(
      (found) => {
        if (gone) return;
        setWhole(found);
        setRange({ from: found.from, to: Math.max(found.to, found.from + 1) });
      },
      (error: Error) => !gone && setTrouble(error),
    );
    return () => {
      gone = true;
      own.terminate();
    };
  }, [id]);

  // One view is asked for at a time; of those that came meanwhile the last is next.
  const asking = useRef(false);
  const wanted = useRef<typeof range>(undefined);
  useEffect(() => {
    wanted.current = range;
    const next = async () => {
      const at = wanted.current;
      wanted.current = undefined;
      if (!at || !worker.current) return;
      const view = await worker.current.view(at.from, at.to, COLUMNS);
      setShown({ view, ...at });
      await next();
    };
    if (asking.current || !range) return;
    asking.current = true;
    next()
      .catch((error: Error) => setTrouble(error))
      .finally(() => {
        asking.current = false;
      });
  }, [range]);

  const channels = stream.data?.channels;
  // What stands in the window is worked out once the hand rests.
  useEffect(() => {
    if (!range || !channels) return;
    const timer = setTimeout(async () => {
      const windows = await worker.current?.window(range.from, range.to);
      setMeans(
        (windows ?? []).flatMap((own, i): ChannelNow[] => {
          const channel = channels[i];
          const last = own.at(-1);
          if (!channel || !last) return [];
          return [{ channel, value: last.value, steady: steadinessOver(own) }];
        }),
      );
    }, REST);
    return () => clearTimeout(timer);
  }, [range, channels]);

  const drag = useDrag(range, whole, setRange);
  const zoom = (factor: number) =>
    setRange((at) => {
      if (!at || !whole) return at;
      const middle = (at.from + at.to) / 2;
      const half = Math.min(Math.max(((at.to - at.from) / 2) * factor, 2), whole.to - whole.from);
      return within({ from: middle - half, to: middle + half }, whole);
    });
  const steady = useMemo(
    () => means.length > 0 && means.every((own) => own.steady.kind === "steady"),
    [means],
  );
  if (stream.isError) return <Trouble error={stream.error} onRetry={() => void stream.refetch()} />;
  if (trouble) return <Trouble error={trouble} onRetry={() => location.reload()} />;
  if (!stream.data || !whole || !range) return <Loading what="the stream" />;
  const { jobId, name } = stream.data;
  return (
    <div className="grid h-full content-start gap-3 overflow-y-auto p-3" data-count={whole.count}>
      <div className="flex flex-wrap items-center justify-between gap-2">
        <div>
          <h1 className="text-2xl">{name}</h1>
          <p className="text-[14px] text-soft">
            {whole.count} samples, {moment(range.from)} to {moment(range.to)}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => zoom(0.5)}>Closer</Button>
          <Button onClick={() => zoom(2)}>Further</Button>
          <Button onClick={() => setRange({ from: whole.from, to: whole.to })}>All of it</Button>
          {jobId && (
            <Link
              to={`/jobs/${jobId}/measure`}
              className="target inline-flex items-center rounded px-2.5 underline"
            >
              Back to the job
            </Link>
          )}
        </div>
      </div>
      {whole.count === 0 ? (
        <p className="text-soft">Nothing has come in yet.</p>
      ) : (
        <div
          className="grid cursor-grab touch-pan-y gap-1 active:cursor-grabbing"
          data-testid="strips"
          {...drag}
        >
          {channels?.map(({ reads }, i) => {
            const { name: what, quantity } = CHANNELS[reads];
            const unit = quantity ? shownUnit(quantity, units) : { symbol: "A", factor: 1 };
            const data = shown?.view[i];
            return (
              data && (
                <Strip
                  key={reads}
                  label={`${what}, ${unit.symbol}`}
                  factor={unit.factor}
                  data={data}
                  last={i === channels.length - 1}
                  from={shown.from}
                  to={shown.to}
                />
              )
            );
          })}
        </div>
      )}
      <section aria-label="The window in sight" className="grid gap-1 border-t border-rule pt-2">
        <h2 className="text-xl">The window in sight</h2>
        <ul className="grid gap-x-6 sm:grid-cols-2">
          {means.map(({ channel, steady: own }) => {
            const { name: what, quantity } = CHANNELS[channel.reads];
            const mean = own.kind === "steady" ? own.mean : undefined;
            return (
              <li key={channel.reads} className="flex justify-between gap-2">
                <span>{what}</span>
                <span className="plate text-[17px]">
                  {mean
                    ? quantity
                      ? formatUncertain(
                          mean.value,
                          COVERAGE * mean.standardUncertainty,
                          quantity,
                          units,
                        )
                      : `${mean.value.toFixed(2)} A`
                    : own.kind === "too-short"
                      ? "too short"
                      : `not steady${quantity && "mean" in own ? `, about ${format(own.mean as number, quantity, units)}` : ""}`}
                </span>
              </li>
            );
          })}
        </ul>
        {jobId && (
          <div className="flex flex-wrap items-center gap-2">
            <Button
              look="strong"
              disabled={!steady}
              onClick={() => void navigate(`/jobs/${jobId}/measure`, { state: { taken: means } })}
            >
              Take this window as a reading
            </Button>
            {!steady && (
              <span className="text-[14px] text-soft">
                Go closer to a stretch where everything stands still.
              </span>
            )}
          </div>
        )}
      </section>
    </div>
  );
}

/** A moment in the reader's own time, from s since 1970. */
const moment = (at: number) => new Date(1000 * at).toLocaleString("sv-SE");

/** Columns a strip is thinned to. */
const COLUMNS = 500;
/** ms after the last move */
const REST = 250;

type Range = { from: number; to: number };

function within({ from, to }: Range, whole: Range): Range {
  const width = Math.min(to - from, whole.to - whole.from);
  const start = Math.min(Math.max(from, whole.from), whole.to - width);
  return { from: start, to: start + width };
}

/** Moves the view with the pointer, and with the arrow keys. */
function useDrag(
  range: Range | undefined,
  whole: Range | undefined,
  setRange: (range: Range) => void,
) {
  const held = useRef<{ x: number; width: number; range: Range } | undefined>(undefined);
  const frame = useRef(0);
  return {
    role: "group",
    "aria-label": "The stream over time: arrow keys move it",
    tabIndex: 0,
    onPointerDown: (event: React.PointerEvent<HTMLElement>) => {
      if (!range) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { x: event.clientX, width: event.currentTarget.clientWidth - 58, range };
    },
    onPointerMove: (event: React.PointerEvent<HTMLElement>) => {
      const from = held.current;
      if (!from || !whole) return;
      const by = ((event.clientX - from.x) / from.width) * (from.range.to - from.range.from);
      // As often as the page is painted, and no oftener.
      cancelAnimationFrame(frame.current);
      frame.current = requestAnimationFrame(() =>
        setRange(within({ from: from.range.from - by, to: from.range.to - by }, whole)),
      );
    },
    onPointerUp: () => {
      held.current = undefined;
    },
    onPointerCancel: () => {
      held.current = undefined;
    },
    onKeyDown: (event: React.KeyboardEvent<HTMLElement>) => {
      if (!range || !whole) return;
      const step = (range.to - range.from) / 10;
      const by = event.key === "ArrowLeft" ? -step : event.key === "ArrowRight" ? step : 0;
      if (by === 0) return;
      event.preventDefault();
      setRange(within({ from: range.from + by, to: range.to + by }, whole));
    },
  };
}
