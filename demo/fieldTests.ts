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
      takenOn: "2026-04-21",
      note: "Lagoon at normal level, outlet pipe swung into the measuring barrel.",
    },
    readings: [
      {
        id: "glasshouses-first-bucket",
        reading: {
          takenAt: "2026-04-21T09:40:00Z",
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
          takenAt: "2026-04-21T10:15:00Z",
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
