// What others have written that is built in, with the texts of their licences: fonts and libraries alike.
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

const LICENCE = /^(licen[cs]e|copying|notice|ofl)/i;

/** Every package that the named ones need, found as Node.js finds them, by its folder. */
function needed(root, names) {
  const found = new Map();
  const visit = (name, from) => {
    let folder = from;
    while (!existsSync(join(folder, "node_modules", name, "package.json"))) {
      const parent = join(folder, "..");
      if (parent === folder) return;
      folder = parent;
    }
    const own = join(folder, "node_modules", name);
    if (found.has(own)) return;
    const about = JSON.parse(readFileSync(join(own, "package.json"), "utf8"));
    found.set(own, about);
    for (const next of Object.keys(about.dependencies ?? {})) visit(next, own);
  };
  for (const name of names) visit(name, root);
  return [...found].sort(([, a], [, b]) => a.name.localeCompare(b.name));
}

/** The notices as one text. A package without a licence of its own is named with what it says of itself. */
export function notices(root) {
  const { dependencies } = JSON.parse(readFileSync(join(root, "package.json"), "utf8"));
  const parts = needed(root, Object.keys(dependencies)).map(([folder, about]) => {
    const licence = typeof about.license === "string" ? about.license : (about.license?.type ?? "");
    const texts = readdirSync(folder)
      .filter((file) => LICENCE.test(file) && !/\.(js|ts|json)$/.test(file))
      .sort()
      .map((file) => readFileSync(join(folder, file), "utf8").trim());
    const head = `${about.name} ${about.version}${licence ? `, ${licence}` : ""}`;
    return [head, "-".repeat(head.length), ...texts].join("\n\n");
  });
  return `What others have written that this application is built with.\n\n${parts.join("\n\n\n")}\n`;
}
