import type { FieldTestInput, ReadingInput } from "#contract/documents/fieldTest.ts";

export interface DemoTest {
  id: string;
  test: FieldTestInput & { jobId: string };
  readings: { id: string; reading: Omit<ReadingInput, "testId" | "format" | "version"> }[];
}

/** Invented readings: one day at each demo job. */
export const DEMO_TESTS: DemoTest[] = [
  {
    id: "glasshouses-commissioning",
    test: {
      format: "upright-gusher/field-test",
      version: 3,
      jobId: "ennet-glasshouses-transfer",
      title: "Commissioning",
      takenOn: "2024-04-16",
      note: "Lagoon at normal level, outlet pipe swung into the measuring barrel.",
    },
    readings: [
      {
        id: "glasshouses-first-bucket",
        reading: {
          takenAt: "2024-04-16T09:40:00Z",
          note: "Builder's bucket and the old gauge from the van.",
          flow: {
            method: "bucket",
            volume: "12 L",
            volumeTolerance: 0.05,
            times: [3.9, 3.6, 4.1],
            timingTolerance: "0.3 s",
          },
          discharge: {
            pressure: "1.4 bar",
            fullScale: "10 bar",
            accuracyClass: 0.025,
            elevation: "0.5 m",
            afterItemId: "isolator",
          },
          suction: { kind: "water-level", level: "-0.95 m", tolerance: "5 cm" },
        },
      },
      {
        id: "glasshouses-barrel",
        reading: {
          takenAt: "2024-04-16T10:15:00Z",
          note: "Measuring barrel and the test gauge.",
          flow: {
            method: "bucket",
            volume: "120 L",
            volumeTolerance: 0.01,
            times: [37.8, 38.1, 37.6],
            timingTolerance: "0.3 s",
          },
          discharge: {
            pressure: "1.41 bar",
            fullScale: "2.5 bar",
            accuracyClass: 0.01,
            elevation: "0.5 m",
            afterItemId: "isolator",
          },
          suction: { kind: "water-level", level: "-0.95 m", tolerance: "2 cm" },
        },
      },
    ],
  },
  sweep("glasshouses-2024", {
    title: "Season's end",
    takenOn: "2024-10-09",
    note: "First full season.",
    at: "T10:",
    points: [
      { seconds: [38.0, 37.7, 38.1], bar: "1.44 bar" },
      { seconds: [50.6, 50.9], bar: "1.75 bar" },
      { seconds: [76.0], bar: "1.96 bar" },
      { seconds: [], bar: "2.15 bar" },
    ],
  }),
  sweep("glasshouses-2025", {
    title: "Season's end",
    takenOn: "2025-10-15",
    note: "Strainer cleaned before.",
    at: "T09:",
    points: [
      { seconds: [38.9, 39.2, 38.8], bar: "1.41 bar" },
      { seconds: [52.0, 51.7], bar: "1.70 bar" },
      { seconds: [77.9], bar: "1.91 bar" },
      { seconds: [], bar: "2.08 bar" },
    ],
  }),
  sweep("glasshouses-as-found", {
    title: "Season's end, as found",
    takenOn: "2026-10-14",
    configuration: "as-found",
    note: "Header tank fills slowly since August.",
    at: "T08:",
    points: [
      { seconds: [50.9, 50.5, 50.8], bar: "1.62 bar" },
      { seconds: [67.4, 67.9], bar: "1.79 bar" },
      { seconds: [101.0, 101.9], bar: "1.91 bar" },
      { seconds: [203.6], bar: "1.97 bar" },
      { seconds: [], bar: "2.00 bar" },
    ],
  }),
  sweep("glasshouses-as-left", {
    title: "Season's end, as left",
    takenOn: "2026-10-14",
    configuration: "as-left",
    note: "Main flushed: a bucket of silt out of the low bend.",
    at: "T13:",
    points: [
      { seconds: [40.1, 39.8, 40.2], bar: "1.40 bar" },
      { seconds: [53.0, 53.5], bar: "1.66 bar" },
      { seconds: [80.3, 79.7], bar: "1.85 bar" },
      { seconds: [159.2], bar: "1.97 bar" },
      { seconds: [], bar: "2.01 bar" },
    ],
  }),
  {
    id: "ketterby-short-throw",
    test: {
      format: "upright-gusher/field-test",
      version: 3,
      jobId: "ketterby-hurling-ground",
      title: "Gun throws short",
      takenOn: "2026-07-08",
      note: "Groundsman reports a ring of water and a dry middle.",
    },
    readings: [
      {
        id: "ketterby-at-the-quay",
        reading: {
          takenAt: "2026-07-08T17:20:00Z",
          note: "Throttle found hooked on the choke cable.",
          flow: { method: "meter", flow: "3.1 L/s", tolerance: 0.02 },
          discharge: {
            pressure: "3.55 bar",
            fullScale: "10 bar",
            accuracyClass: 0.016,
            elevation: "0.6 m",
            afterItemId: "valve",
          },
          suction: { kind: "water-level", level: "-1.6 m", tolerance: "5 cm" },
        },
      },
    ],
  },
];

/** The firm's instruments, each kept once. */
export const INSTRUMENTS = [
  { id: "drum", name: "Blue drum", kind: "bucket", volume: "120 L", tolerance: 0.01 },
  { id: "pail", name: "Builder's bucket", kind: "bucket", volume: "12 L", tolerance: 0.05 },
  {
    id: "test-gauge",
    name: "Test gauge",
    kind: "gauge",
    fullScale: "2.5 bar",
    tolerance: 0.01,
    checkedOn: "2026-03-02",
  },
  { id: "van-gauge", name: "Van gauge", kind: "gauge", fullScale: "10 bar", tolerance: 0.025 },
  { id: "clamp", name: "Clamp meter", kind: "clamp-meter", tolerance: 0.02 },
];

interface Sweep {
  title: string;
  takenOn: string;
  configuration?: "as-found" | "as-left";
  note: string;
  /** the hour of the day */
  at: string;
  /** fills of the drum, none with the valve shut, and what the gauge showed */
  points: { seconds: number[]; bar: string }[];
}

/** A sweep with the drum and the test gauge before the isolator, the valve open first and shut last. */
function sweep(id: string, { at, points, ...test }: Sweep): DemoTest {
  return {
    id,
    test: {
      format: "upright-gusher/field-test",
      version: 3,
      jobId: "ennet-glasshouses-transfer",
      by: "Wren, Oxbow & Larch",
      cautions: ["isolated", "pressure", "outlet", "valve"],
      ...test,
    },
    readings: points.map(({ seconds, bar }, i) => ({
      id: `${id}-${i + 1}`,
      reading: {
        takenAt: `${test.takenOn}${at}${10 + 8 * i}:00Z`,
        flow:
          seconds.length === 0
            ? { method: "shut" as const }
            : {
                method: "bucket" as const,
                volume: "120 L",
                volumeTolerance: 0.01,
                times: seconds,
                timingTolerance: "0.3 s",
              },
        ...(i > 0 && seconds.length > 0 && { throttled: true }),
        instruments: ["drum", "test-gauge"],
        discharge: {
          pressure: bar,
          fullScale: "2.5 bar",
          accuracyClass: 0.01,
          elevation: "0.5 m",
          afterItemId: "check",
        },
        suction: { kind: "water-level" as const, level: "-0.9 m", tolerance: "2 cm" },
      },
    })),
  };
}
