import { readdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { promisify } from "node:util";
import { brotliCompress, constants, gzip } from "node:zlib";

const [brotli, zip] = [promisify(brotliCompress), promisify(gzip)];
/** bytes under which compressing saves nothing worth a file */
const LEAST = 1000;

/** Whole or not at all: at the first start the server sends files while others are still being made. */
function put(path, bytes) {
  writeFileSync(`${path}.new`, bytes);
  renameSync(`${path}.new`, path);
}

/**
 * Puts a `.br` (RFC 7932) and a `.gz` (RFC 1952) beside every file of text in a folder of built files, as small as they
 * get: they are sent as they lie there.
 */
export async function compressFiles(folder) {
  const files = readdirSync(folder, { recursive: true, withFileTypes: true }).filter(
    (entry) => entry.isFile() && /\.(?:js|css|html|svg|txt|webmanifest)$/.test(entry.name),
  );
  await Promise.all(
    files.map(async (entry) => {
      const path = join(entry.parentPath ?? entry.path, entry.name);
      const bytes = readFileSync(path);
      if (bytes.length < LEAST) return;
      const small = { params: { [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length } };
      put(`${path}.br`, await brotli(bytes, small));
      put(`${path}.gz`, await zip(bytes, { level: 9 }));
    }),
  );
}
