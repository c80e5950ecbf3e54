import type { JobInput } from "#contract/documents/job.ts";
import { fromLibrary } from "./fromLibrary.ts";

/** The borehole of the allotments: a six-inch casing, two steps of a test, and a week of watering cans. */
export const BRAMBLE_BOREHOLE: JobInput = {
  format: "upright-gusher/job",
  version: 2,
  kind: "well-to-tank",
  name: "Bramble Rigg allotments: borehole to the standpipes",
  place: "Bramble Rigg, Vale of Ennet",
  note: "The old hand pump’s borehole, plumbed and tested in September. Twenty-four plots on four standpipes; the tank stands in the tool shed.",
  datum: "Casing top",
  source: {
    kind: "well",
    name: "Borehole",
    level: { low: "-23.5 m", normal: "-18 m", high: "-14.5 m" },
    intake: "-40 m",
    drawdown: { linear: 7267, quadratic: 3_067_000 },
  },
  well: {
    casings: [{ bore: "152 mm", from: 0, to: "66 m" }],
    bottom: "66 m",
    screen: { from: "54 m", to: "64 m" },
    standing: "18 m",
    steps: [
      { flow: "0.5 L/s", level: "22.4 m", minutes: 90 },
      { flow: "1.1 L/s", level: "29.7 m", minutes: 120 },
    ],
    cable: { run: "38 m", heavier: true },
    cables: [
      { conductor: "mm2-2-5", ampacity: 24 },
      { conductor: "mm2-4", ampacity: 32 },
    ],
    hand: { bore: "64 mm", stroke: "150 mm", strokes: 36, leverage: 8, cylinder: "30 m" },
  },
  pressureTank: {
    volume: "100 L",
    cutIn: "200 kPa",
    cutOut: "340 kPa",
    school: "2-psi-under",
  },
  house: {
    use: "plots",
    count: 24,
    days: 7,
    shared: { stock: "pe100-sdr11-40mm", length: "60 m" },
    taps: [
      {
        ...{ name: "Gate", height: "0.5 m", stock: "pe100-sdr11-25mm", length: "8 m" },
        flow: "0.25 L/s",
      },
      {
        ...{ name: "Lower plots", height: "-2 m", stock: "pe100-sdr11-25mm", length: "35 m" },
        flow: "0.25 L/s",
      },
      {
        ...{ name: "Top plots", height: "5.5 m", stock: "pe100-sdr11-25mm", length: "70 m" },
        flow: "0.2 L/s",
      },
      {
        ...{ name: "Tool shed", height: "0.2 m", stock: "pe100-sdr11-20mm", length: "3 m" },
        flow: "0.12 L/s",
      },
    ],
  },
  need: { kind: "typed", flow: "0.75 L/s" },
  wantedFlow: "0.75 L/s",
  path: [
    { kind: "pump", id: "pump", pump: "osmerley-deep-5" },
    {
      ...{ kind: "fitting", id: "check", fitting: "check-lift", count: 1 },
      stock: "pe100-sdr11-40mm",
    },
    { kind: "pipe", id: "drop-pipe", stock: "pe100-sdr11-40mm", length: "40 m", rise: "40 m" },
    { kind: "fitting", id: "elbow", fitting: "elbow-90", count: 1 },
    { kind: "pipe", id: "run", stock: "pe100-sdr11-40mm", length: "22 m", rise: "1.2 m" },
    { kind: "outlet", id: "tank", outlet: { type: "pressure", pressure: "270 kPa" } },
  ],
  site: {
    altitude: "190 m",
    waterTemperature: "10 °C",
    specificGravity: 1,
    standsAt: "casing",
    measuredFrom: "casing-top",
    supplies: [{ volts: 230, phase: 1, breaker: 20 }],
    cable: { length: "78 m", conductor: "mm2-4" },
    water: ["clear"],
  },
  method: { friction: "darcy-weisbach", fittings: "coefficient" },
  pumps: [fromLibrary("osmerley-deep-5")],
};
