/** Deepest nesting a document may have; ours need about ten. */
const DEEPEST = 40;

/**
 * Why a parsed JSON body cannot be kept by PostgreSQL, or undefined. Documents keep fields they do not
 * know, so anything may be in there: NUL and half a surrogate pair are not text to a database, and
 * endless nesting would exhaust its stack.
 */
export function unstorable(body: unknown): string | undefined {
  if (depth(body) > DEEPEST) return `The document is nested more than ${DEEPEST} deep.`;
  // JSON.stringify writes both as escapes; a doubled backslash before them is only text about them.
  const broken = /(?<!\\)(?:\\\\)*\\u(?:0000|d[89a-f][0-9a-f]{2})/i;
  return broken.test(JSON.stringify(body) ?? "")
    ? "The document holds characters that are not text."
    : undefined;
}

function depth(root: unknown): number {
  let deepest = 0;
  const open: { value: unknown; level: number }[] = [{ value: root, level: 0 }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { value, level } = next;
    deepest = Math.max(deepest, level);
    if (level > DEEPEST) break;
    if (typeof value === "object" && value !== null) {
      for (const child of Object.values(value)) open.push({ value: child, level: level + 1 });
    }
  }
  return deepest;
}
