import type { FieldDocument } from "#contract/documents/job.ts";
import {
  agreement,
  type CanAgreement,
  type CanResult,
  type CansAsked,
  canTest,
  depthInCan,
} from "#core/irrigation/catchCans.ts";
import type { GunResult } from "./guns.ts";
import { MODEL_UNCERTAINTY, WIND } from "./usual.ts";

type Cans = NonNullable<FieldDocument["cans"]>;

/** A catch-can test of a job: what it comes to, and beside what the line says of the gun. */
export interface CansResult {
  test: CanResult;
  agreement?: CanAgreement;
  /** m³/s the line says */
  flow?: number;
  /** the cans as depths: along their leg, or on their grid */
  placed: { x: number; y: number; depth: number }[];
}

export function cansOf(field: FieldDocument, gun: GunResult | undefined): CansResult | undefined {
  const { cans } = field;
  if (!cans) return undefined;
  const asked = askedOf(cans, gun?.gun.arc ?? 360);
  const test = canTest(asked, cans.seconds ?? 0);
  const told: CansResult = { test, placed: placesOf(asked) };
  if (test.kind !== "tested" || !gun || !(gun.flow > 0)) return told;
  const { flow, thrown } = gun;
  return {
    ...told,
    flow,
    agreement: agreement({
      ...{ test, flow, flowUncertainty: MODEL_UNCERTAINTY * flow },
      thrown: thrown.kind === "throws" ? thrown : undefined,
      wind: cans.wind ?? field.wind ?? WIND,
    }),
  };
}

/** The cans somebody looked into. */
function askedOf(cans: Cans, arc: number): CansAsked {
  const depthOf = ({ depth, volume }: Cans["cans"][number]) => {
    if (cans.measure !== "volume") return depth;
    return volume === undefined || !cans.mouth ? undefined : depthInCan(volume, cans.mouth);
  };
  if (cans.layout === "grid") {
    const { along = 1, across = 1 } = cans.apart ?? {};
    const columns = cans.columns ?? 1;
    return {
      layout: "grid",
      ...{ along, across },
      cans: cans.cans.flatMap((can, i) => {
        const depth = depthOf(can);
        if (depth === undefined) return [];
        return [{ x: (i % columns) * along, y: -Math.floor(i / columns) * across, depth }];
      }),
    };
  }
  return {
    layout: "legs",
    arc,
    cans: cans.cans.flatMap((can) => {
      const depth = depthOf(can);
      const { leg = 0, distance } = can;
      return depth === undefined || distance === undefined ? [] : [{ leg, distance, depth }];
    }),
  };
}

function placesOf(asked: CansAsked) {
  if (asked.layout === "grid") return asked.cans.map(({ x, y, depth }) => ({ x, y, depth }));
  const order = [...new Set(asked.cans.map(({ leg }) => leg))];
  return asked.cans.map(({ leg, distance, depth }) => {
    const angle = (2 * Math.PI * order.indexOf(leg)) / order.length;
    return { x: distance * Math.sin(angle), y: distance * Math.cos(angle), depth };
  });
}
