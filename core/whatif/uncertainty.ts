import { waterAt } from "../fluid/water.ts";
import { NotBalanced } from "../hydraulics/flowsAlong.ts";
import type { LossContext } from "../hydraulics/lineLoss.ts";
import { settledDuty } from "../hydraulics/operatingPoint.ts";
import { workCase } from "../hydraulics/solveLine.ts";
import type { CompiledLine } from "../line/compiledLine.ts";
import { compileLine } from "../line/compileLine.ts";
import type { Line } from "../line/path.ts";
import { latinHypercube } from "../numeric/latinHypercube.ts";
import { type PumpCurve, pumpCurve } from "../pump/curve.ts";
import { type Pump, TOLERANCE } from "../pump/pump.ts";

/**
 * How far the inputs of a line are in doubt, each as the half-width of a uniform spread. Common practice,
 * no source.
 */
export interface Doubt {
  /** m, of every level */
  level: number;
  /** roughness between 1/factor and factor times the stock's */
  roughnessFactor: number;
  /** fraction, of Hazen–Williams C */
  hazenWilliamsC: number;
  /** fraction, of every K and equivalent length */
  fittings: number;
}

/** Draws for a band shown to a person. */
export const USUAL_DRAWS = 1000;

export const USUAL_DOUBT: Doubt = {
  level: 0.05,
  roughnessFactor: 2,
  hazenWilliamsC: 0.05,
  fittings: 0.2,
};

/** Where nineteen of twenty duties lie, and the middle one. SI. */
export interface Band {
  /** m³/s at the outlet */
  flow: Spread;
  /** m, total head of the pump */
  head: Spread;
  /** draws that settled, of all that were tried */
  settled: number;
  tried: number;
}

export interface Spread {
  low: number;
  middle: number;
  high: number;
}

/**
 * Band of the duty at the normal level from a Latin hypercube over doubtful levels, roughness, fittings
 * and the pump's own tolerance. Undefined where fewer than half of the draws settle, or the line is
 * refused. `count` draws, at least 20.
 */
export function dutyBand(
  line: Line,
  pumps: readonly Pump[],
  doubt: Doubt,
  count: number,
): Band | undefined {
  const compilation = compileLine(line);
  if (compilation.kind === "refused") return undefined;
  const compiled = compilation.line;
  const plates = compiled.pumps.flatMap(({ item }) => {
    const pump = pumps.find(({ id }) => id === item.pump);
    return pump ? [{ pump, speed: item.speedRatio ?? 1 }] : [];
  });
  if (plates.length < compiled.pumps.length) return undefined;
  const water = waterAt(line.site.waterTemperature, line.site.specificGravity);
  const context = { water, friction: line.method.friction };
  const flows: number[] = [];
  const heads: number[] = [];
  for (const draw of latinHypercube(count, 3 + plates.length, 20_061)) {
    const [level, rough, fitting, ...strengths] = draw.map((u) => 2 * u - 1) as Draw;
    const drawn = doubted(compiled, doubt, level, rough, fitting);
    const curves = plates.map(({ pump, speed }, i) =>
      pumpCurve(withStrength(pump, strengths[i] as number), speed),
    );
    const settled = settle(drawn, curves, context);
    if (!settled) continue;
    flows.push(settled.flow);
    heads.push(settled.head);
  }
  if (flows.length * 2 < count) return undefined;
  return { flow: spread(flows), head: spread(heads), settled: flows.length, tried: count };
}

/** m³/s at the outlets, and m the pumps make. */
function settle(line: CompiledLine, curves: PumpCurve[], context: LossContext) {
  try {
    const { outcome, delivered } = workCase(line, curves, "normal", context);
    const duty = settledDuty(outcome);
    return duty && delivered !== undefined && { flow: delivered, head: duty.head };
  } catch (error) {
    if (error instanceof NotBalanced) return undefined;
    throw error;
  }
}

type Draw = [level: number, rough: number, fitting: number, ...strengths: number[]];

/** The line with its inputs moved, each by −1 … 1 of its doubt. */
function doubted(
  line: CompiledLine,
  doubt: Doubt,
  level: number,
  rough: number,
  fitting: number,
): CompiledLine {
  const scale = 1 + fitting * doubt.fittings;
  const segments = line.segments.map((segment) => {
    const run = segment.run && {
      ...segment.run,
      roughness: segment.run.roughness * doubt.roughnessFactor ** rough,
      hazenWilliamsC: segment.run.hazenWilliamsC * (1 - rough * doubt.hazenWilliamsC),
      length: segment.run.length * (segment.kind === "pipe" ? 1 : scale),
    };
    // What a jet carries away is no doubt of a table.
    const fixed =
      segment.kind === "exit" || segment.kind === "nozzle" || segment.kind === "emitter";
    return { ...segment, k: fixed ? segment.k : segment.k * scale, ...(run && { run }) };
  });
  const { source } = line;
  const normal = source.level.normal + level * doubt.level;
  return { ...line, segments, source: { ...source, level: { ...source.level, normal } } };
}

/** The pump a fraction of its tolerance better or worse than its plate. */
function withStrength(pump: Pump, strength: number): Pump {
  const { flow, head } = TOLERANCE[pump.tolerance];
  const points = pump.points.map((point) => ({
    ...point,
    flow: point.flow * (1 + strength * flow),
    head: point.head * (1 + strength * head),
  }));
  return { ...pump, points };
}

function spread(values: number[]): Spread {
  const sorted = values.toSorted((a, b) => a - b);
  const at = (fraction: number) => sorted[Math.round(fraction * (sorted.length - 1))] as number;
  return { low: at(0.025), middle: at(0.5), high: at(0.975) };
}
