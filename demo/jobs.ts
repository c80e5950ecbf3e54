import type { JobInput } from "#contract/documents/job.ts";
import { fromCatalogue, fromLibrary } from "./fromLibrary.ts";
import { BRAMBLE_YARD, DRILL_TANK, RELAY_ROOM } from "./waterJobs.ts";
import { BRAMBLE_BOREHOLE } from "./wellJobs.ts";

/** Jobs of the invented firm Oxbow & Larch, pump fitters, in the invented Vale of Ennet. */

export const GLASSHOUSES: JobInput = {
  format: "upright-gusher/job",
  version: 2,
  name: "Ennet Glasshouses: lagoon to header tank",
  place: "Ennet Glasshouses, Vale of Ennet",
  customer: {
    name: "Ennet Glasshouses, growers’ office",
    contact: "ask for Sedge at the packing shed",
  },
  note: "Rainwater lagoon to the header tank above the propagation house. Keep the tank ahead of the misting lines through a dry week.",
  datum: "Pump-house floor",
  source: {
    kind: "open",
    name: "Rainwater lagoon",
    level: { low: "-1.6 m", normal: "-0.9 m", high: "-0.4 m" },
    intake: "-2.1 m",
    body: "lagoon",
  },
  bodies: [
    {
      id: "lagoon",
      name: "Rainwater lagoon",
      shape: { kind: "trapezoid", length: "9 m", width: "5 m", depth: "2 m", slope: 1.5 },
      bottom: "-2.4 m",
      film: "0.1 m",
    },
    {
      id: "header-tank",
      name: "Header tank",
      shape: { kind: "cylinder", diameter: "2.6 m", depth: "2 m" },
      bottom: "8 m",
      levels: { low: "8.2 m", normal: "8.9 m", high: "9.9 m" },
      drawn: "0.16 L/s",
    },
  ],
  overTime: {
    controls: [
      { kind: "float", body: "header-tank", role: "lead", on: "8.7 m", off: "9.7 m" },
      { kind: "float", body: "lagoon", role: "guard", on: "-1.6 m", off: "-1.9 m" },
    ],
    span: "168 h",
    energyPrice: 0.3,
  },
  path: [
    { kind: "fitting", id: "foot-valve", fitting: "foot-valve-hinged", count: 1 },
    { kind: "pipe", id: "suction", stock: "suction-hose-2in", length: "6 m", rise: "2.4 m" },
    { kind: "pump", id: "pump", pump: "brackle-run-35" },
    { kind: "fitting", id: "check", fitting: "check-swing", count: 1 },
    { kind: "fitting", id: "isolator", fitting: "ball-valve", count: 1 },
    { kind: "pipe", id: "riser", stock: "pvc-sch40-1-1-2in", length: "3 m", rise: "1.8 m" },
    { kind: "fitting", id: "riser-elbows", fitting: "elbow-90", count: 3 },
    { kind: "pipe", id: "main", stock: "pe100-sdr11-63mm", length: "85 m", rise: "3.1 m" },
    { kind: "fitting", id: "main-bends", fitting: "elbow-45", count: 2 },
    { kind: "pipe", id: "tank-riser", stock: "pe100-sdr11-63mm", length: "5 m", rise: "4.6 m" },
    { kind: "fitting", id: "tank-elbow", fitting: "elbow-90", count: 1 },
    { kind: "outlet", id: "outlet", outlet: { type: "free", body: "header-tank" } },
  ],
  site: { altitude: "140 m", waterTemperature: "14 °C", specificGravity: 1 },
  method: { friction: "darcy-weisbach", fittings: "coefficient" },
  wantedFlow: "2.8 L/s",
  pumps: [fromLibrary("brackle-run-35")],
};

export const KETTERBY: JobInput = {
  format: "upright-gusher/job",
  version: 2,
  name: "Ketterby hurling ground: canal to one gun",
  place: "Ketterby hurling ground, Vale of Ennet",
  note: "Engine pump on the canal basin quay, lay-flat up to the pitch, one big gun moved along the touchline.",
  datum: "Quay edge",
  source: {
    kind: "open",
    name: "Canal basin",
    level: { low: "-1.9 m", normal: "-1.5 m", high: "-1.2 m" },
    intake: "-2.4 m",
  },
  path: [
    { kind: "fitting", id: "strainer", fitting: "foot-valve-hinged", count: 1 },
    { kind: "pipe", id: "suction", stock: "suction-hose-2in", length: "6 m", rise: "2.7 m" },
    { kind: "pump", id: "pump", pump: "fenwicket-haycast-2" },
    { kind: "fitting", id: "valve", fitting: "gate-valve", count: 1, stock: "lay-flat-2in" },
    { kind: "pipe", id: "bank", stock: "lay-flat-2in", length: "26 m", rise: "4.5 m" },
    { kind: "pipe", id: "field", stock: "lay-flat-2in", length: "104 m", rise: "1.5 m" },
    { kind: "fitting", id: "gun-elbow", fitting: "elbow-90", count: 1 },
    { kind: "rise", id: "gun-stand", rise: "1.2 m" },
    { kind: "outlet", id: "gun", outlet: fromCatalogue("hollin-broad-40") },
  ],
  site: { altitude: "95 m", waterTemperature: "17 °C", specificGravity: 1, standsAt: "bank" },
  method: { friction: "darcy-weisbach", fittings: "coefficient" },
  wantedFlow: "3.3 L/s",
  pumps: [fromLibrary("fenwicket-haycast-2")],
  field: {
    ground: { kind: "rectangle", length: "140 m", width: "88 m" },
    keepOff: [
      { what: "hedge", name: "Hawthorn hedge", side: 2, away: 2 },
      { what: "road", name: "Canal road", side: 1, away: 5 },
    ],
    soil: "loam",
    depth: "16 mm",
    wind: "light",
    throws: [
      {
        radius: "19.6 m",
        pressure: "2.85 bar",
        read: true,
        bore: "13 mm",
        by: "tape",
        on: "2026-05-14",
      },
      {
        radius: "20.3 m",
        pressure: "2.95 bar",
        read: true,
        bore: "13 mm",
        by: "paces",
        on: "2026-05-14",
      },
    ],
    cans: {
      layout: "legs",
      seconds: "30 min",
      wind: "calm",
      cans: [
        [9.5, 9, 8.5, 7.5, 6, 4, 0.8],
        [9, 8.5, 7.5, 6.5, 5.5, 3.5, 0.6],
      ].flatMap((depths, leg) =>
        depths.map((mm, i) => ({ leg, distance: 2 + 3 * i, depth: mm / 1000 })),
      ),
    },
    day: {
      ...{ on: "2026-06-05", start: 18 * 3600, move: "12 min" },
      calm: { from: 18 * 3600, to: 9 * 3600 },
    },
    season: {
      ...{ weekly: "25 mm", from: "2026-05-04", fuelPrice: 1.9, wage: 28 },
      rain: ["0 mm", "4 mm", "12 mm", "0 mm", "22 mm", "6 mm", "0 mm", "3 mm"],
    },
    drip: {
      ...{ laterals: 2, apart: "0.6 m", emitters: 250, spacing: "0.5 m" },
      emitter: { flow: "2 L/h", pressure: "1 bar", exponent: 0.5, passage: "1 mm" },
      ...{ lateral: "17.6 mm", submain: "21 mm", pressure: "1.2 bar" },
    },
    read: {
      ...{ flow: "3.6 L/s", pressure: "2.85 bar" },
      one: { pressure: "2.85 bar" },
      two: { pressure: "1.25 bar" },
    },
  },
};

export const TALLOW_MILL: JobInput = {
  format: "upright-gusher/job",
  version: 2,
  name: "Tallow Mill: wheel pit, two pumps",
  place: "Tallow Mill museum, Vale of Ennet",
  note: "Two pumps in the wheel pit share one riser: one keeps the pit down, both run when the leat spills. The tail race takes the most of it; a hose point on the yard wall takes the rest.",
  datum: "Wheel-room floor",
  source: {
    kind: "open",
    name: "Wheel pit",
    level: { low: "-2.2 m", normal: "-1.8 m", high: "-1.1 m" },
    intake: "-2.5 m",
    body: "wheel-pit",
  },
  bodies: [
    {
      id: "wheel-pit",
      name: "Wheel pit",
      shape: { kind: "box", length: "2.4 m", width: "1.5 m", depth: "2.5 m" },
      bottom: "-2.5 m",
      inflow: "0.25 L/s",
    },
  ],
  overTime: {
    controls: [
      { kind: "float", body: "wheel-pit", role: "lead", on: "-1.6 m", off: "-2.2 m" },
      { kind: "float", body: "wheel-pit", role: "lag", on: "-1.2 m", off: "-1.7 m" },
      { kind: "alarm", body: "wheel-pit", at: "-0.6 m" },
    ],
    storm: {
      ...{ kind: "alternating", depth: "38 mm", duration: "6 h", start: 3600 },
      catches: [
        { surface: "roof", area: 240 },
        { surface: "paving", area: 130 },
      ],
    },
    powerCut: { from: 14_400, to: 16_200 },
    span: "10 h",
  },
  path: [
    {
      kind: "split",
      id: "pumps",
      branches: [
        [
          { kind: "pump", id: "pump-1", pump: "tarnfold-pit-9" },
          { kind: "orifice", id: "vent-1", purpose: "vent-hole", bore: "4 mm" },
          { kind: "fitting", id: "check-1", fitting: "check-swing", count: 1 },
          { kind: "pipe", id: "riser-1", stock: "pvc-sch40-1-1-2in", length: "1.2 m", rise: "1 m" },
        ],
        [
          { kind: "pump", id: "pump-2", pump: "tarnfold-pit-9" },
          { kind: "orifice", id: "vent-2", purpose: "vent-hole", bore: "4 mm" },
          { kind: "fitting", id: "check-2", fitting: "check-swing", count: 1 },
          { kind: "pipe", id: "riser-2", stock: "pvc-sch40-1-1-2in", length: "1.6 m", rise: "1 m" },
        ],
      ],
    },
    { kind: "fitting", id: "wye", fitting: "wye-branch", count: 1, stock: "pvc-sch40-2in" },
    { kind: "pipe", id: "riser", stock: "pvc-sch40-2in", length: "2.5 m", rise: "2.4 m" },
    { kind: "fitting", id: "elbow", fitting: "elbow-90", count: 1 },
    { kind: "pipe", id: "wall-run", stock: "pvc-sch40-2in", length: "11 m", rise: "0.1 m" },
    {
      kind: "split",
      id: "yard",
      branches: [
        [
          { kind: "fitting", id: "tee-off", fitting: "tee-branch", count: 1 },
          {
            kind: "pipe",
            id: "yard-hose",
            stock: "sump-hose-1-1-4in",
            length: "6 m",
            rise: "0.3 m",
          },
          { kind: "outlet", id: "hose-point", outlet: { type: "free" } },
        ],
        [{ kind: "fitting", id: "tee-on", fitting: "tee-run", count: 1 }],
      ],
    },
    { kind: "pipe", id: "race-run", stock: "pvc-sch40-2in", length: "14 m", rise: "-0.4 m" },
    { kind: "outlet", id: "tail-race", outlet: { type: "free" } },
  ],
  site: { altitude: "60 m", waterTemperature: "10 °C", specificGravity: 1 },
  method: { friction: "darcy-weisbach", fittings: "coefficient" },
  wantedFlow: "3 L/s",
  pumps: [fromLibrary("tarnfold-pit-9")],
};

export const DEMO_JOBS: { id: string; job: JobInput }[] = [
  { id: "ennet-glasshouses-transfer", job: GLASSHOUSES },
  { id: "ketterby-hurling-ground", job: KETTERBY },
  { id: "tallow-mill-wheel-pit", job: TALLOW_MILL },
  { id: "ennet-halt-relay-room", job: RELAY_ROOM },
  { id: "ennet-drill-tank", job: DRILL_TANK },
  { id: "bramble-rigg-yard", job: BRAMBLE_YARD },
  { id: "bramble-rigg-borehole", job: BRAMBLE_BOREHOLE },
];
