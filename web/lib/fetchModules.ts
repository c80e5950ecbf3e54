/** Each begun costs the page a moment: so many in one turn. */
const AT_ONCE = 4;

/** Fetches modules without running them; each is there then, whatever becomes of the network. */
export async function fetchModules(files: readonly string[]): Promise<void> {
  const fetched: Promise<void>[] = [];
  for (const [i, file] of files.entries()) {
    if (i > 0 && i % AT_ONCE === 0) await new Promise((done) => setTimeout(done));
    fetched.push(fetchModule(file));
  }
  await Promise.all(fetched);
}

function fetchModule(file: string): Promise<void> {
  const link = document.createElement("link");
  link.rel = "modulepreload";
  link.href = `/${file}`;
  const loaded = new Promise<void>((done, failed) => {
    link.onload = () => done();
    link.onerror = () => failed(new Error(`${file} cannot be had.`));
  });
  // Waited for once all are begun.
  loaded.catch(() => undefined);
  document.head.append(link);
  return loaded;
}

/** What the server named with the page: what it begins with, or what it shows later. */
export function modulesOf(which: "modules" | "later"): string[] {
  const said = document.getElementById("arrived")?.dataset[which] ?? "";
  return said.split(" ").filter((file) => file !== "");
}
