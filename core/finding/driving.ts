import type { Conductor } from "../driving/conductor.ts";
import type { EngineAtWork } from "../driving/engine.ts";
import {
  BREAKER_PART,
  DROP,
  GENERATOR_SURGE,
  type MotorAtWork,
  START_VOLTAGE,
} from "../driving/motor.ts";
import { checksIn, past, when } from "./finding.ts";

const ofMotor = checksIn<MotorAtWork>()("motor");
/** Of its plate's current a motor may draw, as near as a plate is true. Common practice, no source. */
const PLATE_CURRENT = 1.02;
/** Of its governed speed below which an engine is told to sag. Common practice, no source. */
const HOLDS_SPEED = 0.995;

const enoughOf = ({ enough }: { enough?: Conductor }) => enough && { enough };

/** What feeds a motor, and an engine that drives one. */
export const DRIVING_FINDINGS = {
  "power-too-little": checksIn<{ tooLittle: boolean }>()("speeds")(({ tooLittle }) =>
    when(tooLittle, { severity: "watch" as const }),
  ),
  "motor-overloaded": ofMotor(({ ofPlate }) =>
    ofPlate === undefined
      ? []
      : when(ofPlate > PLATE_CURRENT, {
          severity: "watch" as const,
          ...{ value: ofPlate, limit: PLATE_CURRENT },
        }),
  ),
  "cord-drop": ofMotor(({ cable }) =>
    cable
      ? [
          {
            severity: past(cable.part, DROP.good, DROP.most),
            ...{ value: cable.part, limit: DROP.most, drop: cable.drop, atMotor: cable.atMotor },
            ...enoughOf(cable),
          },
        ]
      : [],
  ),
  "start-voltage": ofMotor(({ cable }) =>
    cable
      ? [
          {
            severity: cable.startPart < START_VOLTAGE ? ("stop" as const) : ("good" as const),
            ...{ value: cable.startPart, limit: START_VOLTAGE },
            ...enoughOf(cable),
          },
        ]
      : [],
  ),
  "breaker-carries": ofMotor(({ breaker }) =>
    breaker
      ? [
          {
            severity: breaker.fits ? ("good" as const) : ("stop" as const),
            ...{ value: breaker.part, limit: BREAKER_PART, rating: breaker.rating },
          },
        ]
      : [],
  ),
  "generator-starts": ofMotor(({ generator }) =>
    generator
      ? [
          {
            severity: generator.bears ? ("good" as const) : ("stop" as const),
            ...{ value: generator.asked, limit: GENERATOR_SURGE * generator.power },
            power: generator.power,
          },
        ]
      : [],
  ),
  "engine-sags": checksIn<Pick<EngineAtWork, "sag">>()("engine")(({ sag }) => [
    {
      severity: sag < HOLDS_SPEED ? ("watch" as const) : ("good" as const),
      ...{ value: sag, limit: HOLDS_SPEED },
    },
  ]),
};
