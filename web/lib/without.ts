/** A record of which what may be undefined may be absent instead. */
type Without<T> = {
  [K in keyof T as undefined extends T[K] ? never : K]: T[K];
} & { [K in keyof T as undefined extends T[K] ? K : never]?: Exclude<T[K], undefined> };

/** A copy with every undefined field taken out. */
export function without<T extends object>(given: T): Without<T> {
  return Object.fromEntries(
    Object.entries(given).filter(([, value]) => value !== undefined),
  ) as Without<T>;
}
