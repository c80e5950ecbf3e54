/** A copy with every undefined field taken out. */
export function without<T extends object>(given: T): T {
  return Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)) as T;
}
