import { fillingTime, pumpingTime, startsAnHour } from "../simulation/cycle.ts";
import { formula, sign } from "./formula.ts";

/** The equations of water over time, each with the function that works it out. */

const time = (symbol: string, name: string) => sign(symbol, name, "time");
const volume = (symbol: string, name: string) => sign(symbol, name, "volume");
const inflow = sign("Q_{in}", "water coming in", "flow");
const BALANCE = "Balance of volumes";

export const FILLING = formula({
  title: "Time to fill",
  equation: "t_f = \\frac{V - V_b}{Q_{in}}",
  given: [volume("V", "volume to fill"), volume("V_b", "of it, what fell back"), inflow],
  result: time("t_f", "time to fill"),
  source: BALANCE,
  of: fillingTime,
});

export const PUMPING = formula({
  title: "Time to pump out",
  equation: "t_p = \\frac{V}{Q - Q_{in}}",
  given: [
    volume("V", "volume to pump"),
    sign("Q", "what is pumped, on average between the levels", "flow"),
    inflow,
  ],
  result: time("t_p", "time to pump out"),
  source: BALANCE,
  assumed: [
    "The flow is solved at many levels, and the time summed over them; Q is the even flow that takes as long",
  ],
  of: pumpingTime,
});

export const STARTS = formula({
  title: "Starts an hour",
  equation: "n = \\frac{3600}{(t_f + t_p)\\,m}",
  given: [
    time("t_f", "time to fill"),
    time("t_p", "time to pump out"),
    sign("m", "pumps that take turns", "ratio"),
  ],
  result: sign("n", "starts an hour, each", "ratio"),
  source: BALANCE,
  assumed: ["Worst near half of what is pumped, where filling and pumping take as long"],
  of: startsAnHour,
});
