// Loaded before the server (--import): a disk that is full when a file says so. Plain JavaScript, since it is loaded
// by Node.js itself. The file's words: "roomy"; "low", nearly nothing free; "quota", much free and nothing of it for
// this user, as far as new pieces of the log go.
import fs from "node:fs";
import { syncBuiltinESMExports } from "node:module";
import { join } from "node:path";

const { GUSHER_TEST_DISK: word, GUSHER_TEST_DATA: data } = process.env;
const state = () => real.readFileSync(word, "utf8");
const real = { ...fs };
const paths = new Map();

fs.openSync = (path, ...rest) => {
  const file = real.openSync(path, ...rest);
  paths.set(file, String(path));
  return file;
};
fs.writeSync = (file, ...rest) => {
  const path = paths.get(file) ?? "";
  // What is kept back makes room when it is given up.
  const kept = real.existsSync(join(data, "spare-room"));
  const grows = (/xlogtemp/.test(path) && kept) || path.endsWith("spare-room.new");
  if (grows && state() === "quota") {
    throw Object.assign(new Error("ENOSPC: no space left on device, write"), { code: "ENOSPC" });
  }
  return real.writeSync(file, ...rest);
};
fs.writeFileSync = (to, content, how) => {
  if (typeof to !== "number") return real.writeFileSync(to, content, how);
  fs.writeSync(to, content);
};
fs.statfsSync = (...args) => {
  const found = real.statfsSync(...args);
  return state() === "low" ? { ...found, bavail: 1000 } : found;
};
syncBuiltinESMExports();
