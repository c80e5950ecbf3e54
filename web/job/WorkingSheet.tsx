import "katex/dist/katex.min.css";
import katex from "katex";
import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { Quantity } from "#contract/units/units.ts";
import type { Term, WorkStep } from "#core/formula/step.ts";
import { type Subject, workingOf } from "#core/formula/working.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import { useUnits } from "../app/settings.ts";

/** Equations with the numbers of this job put in, in the order they were worked out. */
export default function WorkingSheet({
  subject,
  solution,
  job,
}: {
  subject: Subject;
  solution: Solution;
  job: JobDocument;
}) {
  const steps = useMemo(() => workingOf(subject, solution, job), [subject, solution, job]);
  if (steps.length === 0) {
    return (
      <p>
        This number was typed or counted on the line: nothing stands behind it but what you see in
        its sentence.
      </p>
    );
  }
  return (
    <div className="grid gap-4">
      {steps.map((step, index) => (
        <Step
          key={`${step.title} ${step.result.symbol}`}
          {...{ step, index }}
          last={index === steps.length - 1}
        />
      ))}
      <p className="text-[13px] text-soft">
        The working is in SI units, as it was computed. Numbers are shown to five figures and
        carried on in full.
      </p>
    </div>
  );
}

function Step({ step, index, last }: { step: WorkStep; index: number; last: boolean }) {
  const units = useUnits();
  const { title, equation, given, result, source, assumed } = step;
  const quantity = QUANTITIES[result.unit];
  return (
    <section aria-label={title} className="border-t border-rule pt-2">
      <h3 className="plate text-[18px]">
        {index + 1}. {title}
      </h3>
      <Formula tex={equation} display />
      <dl className="grid grid-cols-[auto_1fr_auto] gap-x-3 text-[14px]">
        {given.map((term) => (
          <Line key={`${term.symbol} ${term.name} ${term.value}`} term={term} />
        ))}
      </dl>
      <p className={`mt-1 ${last ? "plate text-2xl" : "font-medium"}`}>
        <Formula tex={result.symbol} /> = {figures(result.value)} {result.unit}
        {last && quantity && units === "us" && (
          <span className="ml-2 text-lg font-medium">
            = {format(result.value, quantity, units)}
          </span>
        )}
      </p>
      <p className="text-[13px] text-soft">
        {source}
        {source.endsWith(".") ? "" : "."} {assumed.join(". ")}
      </p>
    </section>
  );
}

function Line({ term }: { term: Term }) {
  return (
    <>
      <dt className="min-w-9">{term.symbol && <Formula tex={term.symbol} />}</dt>
      <dd className="text-soft">{term.name}</dd>
      <dd className="text-right font-medium whitespace-nowrap">
        {figures(term.value)} {term.unit}
      </dd>
    </>
  );
}

function Formula({ tex, display = false }: { tex: string; display?: boolean }) {
  const html = useMemo(
    () => katex.renderToString(tex, { displayMode: display, throwOnError: false }),
    [tex, display],
  );
  return (
    <span
      className={display ? "block overflow-x-auto overflow-y-hidden py-0.5" : undefined}
      dangerouslySetInnerHTML={{ __html: html }}
    />
  );
}

/** "0.0221745" → "0.022175"; very small and very large numbers keep their power of ten. */
function figures(value: number): string {
  if (value === 0) return "0";
  const size = Math.abs(value);
  const text =
    size < 1e-4 || size >= 1e7
      ? value.toExponential(4).replace(/e\+?(-?)(\d+)/, " · 10^$1$2")
      : String(Number(value.toPrecision(5)));
  return text
    .replace("-", "−")
    .replace(/10\^(-?)(\d+)/, (_, sign, digits) => `10${superscript(`${sign}${digits}`)}`);
}

function superscript(text: string): string {
  return [...text].map((mark) => SUPERSCRIPTS[mark] ?? mark).join("");
}

const SUPERSCRIPTS: Record<string, string> = {
  "-": "⁻",
  "0": "⁰",
  "1": "¹",
  "2": "²",
  "3": "³",
  "4": "⁴",
  "5": "⁵",
  "6": "⁶",
  "7": "⁷",
  "8": "⁸",
  "9": "⁹",
};

const QUANTITIES: Record<string, Quantity> = {
  m: "head",
  "m³/s": "flow",
  Pa: "pressure",
  "m/s": "velocity",
  W: "power",
  "m³": "volume",
};
