import { lazy, Suspense } from "react";
import type { Remedy } from "#model/whatif/remedies.ts";

/** The remedy that mends one thing that was found, where one was tried and holds. */
export const remedyOf = (
  remedies: readonly Remedy[] | undefined,
  code: string,
  itemId?: string,
): Remedy | undefined =>
  remedies?.find((own) => own.of === code && (own.itemId === undefined || own.itemId === itemId));

// What does it is fetched once a remedy holds: no page waits for it.
const Mend = lazy(() => import("./Remedy.tsx"));

/**
 * What would mend something, in words; once a remedy was tried and holds they are what does it, so that nothing moves
 * when that comes.
 */
export function Mending({ words, remedy }: { words: string; remedy: Remedy | undefined }) {
  const plain = <p className="min-h-6 text-[14px] font-medium">{words}</p>;
  return remedy ? (
    <Suspense fallback={plain}>
      <Mend {...{ words, remedy }} />
    </Suspense>
  ) : (
    plain
  );
}
