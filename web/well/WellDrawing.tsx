import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { levelsOf } from "#core/line/path.ts";
import { pumpDepth, topOf, withStanding } from "#model/well/settle.ts";
import type { WellTold } from "#model/well/well.ts";
import { SEASONS } from "#words/well.ts";
import { useUnits } from "../app/settings.ts";
import { edit } from "../job/jobStore.ts";
import { JobQuantity } from "../job/parts/JobQuantity.tsx";
import { Button, IconButton } from "../ui/Button.tsx";
import { Plus, Trash2 } from "../ui/icons.ts";
import { setWell } from "./edits.ts";
import { PumpDepth } from "./PumpDepth.tsx";
import { type Placed, spread } from "./spread.ts";

const WIDE = 400;
const HIGH = 600;
const TOP = 74;
const FOOT = 26;
/** of an entry with its name */
const ENTRY = 62;
const MIDDLE = WIDE / 2;

/** The well as it hangs: every depth an entry that stands where it is. */
export function WellDrawing({ job, told }: { job: JobDocument; told: WellTold | undefined }) {
  const units = useUnits();
  const { well = {} } = job;
  const { casings = [], bottom, screen } = well;
  const top = topOf(job);
  const levels = levelsOf(job.source);
  const depth = pumpDepth(job);
  const standing = {
    low: top - levels.low,
    normal: top - levels.normal,
    high: top - levels.high,
  };
  const window = told?.window;
  const pumping = told?.seasons[0]?.pumping;
  const deepest = Math.max(
    bottom ?? 0,
    depth + 2,
    standing.low,
    pumping ?? 0,
    screen?.to ?? 0,
    ...casings.map(({ to }) => Math.min(to, bottom ?? to)),
  );
  const y = (down: number) => TOP + (Math.max(down, 0) / deepest) * (HIGH - TOP - FOOT);
  const range = { quantity: "length" as const, range: RANGES.depth };
  const left = spread<Field>(
    [
      ...(["high", "normal", "low"] as const).map((season) => ({
        key: season,
        at: y(standing[season]),
        field: (
          <JobQuantity
            {...range}
            label={`${SEASONS[season].replace(" ", "-")} water`}
            value={standing[season]}
            onChange={(value) => edit((j) => withStanding(j, season, value))}
          />
        ),
      })),
      ...(pumping === undefined
        ? []
        : [
            {
              key: "pumping",
              at: y(pumping),
              field: (
                <p className="text-[13px] leading-tight text-soft">
                  pumped to
                  <span className="plate block text-[19px] text-ink">
                    {format(pumping, "length", units)}
                  </span>
                </p>
              ),
            },
          ]),
    ],
    { high: ENTRY, from: TOP - 44, to: HIGH },
  );
  const right = spread<Field>(
    [
      {
        key: "bore",
        at: TOP - 24,
        field: <CasingBore casings={casings} to={bottom ?? deepest} />,
      },
      {
        key: "pump",
        at: y(depth),
        field: <PumpDepth job={job} label="Pump’s intake" />,
      },
      ...(screen
        ? (["from", "to"] as const).map((end) => ({
            key: `screen-${end}`,
            at: y(screen[end]),
            field: (
              <JobQuantity
                {...range}
                optional
                label={end === "from" ? "Screen, top" : "Screen, foot"}
                value={screen[end]}
                onChange={(value) =>
                  setWell({
                    screen: value === undefined ? undefined : { ...screen, [end]: value },
                  })
                }
              />
            ),
          }))
        : []),
      {
        key: "bottom",
        at: y(bottom ?? deepest),
        field: (
          <JobQuantity
            {...range}
            label="Bottom"
            optional
            value={bottom}
            onChange={(value) => setWell({ bottom: value })}
          />
        ),
      },
    ],
    { high: ENTRY, from: TOP - 50, to: HIGH },
  );
  return (
    <div className="p-3 lg:pr-0">
      <div
        className="relative w-full rounded border border-rule bg-sheet"
        style={{ height: HIGH }}
        data-testid="well-drawing"
      >
        <svg
          viewBox={`0 0 ${WIDE} ${HIGH}`}
          preserveAspectRatio="none"
          className="absolute inset-0 size-full"
          role="img"
        >
          <title>The well from its top to its bottom</title>
          <Hole {...{ job, y, standing, pumping, depth, deepest }} />
          {window?.top && Number.isFinite(window.to) && window.to > window.from && (
            <g>
              <rect
                x={MIDDLE + 33}
                y={y(window.from)}
                width={9}
                height={Math.max(y(window.to) - y(window.from), 2)}
                className="fill-pump"
                opacity={0.55}
              />
            </g>
          )}
          {left.map(({ key, at, centre }) => (
            <Leader key={key} from={MIDDLE - 30} at={at} to={118} centre={centre} />
          ))}
          {right.slice(1).map(({ key, at, centre }) => (
            <Leader key={key} from={MIDDLE + 30} at={at} to={WIDE - 118} centre={centre} />
          ))}
        </svg>
        {[left, right].map((side, i) => (
          <div key={i === 0 ? "levels" : "casing"}>
            {side.map(({ key, centre, field }) => (
              <div
                key={key}
                className={`absolute w-[28.5%] max-w-32 rounded-sm bg-sheet/90 ${i === 0 ? "left-1.5" : "right-1.5"}`}
                style={{ top: centre - ENTRY / 2 }}
              >
                {field}
              </div>
            ))}
          </div>
        ))}
      </div>
      <p className="pt-1 text-[13px] text-soft">
        All depths down from the casing’s top.
        {window?.top &&
          Number.isFinite(window.to) &&
          window.to > window.from &&
          ` The bar beside the pump is where it may hang: ${format(window.from, "length", units)} to ${format(window.to, "length", units)}.`}
      </p>
      <Casings {...{ job, deepest }} />
    </div>
  );
}

/** The first casing's bore: it is not told while there is none, and cannot be emptied while others lie in it. */
function CasingBore({ casings, to }: { casings: Casings; to: number }) {
  const [first] = casings;
  const entry = { label: "Casing across", quantity: "diameter", range: RANGES.bore } as const;
  return first ? (
    <JobQuantity
      {...entry}
      value={first.bore}
      onChange={(bore) => setWell({ casings: casings.with(0, { ...first, bore }) })}
    />
  ) : (
    <JobQuantity
      {...entry}
      optional
      value={undefined}
      onChange={(bore) => bore !== undefined && setWell({ casings: [{ bore, from: 0, to }] })}
    />
  );
}

type Casings = NonNullable<NonNullable<JobDocument["well"]>["casings"]>;

interface Field extends Placed {
  key: string;
  field: React.ReactNode;
}

function Leader({
  from,
  at,
  to,
  centre,
}: {
  from: number;
  at: number;
  to: number;
  centre: number;
}) {
  return (
    <path
      d={`M${from} ${at}L${(from + to) / 2} ${at}L${to} ${centre}`}
      fill="none"
      className="stroke-soft"
      strokeWidth={1}
      vectorEffect="non-scaling-stroke"
    />
  );
}

/** Ground, casing, water, pipe, pump. */
function Hole({
  job,
  y,
  standing,
  pumping,
  depth,
  deepest,
}: {
  job: JobDocument;
  y: (down: number) => number;
  standing: Record<"low" | "normal" | "high", number>;
  pumping: number | undefined;
  depth: number;
  deepest: number;
}) {
  const { casings = [], bottom = deepest, screen, sleeve, motor = 0.6 } = job.well ?? {};
  const widest = Math.max(...casings.map(({ bore }) => bore), 0.1);
  const half = (bore: number) => 12 + 14 * (bore / widest);
  const lined = casings.length > 0 ? casings : [{ bore: widest, from: 0, to: bottom }];
  const water = standing.normal;
  const length = Math.max((motor / deepest) * (HIGH - TOP - FOOT), 20);
  return (
    <g>
      <rect y={TOP} width={WIDE} height={HIGH - TOP} className="fill-press" opacity={0.55} />
      {/* the ground's own water, and how pumping dents it */}
      <path
        d={`M0 ${y(water)}${
          pumping === undefined
            ? "L"
            : `C${MIDDLE - 90} ${y(water)} ${MIDDLE - 34} ${(y(water) + y(pumping)) / 2} ${MIDDLE - 24} ${y(pumping)}L${MIDDLE + 24} ${y(pumping)}C${MIDDLE + 34} ${(y(water) + y(pumping)) / 2} ${MIDDLE + 90} ${y(water)} `
        }${WIDE} ${y(water)}V${HIGH}H0Z`}
        className="fill-water"
        opacity={0.13}
      />
      <path
        d={`M0 ${TOP}H${WIDE}`}
        className="stroke-ink"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      {lined.map(({ bore, from, to }, i) => (
        <g key={i}>
          <rect
            x={MIDDLE - half(bore)}
            y={y(from) - (from === 0 ? 14 : 0)}
            width={2 * half(bore)}
            height={Math.max(y(Math.min(to, bottom)) - y(from) + (from === 0 ? 14 : 0), 1)}
            className="fill-sheet"
          />
        </g>
      ))}
      <rect
        x={MIDDLE - half(lined[0]?.bore ?? widest) + 2}
        y={y(pumping ?? water)}
        width={2 * half(lined[0]?.bore ?? widest) - 4}
        height={Math.max(y(bottom) - y(pumping ?? water), 0)}
        className="fill-water"
        opacity={0.35}
      />
      {pumping !== undefined && (
        <rect
          x={MIDDLE - half(lined[0]?.bore ?? widest) + 2}
          y={y(standing.low)}
          width={2 * half(lined[0]?.bore ?? widest) - 4}
          height={Math.max(y(pumping) - y(standing.low), 0)}
          className="fill-water"
          opacity={0.14}
        />
      )}
      {lined.map(({ bore, from, to }, i) => (
        <path
          key={i}
          d={`M${MIDDLE - half(bore)} ${y(from) - (from === 0 ? 14 : 0)}V${y(Math.min(to, bottom))}M${MIDDLE + half(bore)} ${y(from) - (from === 0 ? 14 : 0)}V${y(Math.min(to, bottom))}`}
          className="stroke-ink"
          strokeWidth={2.5}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {screen && (
        <path
          d={`M${MIDDLE - 26} ${y(screen.from)}V${y(screen.to)}M${MIDDLE + 26} ${y(screen.from)}V${y(screen.to)}`}
          className="stroke-sheet"
          strokeWidth={4}
          strokeDasharray="4 5"
          vectorEffect="non-scaling-stroke"
        />
      )}
      <path
        d={`M${MIDDLE - half(widest)} ${y(bottom)}H${MIDDLE + half(widest)}`}
        className="stroke-ink"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      {(["high", "normal", "low"] as const).map((season) => (
        <path
          key={season}
          d={`M${MIDDLE - half(widest)} ${y(standing[season])}H${MIDDLE + half(widest)}`}
          className="stroke-water"
          strokeWidth={season === "normal" ? 2.5 : 1.5}
          strokeDasharray={season === "normal" ? undefined : "5 4"}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {pumping !== undefined && (
        <path
          d={`M${MIDDLE - half(widest)} ${y(pumping)}H${MIDDLE + half(widest)}`}
          className="stroke-water"
          strokeWidth={3}
          vectorEffect="non-scaling-stroke"
        />
      )}
      <path
        d={`M${MIDDLE} ${TOP - 26}V${y(depth)}`}
        className="stroke-ink"
        strokeWidth={4}
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={`M${MIDDLE} ${TOP - 26}H${WIDE * 0.62}`}
        className="stroke-ink"
        strokeWidth={4}
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={`M${MIDDLE + 5} ${TOP - 14}V${y(depth)}`}
        className="stroke-soft"
        strokeWidth={1.2}
        vectorEffect="non-scaling-stroke"
      />
      {sleeve !== undefined && (
        <path
          d={`M${MIDDLE - 12} ${y(depth) - 6}V${y(depth) + length + 3}M${MIDDLE + 12} ${y(depth) - 6}V${y(depth) + length + 3}M${MIDDLE - 12} ${y(depth) - 6}H${MIDDLE + 12}`}
          className="stroke-soft"
          strokeWidth={2}
          fill="none"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {/* pump over its motor, the intake between them */}
      <rect x={MIDDLE - 8} y={y(depth) - 18} width={16} height={18} rx={2} className="fill-pump" />
      <rect
        x={MIDDLE - 8}
        y={y(depth) + 3}
        width={16}
        height={length}
        rx={3}
        className="fill-pump"
        opacity={0.7}
      />
    </g>
  );
}

/** What lines the well beside its first casing, and whether it has a screen. */
function Casings({ job, deepest }: { job: JobDocument; deepest: number }) {
  const { casings = [], screen, bottom } = job.well ?? {};
  const more = casings.slice(1);
  return (
    <div className="grid gap-2 pt-2">
      {more.map((own, k) => {
        const i = k + 1;
        const set = (patch: Partial<typeof own>) =>
          setWell({ casings: casings.with(i, { ...own, ...patch }) });
        return (
          <div key={i} className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
            <JobQuantity
              label={`Liner ${i}, across`}
              quantity="diameter"
              range={RANGES.bore}
              value={own.bore}
              onChange={(bore) => set({ bore })}
            />
            <JobQuantity
              label="from"
              quantity="length"
              range={RANGES.depthOrNone}
              value={own.from}
              onChange={(from) => set({ from })}
            />
            <JobQuantity
              label="to"
              quantity="length"
              range={RANGES.depth}
              value={own.to}
              onChange={(to) => set({ to })}
            />
            <IconButton
              label={`Take liner ${i} out`}
              onClick={() => setWell({ casings: casings.toSpliced(i, 1) })}
            >
              <Trash2 size={16} aria-hidden />
            </IconButton>
          </div>
        );
      })}
      <div className="flex flex-wrap gap-2">
        <Button
          disabled={casings.length === 0 || casings.length >= 20}
          onClick={() =>
            setWell({
              casings: [
                ...casings,
                {
                  bore: (casings.at(-1)?.bore ?? 0.15) * 0.67,
                  from: Math.round(0.4 * deepest),
                  to: bottom ?? deepest,
                },
              ],
            })
          }
        >
          <Plus size={16} aria-hidden /> A narrower casing or liner
        </Button>
        {!screen && (
          <Button
            onClick={() =>
              setWell({
                screen: {
                  from: Math.round(0.85 * (bottom ?? deepest)),
                  to: Math.round(0.98 * (bottom ?? deepest)),
                },
              })
            }
          >
            <Plus size={16} aria-hidden /> A screen
          </Button>
        )}
      </div>
      <div className="max-w-40">
        <JobQuantity
          label="Casing’s top over level 0"
          optional
          quantity="length"
          range={RANGES.elevation}
          value={job.well?.top}
          onChange={(top) => setWell({ top })}
        />
      </div>
      <p className="text-[13px] text-soft">
        Slotted all the way up is no screen: leave it out, and fit a sleeve so that water passes the
        motor.
      </p>
    </div>
  );
}
