export type Row = Record<string, unknown>;

/**
 * The little that the server asks of a database, so that the same SQL can run on a PostgreSQL server
 * when a firm outgrows one machine. Parameters are PostgreSQL's $1, $2, …
 */
export interface Queryable {
  query<T extends Row>(sql: string, parameters?: unknown[]): Promise<T[]>;
  /** several statements at once, without parameters */
  execute(sql: string): Promise<void>;
  /** the same, of what goes through whole tables and may take its time */
  upkeep(sql: string): Promise<void>;
}

export interface Database extends Queryable {
  /**
   * Writes: all of `work` is kept, or none of it. Once it resolves, what was written survives the power going.
   * Rejects with `NoRoom` before anything is touched where the disk has none.
   */
  transaction<T>(work: (tx: Queryable) => Promise<T>): Promise<T>;
  close(): Promise<void>;
}

/** One connection that takes one statement at a time. */
export interface Engine extends Queryable {
  close(): Promise<void>;
}

/** The disk is full, or so nearly that a write could stop half-way. Nothing was written. */
export class NoRoom extends Error {}

/** The engine broke off and is being started again; what was asked may or may not have been done. */
export class EngineLost extends Error {}

/** PostgreSQL's code for a disk without room. */
const DISK_FULL = "53100";

/**
 * A database on one connection: whoever asks while a transaction runs waits for its end. What is only asked goes to the
 * engine at once, which takes one after the other without anyone in between.
 * @param roomFor throws `NoRoom` where a write had better not begin
 */
export function databaseOn(engine: Engine, roomFor: () => void = () => undefined): Database {
  /** the end of the last that had the connection to itself */
  let alone: Promise<unknown> = Promise.resolve();
  /** everything asked and not answered */
  const asked = new Set<Promise<unknown>>();
  const quietly = (work: Promise<unknown>) => work.catch(() => undefined);

  function together<T>(work: () => Promise<T>): Promise<T> {
    const mine = alone.then(work);
    const answered = quietly(mine);
    asked.add(answered);
    void answered.then(() => asked.delete(answered));
    return mine;
  }
  /** Runs `work` when everything asked before it has ended. */
  function inTurn<T>(work: () => Promise<T>): Promise<T> {
    const mine = Promise.all([alone, ...asked]).then(work);
    alone = quietly(mine);
    return mine;
  }

  async function transact<T>(work: (tx: Queryable) => Promise<T>): Promise<T> {
    roomFor();
    try {
      await engine.execute("BEGIN");
      try {
        const result = await work(engine);
        await engine.execute("COMMIT");
        return result;
      } catch (error) {
        // An engine that broke off has forgotten the transaction by itself.
        await engine.execute("ROLLBACK").catch(() => undefined);
        throw error;
      }
    } catch (error) {
      throw (error as { code?: string }).code === DISK_FULL
        ? new NoRoom("The disk became full during a write.", { cause: error })
        : error;
    }
  }

  return {
    query: (sql, parameters) => together(() => engine.query(sql, parameters)),
    execute: (sql) => inTurn(() => engine.execute(sql)),
    transaction: (work) => inTurn(() => transact(work)),
    upkeep: (sql) => inTurn(() => engine.upkeep(sql)),
    close: () => inTurn(() => engine.close()),
  };
}
