import { PGlite } from "@electric-sql/pglite";

export type Row = Record<string, unknown>;

/**
 * The little that the server asks of a database, so that the same SQL can run on a PostgreSQL server
 * when a firm outgrows one machine. Parameters are PostgreSQL's $1, $2, …
 */
export interface Queryable {
  query<T extends Row>(sql: string, parameters?: unknown[]): Promise<T[]>;
  /** several statements at once, without parameters */
  execute(sql: string): Promise<void>;
}

export interface Database extends Queryable {
  /** all of `work` is kept, or none of it */
  transaction<T>(work: (tx: Queryable) => Promise<T>): Promise<T>;
  close(): Promise<void>;
}

/**
 * PostgreSQL embedded in this process, its files in `folder`. A write is in the write-ahead log on disk
 * before its query resolves, so that a killed process loses nothing it acknowledged.
 */
export async function openDatabase(folder: string): Promise<Database> {
  const pglite = await PGlite.create({ dataDir: folder, relaxedDurability: false });
  const wrap = (target: Pick<PGlite, "query" | "exec">): Queryable => ({
    query: async <T extends Row>(sql: string, parameters: unknown[] = []) =>
      (await target.query<T>(sql, parameters)).rows,
    execute: async (sql) => {
      await target.exec(sql);
    },
  });
  return {
    ...wrap(pglite),
    transaction: (work) =>
      pglite.transaction((tx) => work(wrap(tx as unknown as Pick<PGlite, "query" | "exec">))),
    close: () => pglite.close(),
  };
}
