import { HeadLedger } from "../duty/HeadLedger.tsx";
import type { LineViewProps } from "../openJob/stage.ts";

export function LedgerView({ solved, sizeUps, job, onItem }: LineViewProps) {
  return <HeadLedger {...{ solved, sizeUps, job, onItem }} />;
}
