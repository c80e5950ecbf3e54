const two = (n: number) => String(n).padStart(2, "0");

/** The time on the wall; a browser's own way of writing it takes a tenth of a second to be ready. */
export const wallClock = (time: Date): string =>
  `${two(time.getHours())}:${two(time.getMinutes())}`;

/** The day on the wall, not the day in Greenwich, as YYYY-MM-DD. */
export const localDay = (time: Date): string =>
  `${time.getFullYear()}-${two(time.getMonth() + 1)}-${two(time.getDate())}`;
