import { evaluate, monotoneCubic } from "../numeric/monotoneCubic.ts";
import type { Plate, Pump, SweptSpeed } from "../pump/pump.ts";
import { type Conductor, thinnestFor, voltageDrop } from "./conductor.ts";

/** W a motor takes: V·I·pf, times √3 on three phases. */
export function inputPower(
  volts: number,
  current: number,
  powerFactor: number,
  phase: 1 | 3 = 1,
): number {
  return (phase === 3 ? Math.sqrt(3) : 1) * volts * current * powerFactor;
}

/** A of a motor that takes so many W. */
export function currentOf(
  power: number,
  volts: number,
  powerFactor: number,
  phase: 1 | 3 = 1,
): number {
  return power / inputPower(volts, 1, powerFactor, phase);
}

/** Where a plate is silent. Common practice, no source. */
export const USUAL_POWER_FACTOR = 0.85;
/** Times the running current a motor draws when it starts. Common practice, no source. */
export const USUAL_START = 6;
/** Part of a breaker that may be used all the time. Common practice, no source. */
export const BREAKER_PART = 0.8;
/** Part of the voltage a cable may take, running; above the first it is watched, above the second too much. Common practice, no source. */
export const DROP = { good: 0.03, most: 0.05 };
/** Part of its voltage a motor needs to start under load. Common practice, no source. */
export const START_VOLTAGE = 0.75;
/** Times its running power that a generator bears for a moment. Common practice, no source. */
export const GENERATOR_SURGE = 1.5;

/** W of a row of a sweep: as read, or from its amps with the plate's voltage and power factor. */
export function sweptPower({ power, current }: SweptSpeed, plate: Plate = {}): number | undefined {
  const { volts, powerFactor = USUAL_POWER_FACTOR, phase = 1, direct = false } = plate;
  if (power !== undefined || current === undefined || volts === undefined) return power;
  return inputPower(volts, current, direct ? 1 : powerFactor, direct ? 1 : phase);
}

/** How a motor stands at one duty. V, A, W; parts of one. */
export interface MotorAtWork {
  power: number;
  current: number;
  /** where the current comes from: published points, the plate, or reckoned with a usual power factor */
  currentFrom: "points" | "plate" | "usual";
  powerFactor: number;
  /** over the plate's running current; absent where the plate does not say */
  ofPlate?: number;
  /** over the cord and cable, running and at the start */
  cable?: CableAtWork;
  starting: { current: number; assumed: boolean };
  breaker?: { rating: number; part: number; fits: boolean };
  /** W a generator gives, and W the start asks of it for a moment */
  generator?: { power: number; asked: number; bears: boolean };
}

export interface CableAtWork {
  drop: number;
  /** part of the supply's voltage */
  part: number;
  atMotor: number;
  startDrop: number;
  /** part of the supply's voltage left at the motor while it starts */
  startPart: number;
  /** of this way of measuring, the thinnest that keeps the drop good and lets the motor start; absent where none does */
  enough?: Conductor;
}

export interface Feeding {
  /** of the supply; the plate's where absent */
  volts?: number | undefined;
  breaker?: number | undefined;
  /** W of a generator that feeds it */
  generator?: number | undefined;
  cable?: { length: number; conductor: Conductor } | undefined;
}

/**
 * The electricity of a pump that moves a flow in m³/s and takes a power in W at its terminals. Undefined where neither
 * plate nor supply tells the voltage.
 */
export function motorAtWork(
  pump: Pick<Pump, "points" | "electric">,
  duty: { flow: number; power: number; speedRatio?: number },
  feeding: Feeding = {},
): MotorAtWork | undefined {
  const plate: Plate = pump.electric ?? {};
  const volts = plate.volts ?? feeding.volts;
  if (volts === undefined) return undefined;
  const supply = feeding.volts ?? volts;
  const { power } = duty;
  const direct = plate.direct ?? false;
  const phase = direct ? 1 : (plate.phase ?? 1);
  const read =
    duty.speedRatio === undefined || Math.abs(duty.speedRatio - 1) < 0.02
      ? publishedCurrent(pump.points, duty.flow)
      : undefined;
  const usual = direct ? 1 : (plate.powerFactor ?? USUAL_POWER_FACTOR);
  const current = read ?? currentOf(power, volts, usual, phase);
  const powerFactor = Math.min(power / inputPower(volts, current, 1, phase), 1);
  const start = plate.startingCurrent ?? USUAL_START * (plate.runningCurrent ?? current);
  const ofPlate = plate.runningCurrent ? current / plate.runningCurrent : undefined;
  const { cable, breaker, generator } = feeding;
  return {
    ...{ power, current, powerFactor },
    currentFrom: read !== undefined ? "points" : plate.powerFactor || direct ? "plate" : "usual",
    ...(ofPlate !== undefined && { ofPlate }),
    starting: { current: start, assumed: plate.startingCurrent === undefined },
    ...(cable && { cable: cableAtWork(cable, supply, current, start, phase) }),
    ...(breaker && {
      breaker: {
        rating: breaker,
        part: current / breaker,
        fits: current <= BREAKER_PART * breaker,
      },
    }),
    ...(generator && {
      generator: {
        power: generator,
        asked: inputPower(supply, start, 1, phase),
        bears: inputPower(supply, start, 1, phase) <= GENERATOR_SURGE * generator,
      },
    }),
  };
}

function cableAtWork(
  { length, conductor }: NonNullable<Feeding["cable"]>,
  supply: number,
  current: number,
  start: number,
  phase: 1 | 3,
): CableAtWork {
  const drop = voltageDrop(length, current, conductor.resistance, phase);
  const startDrop = voltageDrop(length, start, conductor.resistance, phase);
  const most = Math.min(DROP.good * supply, ((1 - START_VOLTAGE) * supply * current) / start);
  const enough = thinnestFor(conductor, length, current, most, phase);
  return {
    ...{ drop, part: drop / supply, atMotor: supply - drop, startDrop },
    startPart: 1 - startDrop / supply,
    ...(enough && { enough }),
  };
}

function publishedCurrent(points: Pump["points"], flow: number): number | undefined {
  const rows = points.filter(({ current }) => current !== undefined);
  const [first, last] = [rows[0], rows.at(-1)];
  if (rows.length < 2 || !first || !last || flow < first.flow || flow > last.flow) return undefined;
  return evaluate(
    monotoneCubic(
      rows.map((row) => row.flow),
      rows.map((row) => row.current as number),
    ),
    flow,
  );
}

/** Money for a m³ of water at a price for a J. */
export const costOfVolume = (power: number, flow: number, price: number): number =>
  (power / flow) * price;
