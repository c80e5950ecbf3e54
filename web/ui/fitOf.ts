/**
 * How well a name fits what was typed, 0 to 1: every word typed must begin a word of the name, and whole words fit
 * better, so that "2 pvc" finds 2 in before 2-1/2 in.
 */
export function fitOf(name: string, typed: string): number {
  const words = name.toLowerCase().split(/[\s,]+/);
  let fit = 1;
  for (const part of typed.toLowerCase().split(/[\s,]+/)) {
    if (part === "") continue;
    if (words.includes(part)) continue;
    if (!words.some((word) => word.startsWith(part))) return 0;
    fit *= 0.8;
  }
  return fit;
}
