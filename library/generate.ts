import type { PumpInput } from "#contract/documents/pump.ts";
import { GRAVITY } from "#core/quantity/constants.ts";
import { curveFromPlate, DENSITY, type Plate } from "./curveFromPlate.ts";
import { FAMILIES, type Row } from "./plates.ts";

/**
 * An invented pump from its size and its family, with the physics real ones have: a larger pump is the more efficient,
 * power rises to run-out, the current of its motor is a steady part that magnetises it and one that goes with power,
 * an engine gives a quarter more than the shaft ever asks for, and what it needs at its inlet goes with speed and flow.
 * What a row says itself stands.
 */
export function generate(row: Row): PumpInput {
  const { best, plate: own = {}, ...said } = row;
  const [bestFlow, bestHead] = best;
  const family = FAMILIES[row.kind];
  const { drive, submersible } = { ...family, ...said };
  const rpm = Number(said.ratedSpeedRpm ?? family.rpm);
  const plate: Plate = {
    ...{ bestFlow, bestHead, runout: family.runout },
    shutoffHead: bestHead * family.droop,
    bestEfficiency: efficiencyOf(family, bestFlow),
    powerAtShutOff: family.atShutOff,
    ...(!submersible && { npshAtBest: npshOf(rpm, bestFlow) }),
    ...own,
  };
  const bestPower = (DENSITY * GRAVITY * bestFlow * bestHead) / plate.bestEfficiency;
  const points = curveFromPlate(plate);
  const most = Math.max(...points.map(({ power = 0 }) => Number(power)));
  const port = Math.sqrt((4 * bestFlow) / (Math.PI * PORT_SPEED));
  const electric = drive === "electric" ? motorOf(row, most) : undefined;
  const round = (value: number, digits = 2) => Number(value.toPrecision(digits));
  return {
    ...{ format: "upright-gusher/pump", version: 3, invented: true },
    ...{ drive, submersible, ratedSpeedRpm: rpm, tolerance: family.tolerance },
    dischargePort: PORTS.find((size) => size >= port * 0.95) ?? port,
    ...(!submersible && { suctionPort: PORTS.find((size) => size >= port * 1.05) ?? port }),
    ...(family.lift !== undefined && { maxSuctionLift: family.lift }),
    ...(family.passes !== undefined && { solids: round(family.passes * Math.sqrt(bestFlow)) }),
    ...(family.leastDepth !== undefined && { leastDepth: family.leastDepth }),
    ...(family.immersion !== undefined && { greatestImmersion: family.immersion }),
    ...(family.film !== undefined && { film: family.film }),
    ...(family.startsPerHour !== undefined && { startsPerHour: family.startsPerHour }),
    ...(family.leastFlow !== undefined && { leastFlow: round(family.leastFlow * bestFlow) }),
    ...(submersible && { diameter: round(0.13 + 0.9 * Math.sqrt(bestFlow) * 0.8) }),
    greatestTemperature: family.warmest,
    mass: round(family.mass[0] + family.mass[1] * most),
    price: Math.round((family.price[0] + family.price[1] * most) / 5) * 5,
    spares: true,
    family: "radial",
    ...(drive === "engine" && { engine: engineOf(most) }),
    ...said,
    ...(electric && { electric: { ...electric.plate, ...said.electric } }),
    points: electric
      ? points.map((point) => ({ ...point, current: electric.currentAt(Number(point.power)) }))
      : points,
    ...(row.kind === "circulation" && { speeds: driveOf(rpm, bestPower) }),
  } as PumpInput;
}

/** Speed of the water in a pump's port, m/s, and ports as they are made, m. */
const PORT_SPEED = 2.4;
const PORTS = [0.0254, 0.03175, 0.0381, 0.0508, 0.0635, 0.0762, 0.1016, 0.1524];

/** A small one is half as good as a large one, and makes it up as it grows. */
const efficiencyOf = ({ efficiency, grows }: (typeof FAMILIES)["sump"], flow: number) =>
  efficiency * (1 - 0.5 * Math.exp(-flow / grows));

/** m: (n √Q / S)^(4/3), with rpm and m³/s, and S of an ordinary inlet (from memory: 150 to 220 in these units). */
const npshOf = (rpm: number, flow: number) => ((rpm * Math.sqrt(flow)) / 130) ** (4 / 3);

/** V, A and what a motor draws at a power: √(I_m² + I_p²), I_m half of what it takes working at full load. */
function motorOf({ kind, electric = {} }: Row, most: number) {
  const direct = electric.direct ?? kind === "battery";
  const volts = electric.volts ?? (direct ? 12 : most > 2600 ? 400 : 230);
  const phase = electric.phase ?? (volts >= 380 ? 3 : 1);
  const working = (power: number) => power / (volts * (phase === 3 ? Math.sqrt(3) : 1));
  const magnetising = direct ? 0 : 0.55 * working(most);
  const currentAt = (power: number) =>
    Number(Math.hypot(magnetising, working(power)).toPrecision(3));
  const full = currentAt(most);
  return {
    currentAt,
    plate: {
      ...(direct ? { volts, direct } : { volts, phase }),
      runningCurrent: full,
      startingCurrent: Number((full * (direct ? 2.5 : 5.5)).toPrecision(2)),
      ...(!direct && { powerFactor: Number((working(most) / full).toPrecision(2)) }),
      ...(phase === 1 && !direct && { cord: 10, plug: "earthed" }),
    },
  };
}

/** A quarter more than is ever asked for, and a tank that lasts about two hours at that. */
const engineOf = (most: number) => ({
  power: Math.round((most * 1.25) / 100) * 100,
  fuel: "petrol",
  tank: Number((most * 7.7e-7 + 4e-4).toPrecision(2)),
});

/** A drive that turns it from three tenths up, and what was read of it at six speeds: 6 % of it idle, the rest with n³. */
function driveOf(rpm: number, bestPower: number): PumpInput["speeds"] {
  const idle = 0.06 * bestPower;
  return {
    least: Math.round(0.3 * rpm),
    most: rpm,
    sweep: [0.3, 0.45, 0.6, 0.75, 0.9, 1].map((part) => ({
      speed: Math.round(part * rpm),
      power: Number((idle + (bestPower - idle) * part ** 3).toPrecision(3)),
    })),
  };
}
