/**
 * Whether two documents say the same. The order of keys does not count (the database keeps its own), nor
 * does a field set to undefined.
 */
export function sameDocument(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const [left, right] = [a, b] as [Record<string, unknown>, Record<string, unknown>];
  const keys = new Set([...Object.keys(left), ...Object.keys(right)]);
  return [...keys].every((key) => sameDocument(left[key], right[key]));
}
