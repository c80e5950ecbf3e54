import { useQuery } from "@tanstack/react-query";
import type { FirmDocument } from "#contract/documents/firm.ts";
import { theFirm } from "../api/queries.ts";

const NONE: NonNullable<FirmDocument["instruments"]> = [];

/** The instruments the firm owns; none while they are not read. */
export function useInstruments(): NonNullable<FirmDocument["instruments"]> {
  const firm = useQuery(theFirm);
  return firm.data?.document.instruments ?? NONE;
}
