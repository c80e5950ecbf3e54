import type { StateStorage } from "zustand/middleware";

/** A store of the browser's that may be denied, or full: what it cannot keep lives as long as the page. */
export function safely(storage: () => StateStorage): StateStorage {
  const attempt = <T>(work: (own: StateStorage) => T, otherwise: T): T => {
    try {
      return work(storage());
    } catch {
      return otherwise;
    }
  };
  return {
    getItem: (name) => attempt((own) => own.getItem(name), null),
    setItem: (name, text) => attempt((own) => own.setItem(name, text), undefined),
    removeItem: (name) => attempt((own) => own.removeItem(name), undefined),
  };
}
