import type { Database } from "./database.ts";
import documents from "./migrations/0001_documents.sql";
import revisions from "./migrations/0002_revisions.sql";
import attachments from "./migrations/0003_attachments.sql";
import sequence from "./migrations/0004_sequence.sql";
import summaries from "./migrations/0005_summaries.sql";
import streams from "./migrations/0006_streams.sql";
import lists from "./migrations/0007_lists.sql";
import imports from "./migrations/0008_imports.sql";
import bounds from "./migrations/0009_bounds.sql";
import sampleCounts from "./migrations/0010_sample_counts.sql";
import findings from "./migrations/0011_findings.sql";

/** Every migration in order. One that has shipped is never edited: changes go into a new one. */
const MIGRATIONS = [
  { number: 1, name: "documents", sql: documents },
  { number: 2, name: "revisions", sql: revisions },
  { number: 3, name: "attachments", sql: attachments },
  { number: 4, name: "sequence", sql: sequence },
  { number: 5, name: "summaries", sql: summaries },
  { number: 6, name: "streams", sql: streams },
  { number: 7, name: "lists", sql: lists },
  { number: 8, name: "imports", sql: imports },
  { number: 9, name: "bounds", sql: bounds },
  { number: 10, name: "sample counts", sql: sampleCounts },
  { number: 11, name: "findings", sql: findings },
] as const;

/** Brings the database up to date, each migration in a transaction of its own. */
export async function migrate(database: Database): Promise<void> {
  await database.execute(
    "CREATE TABLE IF NOT EXISTS migrations (number integer PRIMARY KEY, name text NOT NULL, applied_at timestamptz NOT NULL DEFAULT now())",
  );
  const rows = await database.query<{ number: number }>("SELECT number FROM migrations");
  const applied = new Set(rows.map((row) => row.number));
  const newest = Math.max(0, ...applied);
  if (newest > MIGRATIONS.length) {
    throw new Error("This data folder was written by a newer version of the application.");
  }
  for (const { number, name, sql } of MIGRATIONS) {
    if (applied.has(number)) continue;
    await database.transaction(async (tx) => {
      await tx.upkeep(sql);
      await tx.query("INSERT INTO migrations (number, name) VALUES ($1, $2)", [number, name]);
    });
  }
}
