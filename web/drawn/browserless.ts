/** What a page asks of its browser before it is drawn, answered where there is none: the plainest there is. */
const storage = {
  getItem: () => null,
  setItem: () => undefined,
  removeItem: () => undefined,
};
const has = (name: string, value: unknown) =>
  Object.defineProperty(globalThis, name, { value, configurable: true, writable: true });

has("localStorage", storage);
has("sessionStorage", storage);
has("navigator", { language: "en", onLine: true });
has("matchMedia", () => ({ matches: false }));
has("innerHeight", 900);
