import { formatPercent } from "#contract/units/format.ts";
import { BREAKER_PART, DROP, GENERATOR_SURGE, START_VOLTAGE } from "#core/driving/motor.ts";
import type { DRIVING_FINDINGS } from "#core/finding/driving.ts";
import type { FindingWords } from "./findingWords.ts";

/** What would do in place of a cord that takes too much. */
const otherCord = (enough: { label: string } | undefined) =>
  enough
    ? ` ${enough.label} would do.`
    : " No size here would do: shorten it, or a higher voltage.";

export const DRIVING_WORDS: FindingWords<keyof typeof DRIVING_FINDINGS> = {
  "power-too-little": () => ({
    sentence:
      "At some speeds the power told for it is less than the water alone takes there, and is left out. Read it again, or look at what is typed with the pump.",
  }),
  "motor-overloaded": ({ value }) => ({
    sentence: `It draws ${formatPercent(value - 1)} more than its plate: throttle it, or a smaller impeller.`,
  }),
  "cord-drop": ({ value, drop, atMotor, enough }) => ({
    sentence: `The cable takes ${drop.toFixed(1)} V, ${formatPercent(value, 1)}: ${atMotor.toFixed(0)} V reach the motor.${value > DROP.good ? otherCord(enough) : ""}`,
  }),
  "start-voltage": ({ value, severity, enough }) => ({
    sentence: `Starting, ${formatPercent(Math.max(value, 0))} of the voltage reach it; it needs about ${formatPercent(START_VOLTAGE)}.${severity === "stop" ? otherCord(enough) : ""}`,
  }),
  "breaker-carries": ({ value, rating }) => ({
    sentence: `It takes ${formatPercent(value)} of the ${rating} A breaker; up to ${formatPercent(BREAKER_PART)} may be taken all the time.`,
  }),
  "generator-starts": ({ value, power }) => ({
    sentence: `Starting it asks ${(value / 1000).toFixed(1)} kVA of the ${(power / 1000).toFixed(1)} kW generator, which bears about ${GENERATOR_SURGE} times that for a moment.`,
  }),
  "engine-sags": ({ value, severity }) => ({
    sentence:
      severity === "watch"
        ? `The shaft asks for more than the engine gives here: it sags to ${formatPercent(value)} of its speed, and the flow with it. Throttle the outlet, or a stronger engine.`
        : "The engine holds its speed.",
  }),
};
