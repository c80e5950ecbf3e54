import { expect, it } from "vitest";
import { pumpSchema } from "#contract/documents/pump.ts";
import { rankPumps } from "#core/selection/rankPumps.ts";
import { LIBRARY } from "#demo/pumps.ts";
import { newJob, TEMPLATES, type TemplateId } from "./newJob.ts";

const library = LIBRARY.map((pump) => pumpSchema.parse(pump));

it.each(Object.keys(TEMPLATES) as TemplateId[])(
  "the first line of %s can be pumped",
  (template) => {
    for (const system of ["us", "metric"] as const) {
      const job = newJob("Tried", template, system);
      const ranked = rankPumps(job, library, undefined);
      expect(ranked).toHaveLength(library.length);
      expect(ranked[0]?.flow).toBeGreaterThan(0);
      expect(ranked[0]?.worst).not.toBe("stop");
    }
  },
);
