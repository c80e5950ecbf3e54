import { expose } from "comlink";
import { COMPUTATIONS } from "#model/results/computations.ts";
import { ResultGraph } from "#model/results/graph.ts";
import { Desk } from "./resultsDesk.ts";

const desk = new Desk(new ResultGraph(COMPUTATIONS));

export type ResultsWorker = Pick<Desk, "ask" | "drop">;

expose({
  ask: (...args) => desk.ask(...args),
  drop: (...args) => desk.drop(...args),
} satisfies ResultsWorker);
