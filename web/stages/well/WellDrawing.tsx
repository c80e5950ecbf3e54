import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { levelsOf } from "#core/line/path.ts";
import { pumpDepth, topOf, withStanding } from "#model/well/settle.ts";
import type { WellResult } from "#model/well/well.ts";
import { SEASONS } from "#words/well.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { edit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Casings } from "./Casings.tsx";
import { setWell } from "./edits.ts";
import { FOOT, HIGH, Hole, MIDDLE, TOP, WIDE } from "./HoleShapes.tsx";
import { PumpDepth } from "./PumpDepth.tsx";
import { type Placed, spread } from "./spread.ts";

/** of an entry with its name */
const ENTRY = 62;

/** The well as it hangs: every depth an entry that stands where it is. */
export function WellDrawing({ job, told }: { job: JobDocument; told: WellResult | undefined }) {
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
function CasingBore({ casings, to }: { casings: CasingList; to: number }) {
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

type CasingList = NonNullable<NonNullable<JobDocument["well"]>["casings"]>;

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
