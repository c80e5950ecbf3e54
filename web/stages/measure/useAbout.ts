import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Stored } from "#contract/api/api.ts";
import type { FieldTestDocument } from "#contract/documents/fieldTest.ts";
import { merge } from "#contract/documents/merge.ts";
import { api, mayPass, Refused, type TestWithReadings } from "../../api/client.ts";
import { testsOf } from "../../api/queries.ts";
import { keep, keyFor, letGo, TAB } from "../../outbox/outbox.ts";
import { useHeld } from "../../outbox/useHeld.ts";
import { toast } from "../../ui/toast.ts";
import type { AboutVisit } from "./reading/readingDraft.ts";

/** ms after the last key before what is said of a visit is saved */
const SETTLED = 600;

/**
 * What is said of a visit: it goes with its first reading, and once that is on file it is saved a moment after it was
 * typed.
 * @param draft of a visit that is not on file yet, changed by `onDraft`
 */
export function useAbout(
  jobId: string,
  test: TestWithReadings | undefined,
  draft: AboutVisit,
  onDraft: (about: AboutVisit) => void,
): [AboutVisit, (about: AboutVisit) => void] {
  const client = useQueryClient();
  const [saying, setSaying] = useState<{ of: string; about: AboutVisit }>();
  const held = useHeld(jobId);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const stored = test && test.revision > 0 ? test : undefined;
  const latest = useRef(stored);
  latest.current = stored;

  async function save(next: AboutVisit): Promise<void> {
    const now = latest.current;
    if (!now) return;
    const {
      by: _b,
      note: _n,
      cautions: _c,
      limits: _l,
      setups: _s,
      unitId: _u,
      ...rest
    } = now.document;
    const document: FieldTestDocument = { ...rest, ...said(next) };
    // Held on this device until the server has it; what does not reach it now goes by itself later.
    const entry = { collection: "tests", id: now.id, tab: TAB, job: jobId } as const;
    const hold = () =>
      keep({
        ...{ ...entry, base: now.revision, document, state: "waiting" },
        at: new Date().toISOString(),
      });
    await hold();
    const send = async (revision: number, mine: FieldTestDocument): Promise<void> => {
      try {
        await api.save("tests", now.id, revision, mine);
      } catch (error) {
        const current = error instanceof Refused ? newerOf(error) : undefined;
        if (!current) throw error;
        // Somebody else said something of the visit meanwhile: both stand, and of one thing what was said last.
        await send(current.revision, merge(now.document, document, current.document).document);
      }
    };
    try {
      await send(now.revision, document);
      await letGo(keyFor("tests", now.id));
      await client.invalidateQueries({ queryKey: testsOf(jobId).queryKey });
      setSaying((before) => (before?.about === next ? undefined : before));
    } catch (error) {
      // Another save may have let it go meanwhile.
      if (mayPass(error) && (await hold())) return;
      toast.error(`Not saved: ${(error as Error).message} It is still here.`);
    }
  }
  const kept = held.find((entry) => entry.collection === "tests" && entry.id === stored?.id);
  const about = kept?.collection === "tests" ? kept.document : stored?.document;
  return [
    saying && saying.of === stored?.id ? saying.about : (about ?? draft),
    (next) => {
      if (!stored) return onDraft(next);
      setSaying({ of: stored.id, about: next });
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void save(next), SETTLED);
    },
  ];
}

/** What of it was said: nothing is kept of what is empty. */
export function said({ by, note, cautions, limits, setups, unitId }: AboutVisit): AboutVisit {
  return {
    ...(by && { by }),
    ...(note && { note }),
    ...(cautions && { cautions }),
    ...(limits && { limits }),
    ...(unitId && { unitId }),
    ...(setups && setups.length > 0 && { setups }),
  };
}

/** What stands on the server instead, where that is why it refused. */
const newerOf = ({ body }: Refused) =>
  body.error === "conflict"
    ? ((body.current as Stored<FieldTestDocument> | null) ?? undefined)
    : undefined;
