import { pressureHead, sourcePressure } from "../hydraulics/boundary.ts";
import { suctionOf } from "../line/compiledLine.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import { pumpCurve } from "../pump/curve.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { measuredFlow } from "./instruments.ts";
import { fitTest, type Test, type Unknown } from "./pumpOrLine.ts";
import { type GaugedReading, isGauged, isOpen, type Reading } from "./reading.ts";
import { lossBeforePump } from "./totalHead.ts";

/** One reading more that would tell more of what is asked for. */
export type Extra =
  /** what was read, again with a gauge at the pump's port */
  | "gauge-at-pump"
  /** the same gauge with the valve half shut, and with it shut */
  | "throttled"
  | "shut"
  /** open once more, where only throttled readings were taken */
  | "open"
  /** the water's level by tape */
  | "level";

export interface Gain {
  extra: Extra;
  /** standard uncertainty with it */
  after: number;
}

/**
 * What one more reading would make of the doubt in `unknown`, the most telling first. What is expected of it is
 * worked out from the pump as published, since the doubt hardly depends on what is read.
 * @param shutAllowed whether the discharge may be shut
 */
export function extraReadings(
  test: Test,
  asked: readonly Unknown[],
  unknown: Unknown,
  shutAllowed: boolean,
): Gain[] {
  const { readings } = test;
  const most = Math.max(...readings.map(({ flow }) => measuredFlow(flow).value));
  const fullest = readings.find(({ flow }) => measuredFlow(flow).value === most);
  if (!fullest || most <= 0) return [];
  const gauged = readings.some(isGauged);
  const candidates: [Extra, boolean, () => Reading | undefined][] = [
    ["gauge-at-pump", !gauged, () => atPump(test, fullest, most)],
    ["open", !readings.some(isOpen), () => atPump(test, { ...fullest, throttled: false }, most)],
    ["throttled", gauged, () => atPump(test, { ...fullest, throttled: true }, most / 2)],
    [
      "shut",
      gauged && shutAllowed,
      () => atPump(test, { ...fullest, flow: { method: "shut" } }, 0),
    ],
    ["level", !asked.includes("level"), () => leveled(test, fullest)],
  ];
  return candidates
    .flatMap(([extra, offered, make]): Gain[] => {
      const reading = offered ? make() : undefined;
      if (!reading) return [];
      const more =
        extra === "gauge-at-pump" || extra === "level"
          ? instead(readings, fullest, reading)
          : [...readings, reading];
      const found = fitTest({ ...test, readings: more }, asked);
      const value = found.kind === "found" ? found.values[unknown] : undefined;
      return value
        ? [
            {
              extra,
              after: value.standardUncertainty / (found.kind === "found" ? found.scatter : 1),
            },
          ]
        : [];
    })
    .toSorted((a, b) => a.after - b.after);
}

const instead = (readings: readonly Reading[], old: Reading, reading: Reading) =>
  readings.map((own) => (own === old ? reading : own));

/** A reading with a gauge of a usual class at the pump's port, as the published curve has it. */
function atPump({ on, pump, at }: Test, like: Reading, flow: number): GaugedReading | undefined {
  const placed = on.line.pumps[at];
  const curve = pumpCurve(pump, like.speedRatio ?? placed?.item.speedRatio ?? 1);
  const drawn = lossBeforePump(on.model, at)(flow);
  if (!placed || drawn === undefined || flow < curve.firstFlow || flow > curve.lastFlow)
    return undefined;
  const known = like.suction?.kind === "water-level" ? like.suction.level : undefined;
  const level = known ?? waterLevel(on);
  const bore =
    on.line.segments[on.line.passed.get(placed.item.id) ?? 0]?.stock?.bore ??
    suctionOf(on.line, placed).at(-1)?.bore;
  const head = level + evaluate(curve.head, flow) - drawn - placed.elevation;
  const pressure = (head - (bore ? velocityHead(flow, bore) : 0)) * on.water.density * GRAVITY;
  const shut = (level + curve.peak.head - placed.elevation) * on.water.density * GRAVITY;
  return {
    ...like,
    flow: scaled(like.flow, flow),
    discharge: like.discharge
      ? { ...like.discharge, pressure, elevation: placed.elevation, afterItemId: placed.item.id }
      : {
          pressure,
          // No dial that ends below what the pump makes shut off.
          fullScale: Math.max(USUAL_SCALE * pressure, shut, 1e5),
          accuracyClass: USUAL_CLASS,
          elevation: placed.elevation,
          afterItemId: placed.item.id,
        },
    suction: like.suction ?? { kind: "water-level", level, tolerance: BY_TAPE },
  };
}

function leveled({ on }: Test, like: Reading): Reading | undefined {
  const level = like.suction?.kind === "water-level" ? like.suction.level : waterLevel(on);
  if (like.suction?.kind === "gauge") return undefined;
  return { ...like, suction: { kind: "water-level", level, tolerance: BY_TAPE } };
}

/** The level of the water as entered in the job, m: the solver's boundary without a closed tank's pressure. */
function waterLevel(on: Test["on"]): number {
  return on.boundaries.normal.source - pressureHead(sourcePressure(on.line.source), on.water);
}

/** A measurement of the same kind with another flow. */
function scaled(measurement: Reading["flow"], flow: number): Reading["flow"] {
  const own = measuredFlow(measurement);
  if (measurement.method === "shut" || own.value === 0) return measurement;
  const tolerance = (own.standardUncertainty / own.value) * Math.sqrt(3);
  return { method: "meter", flow, tolerance };
}

/** Full scale over what a well-chosen gauge reads, its class, and the half-width of a level by tape in m. Common practice, no source. */
const USUAL_SCALE = 1.5;
const USUAL_CLASS = 0.016;
const BY_TAPE = 0.01;
