import type { JobInput } from "#contract/documents/job.ts";
import { fromLibrary } from "./fromLibrary.ts";

/** Jobs of the Vale of Ennet in which the water itself moves: rooms and tanks that are emptied. All of it is invented. */

export const RELAY_ROOM: JobInput = {
  format: "upright-gusher/job",
  version: 2,
  kind: "emptying",
  name: "Ennet Halt signal box: relay room emptied in stages",
  place: "Ennet Halt, Vale of Ennet",
  note: "The relay room stands two feet deep after the brook came over. Power to the room is off and locked. The ground outside is full of water: it is let down in stages.",
  datum: "Relay-room floor, deep end",
  source: {
    kind: "open",
    name: "Relay room",
    level: { low: "0.01 m", normal: "0.3 m", high: "0.6 m" },
    intake: "0 m",
    body: "relay-room",
  },
  bodies: [
    {
      id: "relay-room",
      name: "Relay room",
      shape: {
        kind: "wedge",
        length: "7 m",
        width: "4.5 m",
        fall: "60 mm",
        fallAcross: "20 mm",
        depth: "2.4 m",
      },
      bottom: "0 m",
      levels: { low: 0, normal: 0.6, high: 0.6 },
      film: "3 mm",
      inflow: "0.04 L/s",
    },
  ],
  need: { kind: "deadline", volume: "17.6 m³", time: "8 h" },
  volume: "17.6 m³",
  wantedFlow: "0.65 L/s",
  overTime: { lowering: { perDay: "0.3 m" }, hirePerDay: 35 },
  path: [
    { kind: "pump", id: "pump", pump: "quillbeck-puddle-1" },
    { kind: "pipe", id: "stair", stock: "sump-hose-1-1-4in", length: "4 m", rise: "2.2 m" },
    { kind: "pipe", id: "hose", stock: "sump-hose-1-1-4in", length: "14 m", rise: "0 m" },
    { kind: "outlet", id: "outlet", outlet: { type: "free" } },
  ],
  site: {
    altitude: "70 m",
    waterTemperature: "9 °C",
    specificGravity: 1,
    standsAt: "indoors",
    water: ["clear"],
    supplies: [{ volts: 230, phase: 1, generator: true }],
    permissions: [
      {
        who: "Ennet Halt station keeper",
        what: "On to the ballast beyond the down platform, not into the yard drain",
        on: "2026-10-02",
      },
    ],
  },
  method: { friction: "darcy-weisbach", fittings: "coefficient" },
  pumps: [fromLibrary("quillbeck-puddle-1")],
};

export const DRILL_TANK: JobInput = {
  format: "upright-gusher/job",
  version: 2,
  kind: "emptying",
  name: "Ennet fire brigade: drill tank drained for its lining",
  place: "Ennet fire station, Vale of Ennet",
  note: "Below ground, beside the brook. The ground water stands high in autumn: the shell must not be emptied before it is down.",
  datum: "Yard",
  source: {
    kind: "open",
    name: "Drill tank",
    level: { low: "-2.5 m", normal: "-1.4 m", high: "-0.3 m" },
    intake: "-2.6 m",
    body: "drill-tank",
  },
  bodies: [
    {
      id: "drill-tank",
      name: "Drill tank",
      shape: { kind: "box", length: "8 m", width: "4 m", depth: "2.6 m" },
      bottom: "-2.6 m",
      levels: { low: -2.6, normal: -0.3, high: -0.3 },
      film: "10 mm",
      shell: { mass: 46_000, groundwater: "-0.9 m" },
    },
  ],
  need: { kind: "deadline", volume: "73.6 m³", time: "8 h" },
  volume: "73.6 m³",
  wantedFlow: "2.56 L/s",
  path: [
    { kind: "pump", id: "pump", pump: "tarnfold-pit-9" },
    { kind: "pipe", id: "wall", stock: "sump-hose-2in", length: "4 m", rise: "3.1 m" },
    { kind: "pipe", id: "hose", stock: "sump-hose-2in", length: "20 m", rise: "0 m" },
    { kind: "outlet", id: "outlet", outlet: { type: "free" } },
  ],
  site: {
    altitude: "70 m",
    waterTemperature: "11 °C",
    specificGravity: 1,
    standsAt: "pit",
    water: ["clear"],
  },
  method: { friction: "darcy-weisbach", fittings: "coefficient" },
  pumps: [fromLibrary("tarnfold-pit-9")],
};

export const BRAMBLE_YARD: JobInput = {
  format: "upright-gusher/job",
  version: 2,
  kind: "yard-drain",
  name: "Bramble Rigg allotments: yard drained to the lane ditch",
  place: "Bramble Rigg, Vale of Ennet",
  note: "Rain off the tool-shed roof and the paved yard runs by its fall into a pit at the low corner, and is pumped over the bank to the lane ditch.",
  datum: "Pit rim",
  source: {
    kind: "open",
    name: "Yard pit",
    level: { low: "-0.9 m", normal: "-0.6 m", high: "-0.2 m" },
    intake: "-1.1 m",
    body: "yard-pit",
  },
  bodies: [
    {
      id: "yard-pit",
      name: "Yard pit",
      shape: { kind: "cylinder", diameter: "0.8 m", depth: "1.1 m" },
      bottom: "-1.1 m",
      surround: { across: "1.4 m", porosity: 0.38 },
      inflowPipes: [{ bore: "102 mm", length: "14 m", invert: "-0.5 m" }],
    },
  ],
  need: {
    kind: "rain",
    catches: [
      { surface: "roof", area: "60 m²" },
      { surface: "paving", area: "140 m²" },
      { surface: "lawn", area: "220 m²" },
    ],
    hardestHour: "22 mm",
    inHand: 1.2,
    flow: 0.00152167,
  },
  wantedFlow: 0.001826,
  yard: {
    runs: [
      {
        ...{ id: "shed", name: "Downpipe of the shed", into: "yard-run", takes: [0] },
        ...{ bore: "80 mm", length: "9 m", slope: 0.02 },
      },
      {
        ...{ id: "yard-run", name: "Yard gully to the pit", into: "yard-pit", takes: [1, 2] },
        ...{ bore: "102 mm", length: "14 m", slope: 0.01 },
        trench: { width: "0.3 m", depth: "0.4 m", porosity: 0.38 },
        grate: { length: "0.3 m", width: "0.3 m", open: 0.4 },
        basin: { across: "0.4 m", depth: "0.4 m" },
      },
    ],
  },
  overTime: {
    controls: [
      { kind: "float", body: "yard-pit", role: "lead", on: "-0.6 m", off: "-0.9 m" },
      { kind: "alarm", body: "yard-pit", at: "-0.2 m" },
    ],
    storm: { kind: "triangle", depth: "30 mm", duration: "2 h", start: 1800 },
    span: "5 h",
  },
  path: [
    { kind: "pump", id: "pump", pump: "tarnfold-pit-9" },
    { kind: "orifice", id: "vent", purpose: "vent-hole", bore: "4 mm" },
    { kind: "fitting", id: "check", fitting: "check-swing", count: 1 },
    { kind: "pipe", id: "riser", stock: "pvc-sch40-1-1-2in", length: "2 m", rise: "2 m" },
    { kind: "fitting", id: "elbow", fitting: "elbow-90", count: 1 },
    { kind: "pipe", id: "run", stock: "pvc-sch40-1-1-2in", length: "16 m", rise: "0 m" },
    { kind: "outlet", id: "outlet", outlet: { type: "free" } },
  ],
  site: {
    altitude: "190 m",
    waterTemperature: "10 °C",
    specificGravity: 1,
    standsAt: "pit",
    water: ["clear"],
  },
  method: { friction: "darcy-weisbach", fittings: "coefficient" },
  pumps: [fromLibrary("tarnfold-pit-9")],
};
