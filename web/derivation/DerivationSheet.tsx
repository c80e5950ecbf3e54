import "katex/dist/katex.min.css";
import katex from "katex";
import { useMemo } from "react";
import { SHOWN, SI_SYMBOLS, shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import type { Derivation, DerivationStep, Term } from "#core/formula/formula.ts";
import { useUnits } from "../state/settings.ts";

/** Equations with the numbers of this job put in, in the order they were worked out. */
export default function DerivationSheet({ steps }: { steps: Derivation }) {
  return (
    <div className="grid gap-4">
      {steps.map((step, index) => (
        <Step
          key={`${index} ${step.title}`}
          {...{ step, index }}
          last={index === steps.length - 1}
        />
      ))}
      <p className="text-[13px] text-soft">
        It is worked out in SI units; what is shown first is in yours. Numbers are shown to five
        figures and carried on in full.
      </p>
    </div>
  );
}

function Step({ step, index, last }: { step: DerivationStep; index: number; last: boolean }) {
  const units = useUnits();
  const { title, equation, given, result, source, range, assumed } = step;
  return (
    <section aria-label={title} className="border-t border-rule pt-2">
      <h3 className="plate text-[18px]">
        {index + 1}. {title}
      </h3>
      <Formula tex={equation} display />
      <dl className="text-[14px]">
        {given.map((term, i) => (
          <Line key={`${i} ${term.symbol}`} term={term} />
        ))}
      </dl>
      <p className={`mt-1 ${last ? "plate text-2xl" : "font-medium"}`}>
        <Formula tex={result.symbol} /> = {inUnits(result, units)}
        <Beside term={result} />
      </p>
      <p className="text-[13px] text-soft">
        {[source, range && `Holds for ${range}`, ...assumed]
          .filter(Boolean)
          .map((text) => `${text}${text?.endsWith(".") ? "" : "."}`)
          .join(" ")}
      </p>
    </section>
  );
}

/** A value with its name, on two lines where there is no room beside. */
function Line({ term }: { term: Term }) {
  const units = useUnits();
  return (
    <div className="flex flex-wrap items-baseline gap-x-3">
      <dt className="flex min-w-28 flex-1 items-baseline gap-2 text-soft">
        <span className="min-w-9 shrink-0 text-ink">
          {term.symbol && <Formula tex={term.symbol} />}
        </span>
        <span>{term.name}</span>
      </dt>
      <dd className="ml-auto text-right font-medium whitespace-nowrap">
        {inUnits(term, units)}
        <Beside term={term} />
      </dd>
    </div>
  );
}

/** The same in SI, where that is not what the reader's unit is. */
function Beside({ term }: { term: Term }) {
  const units = useUnits();
  const si = SI_SYMBOLS[term.quantity];
  if (SHOWN[units][term.quantity] === si) return null;
  return (
    <span className="ml-2 font-sans text-[13px] font-normal whitespace-nowrap text-soft">
      {figures(term.value)} {si}
    </span>
  );
}

function inUnits({ value, quantity }: Term, units: UnitSystem): string {
  const unit = shownUnit(quantity, units);
  return `${figures(toUnit(value, unit))} ${unit.symbol}`.trimEnd();
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
