import { sameDocument } from "./same.ts";

/** A field that two people changed, and not to the same. `path` leads to it: keys, and ids within lists. */
export interface Touched {
  path: string[];
  mine: unknown;
  theirs: unknown;
}

export interface Merged<T> {
  /** what only one changed as that one has it, and what both changed as `keep` says */
  document: T;
  /** fields that both changed */
  both: Touched[];
}

type Keep = "mine" | "theirs";

/**
 * Two changes of one document put together, field by field. Lists whose entries have an `id` are gone through entry by
 * entry, in the order of theirs with mine behind; any other list is one field. `keep` says whose value stands where
 * both changed one: mine where it does not say.
 *
 * @example base { a: 1, b: 1 }, mine { a: 2, b: 1 }, theirs { a: 1, b: 3 }: { a: 2, b: 3 }, and nothing that both changed
 */
export function merge<T>(
  base: unknown,
  mine: T,
  theirs: T,
  keep: (path: readonly string[]) => Keep = () => "mine",
): Merged<T> {
  const both: Touched[] = [];
  const joined = (was: unknown, own: unknown, other: unknown, path: string[]): unknown => {
    if (sameDocument(own, other) || sameDocument(was, other)) return own;
    if (sameDocument(was, own)) return other;
    const lists = [was ?? [], own, other].map(byId);
    const [wasList, ownList, otherList] = lists;
    if (wasList && ownList && otherList) {
      const ids = new Set([...otherList.keys(), ...ownList.keys()]);
      return [...ids].flatMap((id) => {
        const entry = joined(wasList.get(id), ownList.get(id), otherList.get(id), [...path, id]);
        return entry === undefined ? [] : [entry];
      });
    }
    if (isFields(own) && isFields(other)) {
      const before = isFields(was) ? was : {};
      const keys = new Set([...Object.keys(own), ...Object.keys(other)]);
      return Object.fromEntries(
        [...keys].flatMap((key) => {
          const value = joined(before[key], own[key], other[key], [...path, key]);
          return value === undefined ? [] : [[key, value]];
        }),
      );
    }
    both.push({ path, mine: own, theirs: other });
    return keep(path) === "mine" ? own : other;
  };
  return { document: joined(base, mine, theirs, []) as T, both };
}

const isFields = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** The entries of a list by their ids; nothing where it is no such list. */
function byId(list: unknown): Map<string, unknown> | undefined {
  if (!Array.isArray(list)) return undefined;
  const entries = list.map((own) => [isFields(own) ? own.id : undefined, own] as const);
  return entries.every(([id]) => typeof id === "string")
    ? new Map(entries as [string, unknown][])
    : undefined;
}
