/**
 * The text of a file that does not say how it was written: by its byte order mark, as UTF-8 where it is that, as
 * UTF-16 where every other byte is nothing, else as Windows-1252, which spreadsheets write by themselves (WHATWG
 * Encoding Standard, sections 6 and 9).
 * @example decodeText(new Uint8Array([0x4d, 0xfc, 0x68, 0x6c, 0x65])) // "Mühle"
 */
export function decodeText(bytes: Uint8Array): string {
  const as = (encoding: string, fatal = false) =>
    new TextDecoder(encoding, { fatal }).decode(bytes);
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return as("utf-16le");
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return as("utf-16be");
  const [even, odd] = [zerosFrom(bytes, 0), zerosFrom(bytes, 1)];
  if (odd > HALF_ZERO && even < 1 - HALF_ZERO) return as("utf-16le");
  if (even > HALF_ZERO && odd < 1 - HALF_ZERO) return as("utf-16be");
  try {
    return as("utf-8", true);
  } catch {
    return as("windows-1252");
  }
}

/** Share of zeros among the high bytes from which plain letters in UTF-16 are told; common practice, no source. */
const HALF_ZERO = 0.7;
/** bytes that are looked at */
const LOOKED_AT = 2000;

function zerosFrom(bytes: Uint8Array, from: number): number {
  let [zeros, all] = [0, 0];
  for (let i = from; i < Math.min(bytes.length, LOOKED_AT); i += 2) {
    if (bytes[i] === 0) zeros += 1;
    all += 1;
  }
  return all > 0 ? zeros / all : 0;
}
