import type { JobDocument } from "#contract/documents/job.ts";
import type { Band, BandResult } from "#core/condition/uncertainty.ts";
import type { SizeUp } from "#core/whatif/sizeUp.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import type { Later } from "../lib/later.ts";
import type { Owner } from "./owner.ts";
import type { Part } from "./part.ts";
import type { Result } from "./useResult.ts";

/**
 * A step of the work on a job, declared once: the header, the page, the commands, the addresses and the keys read the
 * list of them. Its `id` is what an address says.
 */
export type Stage = LineStage | OwnStage | WholeStage;

interface AnyStage {
  id: string;
  name: string;
  /** one that has nothing to show is not drawn */
  appliesTo: (job: JobDocument) => boolean;
  /** what the commands call it and places within it, and what the address asks for there */
  places: readonly { name: string; search?: string }[];
}

/** One of several panes of a stage; an address names it by its `value`. */
export interface View {
  value: string;
  name: string;
  /** the letter that brings it up */
  key?: string;
}

/** Has the section over it, a part of the line in hand, and views of the line beside that. */
export interface LineStage extends AnyStage {
  frame: "line";
  parts: readonly [LinePart, ...LinePart[]];
  /** what is in hand where an address names none; the first where it says none */
  begins?: Part;
  views: readonly LineView[];
  /** what is looked at where an address names no view */
  first: (job: Pick<JobDocument, "bodies">) => LineView;
  /** on a phone the verdict stands before the part in hand */
  verdictFirst?: boolean;
}

export interface LinePart extends Later<PartProps> {
  part: Part;
  name: string;
  /** as it is said while it is fetched */
  called: string;
}

export interface PartProps {
  job: JobDocument;
  solved: JobSolution;
  selected: string | undefined;
  onSelect: (itemId: string | undefined) => void;
}

export interface LineView extends View, Later<LineViewProps> {
  called: string;
  appliesTo?: (job: Pick<JobDocument, "bodies">) => boolean;
}

export interface LineViewProps {
  job: JobDocument;
  solved: JobSolution;
  sizeUps: readonly SizeUp[];
  band: Result<BandResult>;
  selected: string | undefined;
  onItem: (itemId: string) => void;
}

/** Has the room of the section too, and views of its own. */
export interface OwnStage extends AnyStage, Later<OwnProps<string>> {
  frame: "own";
  called: string;
  views: readonly View[];
  first: string;
}

export interface OwnProps<V extends string> {
  job: JobDocument;
  view: V;
  onView: (view: V) => void;
}

/** @param panel is given one of `views`, whatever the address says */
export function ownStage<V extends string>({
  panel,
  ...stage
}: Omit<AnyStage & OwnStage, keyof Later<unknown> | "frame" | "views" | "first"> & {
  views: readonly (View & { value: V })[];
  first: V;
  panel: Later<OwnProps<V>>;
}): OwnStage {
  return { frame: "own", ...stage, ...(panel as unknown as Later<OwnProps<string>>) };
}

/** Has the whole page. */
export interface WholeStage extends AnyStage, Later<WholeProps> {
  frame: "whole";
  called: string;
}

export interface WholeProps {
  job: JobDocument;
  solved: JobSolution;
  band: Band | undefined;
  owner: Owner;
  /** of the job as it is saved; 0 while it is none of its revisions */
  jobRevision: number;
}
