import type { HouseDocument, TankDocument, WellDocument } from "#contract/documents/job.ts";
import { settled } from "#model/well/settle.ts";
import { without } from "../../lib/without.ts";
import { edit } from "../../openJob/jobStore.ts";

type Patch<T> = { [K in keyof T]?: T[K] | undefined };

/** Puts fields into the well of the job on the bench; what is undefined is taken out, and what rests on it follows. */
export function setWell(patch: Patch<WellDocument>): void {
  edit((job) => settled({ ...job, well: without({ ...job.well, ...patch }) as WellDocument }));
}

export function setTank(patch: Patch<TankDocument>): void {
  edit((job) =>
    settled({ ...job, pressureTank: without({ ...job.pressureTank, ...patch }) as TankDocument }),
  );
}

export function setHouse(patch: Patch<HouseDocument>): void {
  editHouse((house) => without({ ...house, ...patch }) as HouseDocument);
}

/** Changes what the job on the bench knows of its taps and draws. */
export function editHouse(change: (house: HouseDocument) => HouseDocument): void {
  edit((job) => ({ ...job, house: change(job.house ?? {}) }));
}
