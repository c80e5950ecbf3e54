import type { ReactNode } from "react";
import { formatNumber } from "#contract/units/format.ts";
import { type Quantity, SHOWN } from "#contract/units/units.ts";
import type { WaterLevel } from "#core/fluid/levels.ts";
import type { Subject } from "#model/job/solveJob.ts";
import { useDerivation } from "../derivation/DerivationLink.tsx";
import { useUnits } from "../state/settings.ts";

type PlainSubject = Extract<Subject, { at: WaterLevel }>["kind"];

/** A number of one level that opens its working. */
export function Worked({
  subject,
  at = "normal",
  itemId,
  children,
}: {
  subject: PlainSubject;
  at?: WaterLevel;
  itemId?: string;
  children: ReactNode;
}) {
  const one = itemId === undefined ? {} : { itemId };
  return <Opens subject={{ kind: subject, at, ...one }}>{children}</Opens>;
}

/** Something shown that opens its working. */
export function Opens({ subject, children }: { subject: Subject; children: ReactNode }) {
  const show = useDerivation();
  return (
    <button
      type="button"
      title="Show the working"
      className="text-inherit underline decoration-rule decoration-1 underline-offset-4 hover:decoration-ink"
      onClick={() => show(subject)}
    >
      {children}
    </button>
  );
}

export function Plate(props: {
  name: string;
  si: number;
  quantity: Quantity;
  subject?: PlainSubject;
  large?: boolean;
}) {
  const { name, si, quantity, large, subject } = props;
  const units = useUnits();
  const figure = (
    <>
      {formatNumber(si, quantity, units)}
      <span className="ml-1 text-lg font-medium">{SHOWN[units][quantity]}</span>
    </>
  );
  return (
    <div>
      <dt className="text-[13px] text-soft">{name}</dt>
      <dd className={`plate leading-none ${large ? "pb-1.5 text-[44px]" : "text-2xl"}`}>
        {subject ? <Worked subject={subject}>{figure}</Worked> : figure}
      </dd>
    </div>
  );
}
