import { useEffect, useRef, useState } from "react";
import type { Stored } from "#contract/api/api.ts";
import type { CollectionName, DocumentOf } from "#contract/collections.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { api, Refused } from "../api/client.ts";
import { keyOf, queries } from "../api/queries.ts";

/** An edit as it is kept on this device: what it began from, and what it has become. */
interface Kept<T> {
  /** what it is saved under: of one that is new, the id it was first given */
  id: string;
  revision: number;
  base: T;
  value: T;
}

export interface Editing<T, C extends CollectionName> {
  value: T;
  change: (next: (before: T) => T) => void;
  changed: boolean;
  /** it was begun earlier, and comes from this device */
  broughtBack: boolean;
  /** somebody else saved it while it was changed here, and both have to be put together */
  other: Stored<DocumentOf<C>> | undefined;
  base: T;
  /** Saves over what the edit began from, or over `onto`; true where the server has it. Throws what may be tried again. */
  save: (document: DocumentOf<C>, onto?: Stored<DocumentOf<C>>) => Promise<boolean>;
  /** lets go of what was typed here, for what stands on the server */
  drop: () => void;
  /** goes on from what somebody else saved, with this as one's own change of it */
  goOnFrom: (current: Stored<DocumentOf<C>>, value: T) => void;
  /** leaves both as they are, for now */
  putOff: () => void;
}

/**
 * An edit of a document that is saved when a person says so. It keeps the revision it began from, whatever is read
 * again meanwhile, so that nobody's work is overwritten without a word; and it is kept on this device until the server
 * has it. `stored` is absent for one that is new; `begun` is what it starts as; `as` names an edit that has no id yet.
 */
export function useEditing<C extends CollectionName, T extends object = DocumentOf<C>>({
  collection,
  id,
  as = id,
  stored,
  begun,
}: {
  collection: C;
  id: string;
  as?: string;
  stored: Stored<DocumentOf<C>> | undefined;
  begun: T;
}): Editing<T, C> {
  const key = `upright-gusher-edit/${collection}/${as}`;
  const fresh = (): Kept<T> => ({
    ...{ id, revision: stored?.revision ?? 0 },
    ...{ base: begun, value: begun },
  });
  const [broughtBack, setBroughtBack] = useState(() => read<T>(key) !== undefined);
  const [state, setState] = useState<Kept<T>>(() => read<T>(key) ?? fresh());
  const [other, setOther] = useState<Stored<DocumentOf<C>>>();
  const latest = useRef(state);
  const show = (next: Kept<T>) => {
    latest.current = next;
    setState(next);
  };
  const put = (next: Kept<T>) => {
    if (sameDocument(next.value, next.base)) forget(key);
    else keep(key, next);
    show(next);
  };
  const changed = !sameDocument(state.value, state.base);

  // Read again while nothing was typed: the newest is shown.
  useEffect(() => {
    const { revision, base, value } = latest.current;
    if (!stored || stored.revision <= revision || !sameDocument(value, base)) return;
    const document = stored.document as unknown as T;
    show({ ...latest.current, revision: stored.revision, base: document, value: document });
  }, [stored]);

  function goOnFrom(current: Stored<DocumentOf<C>>, value: T): void {
    setOther(undefined);
    const base = current.document as unknown as T;
    put({ ...latest.current, revision: current.revision, base, value });
  }

  return {
    ...{ changed, broughtBack, other, value: state.value, base: state.base, goOnFrom },
    change: (next) => put({ ...latest.current, value: next(latest.current.value) }),
    async save(document, onto) {
      const saved = (now: Stored<DocumentOf<C>>) => {
        setBroughtBack(false);
        goOnFrom(now, now.document as unknown as T);
        queries.setQueryData(keyOf(collection, latest.current.id), now);
        return true;
      };
      try {
        const revision = onto?.revision ?? latest.current.revision;
        return saved(await api.save(collection, latest.current.id, revision, document));
      } catch (error) {
        const current =
          error instanceof Refused && error.body.error === "conflict"
            ? (error.body.current as Stored<DocumentOf<C>> | null)
            : undefined;
        if (!current) throw error;
        // Its answer was lost on the way: it is this very edit that stands there.
        if (sameDocument(current.document, document)) return saved(current);
        setOther(current);
        return false;
      }
    },
    drop() {
      forget(key);
      setBroughtBack(false);
      setOther(undefined);
      const current = queries.getQueryData<Stored<DocumentOf<C>>>(keyOf(collection, id)) ?? stored;
      const document = (current?.document as unknown as T) ?? begun;
      show({ id, revision: current?.revision ?? 0, base: document, value: document });
    },
    putOff: () => setOther(undefined),
  };
}

function read<T>(key: string): Kept<T> | undefined {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? "null") as Kept<T> | null) ?? undefined;
  } catch {
    return undefined;
  }
}

function keep(key: string, kept: unknown): void {
  try {
    localStorage.setItem(key, JSON.stringify(kept));
  } catch {
    // Without a store it lives as long as the page.
  }
}

function forget(key: string): void {
  try {
    localStorage.removeItem(key);
  } catch {
    // There is no store, and nothing in it.
  }
}
