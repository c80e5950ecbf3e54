import type { SheetFault, TraceRemark } from "#core/trace/sheet.ts";
import type { LineRead } from "./marks.ts";

/** What is said of a trace so far, line by line. */
export function TraceRemarks({
  begun,
  unit,
}: {
  begun: readonly (LineRead & { name: string })[];
  /** symbol of the flow axis */
  unit: string;
}) {
  if (begun.length === 0) return null;
  return (
    <ul aria-label="What is said of the trace" className="text-[14px]">
      {begun.flatMap(({ name, points, remarks }, i) => {
        const whose = begun.length > 1 ? `${name}: ` : "";
        return [
          ...remarks.map((remark) => (
            <li key={`${i} ${remark.kind} ${"index" in remark ? remark.index : ""}`}>
              {whose}
              {remarkWords(remark, points, unit)}
            </li>
          )),
          <li key={`${i} points`} className="text-soft">
            {whose}
            {points.length} points
            {points.length > 0 &&
              `, from ${points[0]?.flow.toFixed(1)} to ${points.at(-1)?.flow.toFixed(1)} ${unit}`}
          </li>,
        ];
      })}
    </ul>
  );
}

export const FAULTS: Record<SheetFault, string> = {
  "corners-in-line": "Three of the corners lie on one line: mark the four corners of a rectangle.",
  "flow-marks-together": "The two places on the flow axis are the same.",
  "head-marks-together": "The two places on the head axis are the same.",
  "same-flow-twice": "Type the two flows that are printed at the places on the flow axis.",
  "same-head-twice": "Type the two heads that are printed at the places on the head axis.",
  "axes-in-line": "The two axes run the same way: one goes along the flow, one along the head.",
};

function remarkWords(
  remark: TraceRemark,
  points: readonly { flow: number }[],
  unit: string,
): string {
  const where = (index: number) => `${points[index]?.flow.toFixed(1)} ${unit}`;
  switch (remark.kind) {
    case "too-few":
      return `Click along the line: ${remark.count} so far, at least four.`;
    case "doubled":
      return `Two clicks stand at nearly the same flow, ${where(remark.index)}: take one out.`;
    case "negative":
      return `The click at ${where(remark.index)} lies outside the axes: look at the axes again.`;
    case "rises":
      return `The head rises towards ${where(remark.index)}: few pumps do, so look again.`;
    case "wild":
      return `The click at ${where(remark.index)} lies off the others' curve: look again.`;
  }
}
