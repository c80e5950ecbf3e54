import { derive } from "../formula/formula.ts";
import { DRAWDOWN } from "../formula/laws.ts";
import { check, type Found, moreIsWorse, NO_FACTS, type NoFacts, whileRunning } from "./check.ts";

/**
 * What is not judged of a well: how deep the pump may hang, how its motor is cooled, what the well yields over a day,
 * and the cable. The drawdown at the flow is all that is worked out.
 */
export const wellNotJudged = check<NoFacts>({
  quantity: "head",
  each: "line",
  find: (context) => {
    const { source } = context.solution.line;
    if (source.kind !== "well") return [];
    const { linear, quadratic } = source.drawdown;
    return whileRunning(context, ({ duty }, { at }): Found<NoFacts>[] => [
      {
        severity: "unknown",
        at,
        value: DRAWDOWN.of(linear, quadratic, duty.flow),
        source: DRAWDOWN.source,
        facts: NO_FACTS,
      },
    ]);
  },
  rank: moreIsWorse,
  derive: ({ at }, { solution }) => {
    const { source } = solution.line;
    const { running } = solution.cases[at];
    if (source.kind !== "well" || !running) return [];
    const { linear, quadratic } = source.drawdown;
    return [derive(DRAWDOWN, [linear, quadratic, running.duty.flow])];
  },
});
