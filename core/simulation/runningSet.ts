/**
 * Which pumps run, as one number: a bit a pump, in the order of the line.
 * @example setOf([true, false, true]) // 5
 */
export function setOf(running: readonly boolean[]): number {
  let bits = 0;
  for (let k = 0; k < running.length; k++) if (running[k]) bits += 2 ** k;
  return bits;
}

/**
 * Whether a pump is one of a set.
 * @example hasPump(5, 2) // true
 */
export const hasPump = (bits: number, k: number): boolean => Math.floor(bits / 2 ** k) % 2 === 1;
