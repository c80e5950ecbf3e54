import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { affinityMiss, pumpCurve } from "#core/pump/curve.ts";
import { toleranceOf } from "#core/pump/pump.ts";
import { PLATE_FIELDS, valueAt } from "#model/import/pumpTable/fields.ts";
import { CURVE_WAY_NAMES, plateValue } from "#words/plate.ts";
import { api } from "../api/client.ts";
import { allPumps, oneOf, queries } from "../api/queries.ts";
import { CurvePlot } from "../charts/CurvePlot.tsx";
import { Picture } from "../pictures/Picture.tsx";
import { AssetsOfPump } from "../pumpAssets/AssetsOfPump.tsx";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { deletedToast } from "../ui/deletedToast.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";
import { toast } from "../ui/toast.ts";

/** One pump: its plate, its published points and its curve. */
export default function PumpPage() {
  const { id = "" } = useParams();
  const query = useQuery(oneOf("pumps", id));
  if (query.isPending) return <Loading what="the pump" />;
  if (query.isError) {
    return "status" in query.error && query.error.status === 404 ? (
      <Empty title="There is no such pump">It may not be loaded yet: see the pump library.</Empty>
    ) : (
      <Trouble error={query.error} onRetry={() => void query.refetch()} />
    );
  }
  return <Plate pump={query.data.document} />;
}

/** Leaves the pump where it is and offers it no more, or again. */
function ArchivePump({ pump }: { pump: PumpDocument }) {
  const query = useQuery(oneOf("pumps", pump.id));
  async function turn(): Promise<void> {
    const { archived, ...rest } = pump;
    const next = archived ? rest : { ...pump, archived: true };
    try {
      await api.save("pumps", pump.id, query.data?.revision ?? 0, next);
      await queries.invalidateQueries({ queryKey: allPumps.queryKey });
      await query.refetch();
    } catch (error) {
      toast.error(`Not saved. ${(error as Error).message}`);
    }
  }
  return <Button onClick={() => void turn()}>{pump.archived ? "Offer again" : "Archive"}</Button>;
}

/** Takes the pump out of the library; jobs keep the copies they hold. */
function DeletePump({ pump }: { pump: PumpDocument }) {
  const navigate = useNavigate();
  const refresh = () => queries.invalidateQueries({ queryKey: allPumps.queryKey });
  async function remove(): Promise<void> {
    try {
      await api.remove("pumps", pump.id);
      await refresh();
      await navigate("/pumps");
      deletedToast(`${pump.maker} ${pump.model} deleted. Jobs that use it keep their copy.`, () =>
        api.restore("pumps", pump.id).then(refresh),
      );
    } catch (error) {
      toast.error((error as Error).message);
    }
  }
  return <Button onClick={() => void remove()}>Delete</Button>;
}

/** The other lines of its sheet: each may be made a pump of its own. */
function OtherLines({
  pump,
  lines,
}: {
  pump: PumpDocument;
  lines: NonNullable<PumpDocument["otherLines"]>;
}) {
  const units = useUnits();
  const said = ({ speed, points }: (typeof lines)[number]): string => {
    const last = points.at(-1);
    const reach = last
      ? `to ${format(last.flow, "flow", units)} at ${format(last.head, "head", units)}`
      : "";
    if (speed === undefined) return reach;
    const miss = affinityMiss(pump, speed / pump.ratedSpeedRpm, points);
    const laws =
      miss === undefined
        ? ""
        : `; the affinity laws put it within ${formatPercent(miss, 1)} of its head`;
    return `${format(speed, "speed", units)}, ${reach}${laws}`;
  };
  return (
    <section aria-label="Other lines of its sheet" className="mt-4">
      <h2 className="plate text-[19px]">Other lines of its sheet</h2>
      <ul className="text-[14px]">
        {lines.map((line, i) => (
          <li
            key={i}
            className="grid grid-cols-[1fr_auto] items-center gap-2 border-t border-rule py-1.5"
          >
            <p>
              <span className="plate text-[17px]">{line.name}</span>{" "}
              <span className="text-soft">{said(line)}</span>
            </p>
            <Link
              to={`/pumps/new/edit?from=${pump.id}&line=${i}`}
              className="target inline-flex items-center rounded border border-rule bg-sheet px-3 hover:bg-press"
            >
              Add as a pump
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What stands in the heading or is said in words of its own. */
const HEADED: ReadonlySet<string> = new Set(["maker", "model", "note", "tolerance"]);

function Plate({ pump }: { pump: PumpDocument }) {
  const units = useUnits();
  const of = useMemo(() => ({ pump, curve: pumpCurve(pump) }), [pump]);
  const tolerance = toleranceOf(pump);
  const facts = PLATE_FIELDS.filter(({ path }) => !HEADED.has(path)).flatMap(
    ({ path, name, kind }): [string, string][] => {
      const value = valueAt(pump, path);
      return value === undefined ? [] : [[name, plateValue(kind, path, value, units)]];
    },
  );
  facts.push([
    "Tolerance",
    `${pump.tolerance}: flow ±${formatPercent(tolerance.flow)}, head ±${formatPercent(tolerance.head)}`,
  ]);
  if (pump.curve) facts.push(["Curve from", CURVE_WAY_NAMES[pump.curve.from].toLowerCase()]);
  if (pump.curveDoubt) facts.push(["Curve in doubt by", `±${formatPercent(pump.curveDoubt)}`]);
  const pictures = [
    ...(pump.curve?.picture
      ? [{ id: pump.curve.picture, name: "Its curve as it was traced" }]
      : []),
    ...(pump.attachments ?? []).map((id, i) => ({ id, name: `Picture ${i + 1} of the pump` })),
  ];
  return (
    <div className="relative h-full overflow-y-auto">
      <div className="mx-auto grid max-w-6xl gap-x-6 p-4 lg:grid-cols-[minmax(0,1fr)_20rem]">
        <div className="lg:col-span-2">
          <div className="flex items-center gap-2">
            <h1 className="flex-1 text-3xl">
              {pump.maker} {pump.model}
            </h1>
            <ArchivePump pump={pump} />
            <DeletePump pump={pump} />
            <Link
              to={`/pumps/new/edit?from=${pump.id}`}
              className="target inline-flex items-center rounded border border-rule bg-sheet px-3 font-medium hover:bg-press"
            >
              Duplicate
            </Link>
            <Link
              to={`/pumps/${pump.id}/edit`}
              className="target inline-flex items-center rounded border border-rule bg-sheet px-3 font-medium hover:bg-press"
            >
              Change
            </Link>
          </div>
          <p className="text-soft">
            {pump.invented && "Invented, to learn on. "}
            {pump.archived && "Archived: not offered any more. "}
            {pump.note}
          </p>
          {pictures.length > 0 && (
            <div className="flex flex-wrap gap-2 pt-2">
              {pictures.map(({ id, name }) => (
                <Picture key={id} id={id} name={name} />
              ))}
            </div>
          )}
        </div>
        <div className="h-96 lg:sticky lg:top-4 lg:h-[calc(100dvh-12rem)]">
          <CurvePlot
            of={of}
            others={pump.otherLines}
            label={`Curve of ${pump.maker} ${pump.model}`}
          />
        </div>
        <div>
          <dl className="grid grid-cols-[auto_1fr]">
            {facts.map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="border-t border-rule py-1 text-[14px] text-soft">{name}</dt>
                <dd className="border-t border-rule py-1 text-right">{value}</dd>
              </div>
            ))}
          </dl>
          <table className="mt-4 w-full text-[14px]" aria-label="Published points">
            <thead className="text-[13px] text-soft">
              <tr>
                <th className="text-right font-normal">Flow</th>
                <th className="text-right font-normal">Head</th>
                <th className="text-right font-normal">Power</th>
                <th className="text-right font-normal">NPSHr</th>
              </tr>
            </thead>
            <tbody>
              {pump.points.map((point) => (
                <tr key={point.flow} className="border-t border-rule">
                  <td className="text-right">{format(point.flow, "flow", units)}</td>
                  <td className="text-right">{format(point.head, "head", units)}</td>
                  <td className="text-right">
                    {point.power === undefined ? "–" : format(point.power, "power", units)}
                  </td>
                  <td className="text-right">
                    {point.npshRequired === undefined
                      ? "–"
                      : format(point.npshRequired, "head", units)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {pump.otherLines && <OtherLines pump={pump} lines={pump.otherLines} />}
          <AssetsOfPump pumpId={pump.id} />
        </div>
      </div>
    </div>
  );
}
