import { expose } from "comlink";
import { decimated } from "#core/numeric/decimate.ts";
import { firstAtOrAfter } from "#core/numeric/sorted.ts";

/** A whole stream, held beside the page: what is drawn of it is thinned here, as often as the view moves. */
let record: { times: Float64Array; channels: Float64Array[] } | undefined;

/** The part of a stream in view: times in s since 1970, each channel with times of its own. */
export type RecordView = { times: number[]; values: (number | null)[] }[];

const RECORD = {
  /** reads a stream; its first and last moment in s since 1970, and how many samples it has */
  async open(id: string): Promise<{ from: number; to: number; count: number }> {
    const response = await fetch(`/api/streams/${id}/whole`);
    if (!response.ok) throw new Error(`The server answered ${response.status}.`);
    const numbers = new Float64Array(await response.arrayBuffer());
    const [count = 0, channels = 0] = numbers;
    const column = (c: number) => numbers.slice(2 + count * c, 2 + count * (c + 1));
    record = {
      times: column(0).map((ms) => ms / 1000),
      channels: Array.from({ length: channels }, (_, c) => column(c + 1)),
    };
    const { times } = record;
    return { from: times[0] ?? 0, to: times.at(-1) ?? 0, count };
  },
  view(from: number, to: number, columns: number): RecordView {
    return (record?.channels ?? []).map((values) =>
      decimated(record?.times ?? new Float64Array(), values, from, to, columns),
    );
  },
  /** every sample of a window, channel by channel, gaps left out */
  window(from: number, to: number): { at: number; value: number }[][] {
    const { times = new Float64Array(), channels = [] } = record ?? {};
    const [first, end] = [firstAtOrAfter(times, from), firstAtOrAfter(times, to)];
    return channels.map((values) => {
      const own: { at: number; value: number }[] = [];
      for (let i = first; i < end; i++) {
        const value = values[i] as number;
        if (!Number.isNaN(value)) own.push({ at: times[i] as number, value });
      }
      return own;
    });
  },
};

export type RecordWorker = typeof RECORD;
expose(RECORD);
