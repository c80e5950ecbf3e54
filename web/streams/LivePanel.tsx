import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import {
  type BoxInput,
  type BoxTruth,
  CHANNELS,
  type Channel,
  type StreamLine,
} from "#contract/streams/stream.ts";
import { formatNumber, formatPercent } from "#contract/units/format.ts";
import { shownUnit, type UnitSystem } from "#contract/units/units.ts";
import { STEADY, type Steadiness, steadiness } from "#core/measurement/steady.ts";
import { truthWords } from "#words/streams.ts";
import { api, newId } from "../api/client.ts";
import { streamsOf } from "../api/queries.ts";
import { useUnits } from "../state/settings.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { deletedToast } from "../ui/deletedToast.ts";
import { SelectField } from "../ui/Fields.tsx";
import { Trash2 } from "../ui/icons.ts";
import { toast } from "../ui/toast.ts";
import { Dial } from "./Dial.tsx";
import { Logger } from "./Logger.tsx";
import { useLive } from "./useLive.ts";

const ImportLogger = lazy(() => import("./ImportLogger.tsx"));

/** One channel at this moment. */
export interface ChannelNow {
  channel: Channel;
  value: number;
  steady: Steadiness;
}

const FAULTS: Record<NonNullable<BoxInput["fault"]>, string> = {
  surprise: "a surprise",
  none: "nothing wrong",
  worn: "a worn pump",
  silted: "a silted line",
  "low-water": "low water",
};

/**
 * Instruments that stream: digits and needles that are read at arm's length, and what they show taken as a reading
 * once it stands still.
 */
export function LivePanel({
  jobId,
  shut,
  onTake,
  onValve,
}: {
  jobId: string;
  /** the valve is shut: no flow is waited for */
  shut: boolean;
  onTake: (now: readonly ChannelNow[]) => void;
  /** the hand valve of the simulated installation was turned, 0 shut … 1 open */
  onValve: (valve: number) => void;
}) {
  const units = useUnits();
  const client = useQueryClient();
  const streams = useQuery(streamsOf(jobId));
  const [id, setId] = useState<string>();
  const [fault, setFault] = useState<NonNullable<BoxInput["fault"]>>("surprise");
  const [truth, setTruth] = useState<BoxTruth>();
  const [asking, setAsking] = useState(false);
  const [reading, setReading] = useState(false);
  const navigate = useNavigate();
  const stream = streams.data?.find((own) => own.id === id);
  const { samples, connected } = useLive(id);
  const now = useMemo(() => (stream ? channelsNow(stream, samples) : []), [stream, samples]);
  const refresh = () => client.invalidateQueries({ queryKey: streamsOf(jobId).queryKey });
  const failed = (error: Error) => toast.error(error.message);

  function startBox(): void {
    const own = newId();
    setTruth(undefined);
    api.startBox(own, { jobId, fault }).then(async () => {
      await refresh();
      setId(own);
    }, failed);
  }
  function stopBox(own: string): void {
    api.stopBox(own).then(async (hidden) => {
      setTruth(hidden);
      setId(undefined);
      await refresh();
    }, failed);
  }

  if (!stream) {
    return (
      <div className="grid gap-2">
        <div className="flex flex-wrap items-end gap-2">
          <SelectField
            label="Simulated, with"
            visibleLabel
            value={fault}
            onChange={(next) => setFault(next as typeof fault)}
          >
            {Object.entries(FAULTS).map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </SelectField>
          <Button onClick={startBox}>Start the simulated box</Button>
          <Button onClick={() => setAsking(true)}>Connect a logger</Button>
          <Button onClick={() => setReading(true)}>Read in a logger’s file</Button>
        </div>
        <p className="text-[13px] text-soft">
          The box runs this job’s line with something hidden in it: find out what by measuring.
        </p>
        {truth && <p className="font-medium">{truthWords(truth, units)}</p>}
        {reading && (
          <Suspense fallback={null}>
            <ImportLogger
              jobId={jobId}
              onClose={() => setReading(false)}
              onMade={(own) => void navigate(`/streams/${own}`)}
            />
          </Suspense>
        )}
        {asking && (
          <Logger
            jobId={jobId}
            onMade={(own) => {
              void refresh();
              setId(own);
            }}
          />
        )}
        {(streams.data ?? []).length > 0 && (
          <ul aria-label="Streams of this job" className="grid gap-1">
            {streams.data?.map((own) => (
              <li key={own.id} className="flex flex-wrap items-center gap-2 text-[14px]">
                <Button onClick={() => setId(own.id)}>Listen</Button>
                <Link
                  to={`/streams/${own.id}`}
                  className="target inline-flex items-center px-2 underline"
                >
                  Over time
                </Link>
                <span>
                  {own.name}, {own.createdAt.slice(0, 16).replace("T", " ")}, {own.count} samples
                </span>
                <IconButton
                  label={`Delete ${own.name} of ${own.createdAt.slice(0, 16)}`}
                  onClick={() =>
                    void api.removeStream(own.id).then(async () => {
                      await refresh();
                      deletedToast("Stream deleted.", () =>
                        api.restoreStream(own.id).then(refresh),
                      );
                    }, failed)
                  }
                >
                  <Trash2 size={17} aria-hidden />
                </IconButton>
              </li>
            ))}
          </ul>
        )}
      </div>
    );
  }
  const waits = waitsFor(now, shut);
  return (
    <div className="grid gap-2">
      <p role="status" className="text-[14px] text-soft">
        {stream.name}: {connected ? "listening" : "no connection, it is tried again by itself"}
      </p>
      <div className="grid grid-cols-2 gap-x-4 gap-y-1">
        {now.map((own) => (
          <Reading key={own.channel.reads} {...own} {...{ units }} />
        ))}
      </div>
      {stream.box && <HandValve stream={stream} onTurned={onValve} />}
      <p className="min-h-6 font-medium" aria-live="polite">
        {waits ?? "Everything stands still."}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button look="strong" disabled={waits !== undefined} onClick={() => onTake(now)}>
          Take
        </Button>
        {stream.box ? (
          <Button onClick={() => stopBox(stream.id)}>Stop the box and see what was wrong</Button>
        ) : (
          <Button onClick={() => setId(undefined)}>Stop listening</Button>
        )}
      </div>
    </div>
  );
}

function Reading({ channel, value, steady, units }: ChannelNow & { units: UnitSystem }) {
  const { name, quantity } = CHANNELS[channel.reads];
  const text = quantity ? formatNumber(value, quantity, units) : value.toFixed(2);
  const unit = quantity ? shownUnit(quantity, units).symbol : "A";
  const most = channel.fullScale ?? niceScale(Math.abs(value));
  const end = (at: number) =>
    quantity ? String(Number(formatNumber(at, quantity, units).replace("−", "-"))) : String(at);
  const large = channel.reads === "flow" || channel.reads === "discharge";
  const state =
    steady.kind === "steady"
      ? "steady"
      : steady.kind === "too-short"
        ? "listening"
        : steady.kind === "noisy"
          ? `jumps by ${formatPercent(steady.spread)}`
          : steady.by > 0
            ? "rising"
            : "falling";
  return (
    <div
      className={`flex items-center gap-3 ${large ? "max-sm:col-span-2" : ""}`}
      data-channel={channel.reads}
      data-steady={steady.kind}
    >
      {large && (
        <Dial
          {...{ value, most }}
          least={value < 0 ? -most : 0}
          ends={[value < 0 ? end(-most) : "0", end(most)]}
        />
      )}
      <div className="min-w-0">
        <p className="text-[13px] text-soft">
          {name}, {state}
        </p>
        <p className={`plate leading-none whitespace-nowrap ${large ? "text-5xl" : "text-2xl"}`}>
          {text} <span className="text-xl">{unit}</span>
        </p>
      </div>
    </div>
  );
}

/** The hand valve of a simulated installation. */
function HandValve({
  stream,
  onTurned,
}: {
  stream: StreamLine;
  onTurned: (valve: number) => void;
}) {
  const [valve, setValve] = useState(stream.box?.valve ?? 1);
  const turn = (to: number) => {
    setValve(to);
    onTurned(to);
    api.turnBox(stream.id, { valve: to }).catch((error: Error) => toast.error(error.message));
  };
  return (
    <label className="grid gap-1 text-[14px]">
      <span>Hand valve, {valve === 0 ? "shut" : `${Math.round(100 * valve)} % open`}</span>
      <input
        type="range"
        min={0}
        max={100}
        step={1}
        className="target w-full accent-(--water)"
        value={Math.round(100 * valve)}
        onChange={(event) => turn(Number(event.target.value) / 100)}
      />
    </label>
  );
}

function channelsNow(
  { channels }: StreamLine,
  samples: readonly { at: number; values: (number | null)[] }[],
): ChannelNow[] {
  return channels.flatMap((channel, i) => {
    const own = samples.flatMap(({ at, values }) => {
      const value = values[i];
      return value === null || value === undefined ? [] : [{ at: at / 1000, value }];
    });
    const last = own.at(-1);
    if (!last) return [];
    // Near nothing a needle that trembles stands still all the same.
    const scale = 0.2 * Math.max(...own.map(({ value }) => Math.abs(value)));
    return [{ channel, value: last.value, steady: steadiness(own, scale) }];
  });
}

/** What a reading still waits for; nothing when it can be taken. */
function waitsFor(now: readonly ChannelNow[], shut: boolean): string | undefined {
  if (now.length === 0) return "Waiting for the first sample.";
  for (const { channel, steady } of now) {
    const { reads } = channel;
    if (reads === "flow" && shut) continue;
    const name = CHANNELS[reads].name.toLowerCase();
    if (steady.kind === "too-short") {
      return `Watching for ${STEADY.window} s: ${Math.floor(steady.have)} s so far.`;
    }
    if (steady.kind === "drifting") {
      return `The ${name} is not steady: still ${steady.by > 0 ? "rising" : "falling"}. Wait.`;
    }
    if (steady.kind === "noisy") {
      return `The ${name} is not steady: it jumps by ${formatPercent(steady.spread)}. Look for air in the line, or a loose wire.`;
    }
  }
  return undefined;
}

/** A round end of a scale that holds a value, in its own unit. */
function niceScale(value: number): number {
  if (value <= 0) return 1;
  const power = 10 ** Math.floor(Math.log10(value));
  return ([1.6, 2.5, 4, 6, 10, 16].find((step) => step * power >= 1.15 * value) ?? 16) * power;
}
