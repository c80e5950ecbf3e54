import { type Judgement, judgementKey } from "#core/check/registry.ts";
import type { PathItem, Source } from "#core/line/path.ts";
import type { Remedy } from "#model/whatif/remedies.ts";
import { checkWords } from "#words/checks.ts";
import { useDerivation } from "../derivation/DerivationLink.tsx";
import { Mending, remedyOf } from "../findings/Mending.tsx";
import { useUnits } from "../state/settings.ts";
import { StatusMark } from "../ui/StatusMark.tsx";

interface ListProps {
  judgements: readonly Judgement[];
  job: { path: readonly PathItem[]; source: Source };
  /** brings a part to hand, where parts can be */
  onItem: ((itemId: string) => void) | undefined;
  /** those that were tried and hold; absent where the job cannot be changed here */
  remedies?: readonly Remedy[] | undefined;
}

/** What stops, what to watch and what cannot be judged, each open; the good ones fold into one line. */
export function CheckList({ judgements, job, onItem, remedies }: ListProps) {
  const bad = judgements.filter(({ severity }) => severity !== "good");
  const good = judgements.filter(({ severity }) => severity === "good");
  return (
    <>
      <Checks name="Checks" judgements={bad} {...{ job, onItem, remedies }} />
      {good.length > 0 && (
        <details className="group border-t border-rule">
          <summary className="flex min-h-7 list-none items-center gap-2 px-3 py-1.5">
            <StatusMark severity="good" />
            <span className="plate text-[17px] leading-tight">
              {good.length === 1 ? "1 check" : `${good.length} checks`}
            </span>
            <span className="ml-auto text-[13px] underline">
              <span className="group-open:hidden">show</span>
              <span className="not-group-open:hidden">fold</span>
            </span>
          </summary>
          <Checks name="Good checks" judgements={good} {...{ job, onItem }} />
        </details>
      )}
    </>
  );
}

function Checks({ name, judgements, job, onItem, remedies }: ListProps & { name: string }) {
  const units = useUnits();
  const show = useDerivation();
  if (judgements.length === 0) return null;
  return (
    <ul aria-label={name} className="border-t border-rule *:not-first:border-t">
      {judgements.map((judgement) => {
        const { title, sentence, advice } = checkWords(judgement, job, units);
        const { code, severity, itemId, source } = judgement;
        const remedy = remedyOf(remedies, code, itemId);
        return (
          <li
            key={judgementKey(judgement)}
            data-check={code}
            className={`border-rule px-3 py-1.5 ${severity === "stop" ? "border-l-6 border-l-signal pl-2" : ""}`}
          >
            <p className="flex min-h-7 items-center gap-2">
              <StatusMark severity={severity} />
              <span className="plate text-[17px] leading-tight">{title}</span>
            </p>
            <p className="text-[14px]">{sentence}</p>
            {advice && <Mending words={advice} remedy={remedy} />}
            <p className="text-[12px] text-soft">
              {source}
              <button
                type="button"
                className="ml-2 min-h-6 underline"
                onClick={() => show({ kind: "check", judgement })}
              >
                Working
              </button>
              {itemId && onItem && (
                <button
                  type="button"
                  className="ml-2 min-h-6 underline"
                  onClick={() => onItem(itemId)}
                >
                  Show the part
                </button>
              )}
            </p>
          </li>
        );
      })}
    </ul>
  );
}
