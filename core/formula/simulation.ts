import { fillingTime, movedBy, pumpingTime, startsAnHour } from "../simulation/cycle.ts";
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

const BALANCED = [
  volume("V_0", "there at the start"),
  volume("V_{in}", "came in"),
  volume("V_{over}", "ran over the rim"),
  volume("V_{others}", "drawn by others"),
  volume("V_1", "there at the end"),
] as const;

export const MOVED = formula({
  title: "Water moved",
  equation: "V = V_0 + V_{in} - V_{over} - V_{others} - V_1",
  given: BALANCED,
  result: volume("V", "moved by the line, less what came back"),
  source: BALANCE,
  of: movedBy,
});

export const FILLED = formula({
  title: "Water moved into it",
  equation: "V = V_1 + V_{others} + V_{over} - V_{in} - V_0",
  given: BALANCED,
  result: volume("V", "moved by the line, less what came back"),
  source: BALANCE,
  of: (...args: [number, number, number, number, number]) => -movedBy(...args),
});

export const OVER = formula({
  title: "Water over the rim",
  equation: "V_{over} = V_0 + V_{in} - V - V_{others} - V_1",
  given: [
    BALANCED[0],
    BALANCED[1],
    volume("V", "moved by the line, less what came back"),
    BALANCED[3],
    BALANCED[4],
  ],
  result: BALANCED[2],
  source: BALANCE,
  of: movedBy,
});

export const CYCLE = formula({
  title: "One cycle",
  equation: "T = t_f + t_p",
  given: [time("t_f", "time to fill"), time("t_p", "time to pump out")],
  result: time("T", "one cycle"),
  source: BALANCE,
  of: (filling: number, pumping: number) => filling + pumping,
});

export const HELD_AT_RIM = formula({
  title: "Largest inflow it holds",
  equation: "Q_{in} = Q(z_{rim})",
  given: [
    sign("z_{rim}", "water at the rim", "length"),
    sign("Q", "what the pumps draw there, less what comes back", "flow"),
  ],
  result: sign("Q_{in}", "largest inflow", "flow"),
  source: "The line solved with the water at the rim",
  assumed: ["Every pump on the mains that a float calls for is running"],
  of: (_rim: number, drawn: number) => drawn,
});

export const ENERGY = formula({
  title: "Energy",
  equation: "E = \\bar P\\, t",
  given: [sign("\\bar P", "published power, on average", "power"), time("t", "the pumps ran")],
  result: sign("E", "energy", "energy"),
  source: "Published power at each flow, summed over the run",
  of: (power: number, ran: number) => power * ran,
});

export const CHARGE = formula({
  title: "Part of the battery",
  equation: "u = \\frac{t}{T}",
  given: [
    time("t", "the pumps on it ran"),
    time("T", "a whole charge lasts, at what they took on average"),
  ],
  result: sign("u", "part used", "ratio"),
  source: "W. Peukert, Elektrotechnische Zeitschrift 20 (1897), from memory",
  of: (ran: number, lasts: number) => ran / lasts,
});

export const TRIPS = formula({
  title: "Trips",
  equation: "n = \\lceil V / V_1 \\rceil",
  given: [volume("V", "to carry"), volume("V_1", "in one trip")],
  result: sign("n", "trips", "ratio"),
  source: "Arithmetic",
  of: (whole: number, each: number) => Math.ceil(whole / each),
});
