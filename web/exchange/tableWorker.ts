import { expose } from "comlink";
import { readLogger } from "#model/import/loggerTable.ts";
import { readIncoming } from "#model/import/pumpTable/incoming.ts";

/** Tables of many thousand rows, read beside the page; the last argument of each hears how much is done, 0 to 1. */
const TABLES = { pumps: readIncoming, logger: readLogger };

export type Tables = typeof TABLES;
export type TableName = keyof Tables;

const READER = {
  read: (name: TableName, args: readonly unknown[], progress: (done: number) => void): unknown =>
    (TABLES[name] as (...all: unknown[]) => unknown)(...args, progress),
};
export type Reader = typeof READER;
expose(READER);
