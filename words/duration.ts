/**
 * "3 h 20 min" from seconds.
 * @example duration(5400) // "1 h 30 min"
 */
export function duration(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  return hours < 48 ? `${hours} h ${minutes % 60} min` : `${(hours / 24).toFixed(1)} days`;
}
