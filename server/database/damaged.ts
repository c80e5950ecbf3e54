import { join } from "node:path";

/**
 * Whether an error is what PostgreSQL says of files that are not as it left them: damaged pages and indexes, and files
 * it cannot read (PostgreSQL manual, appendix A, classes 58 and XX).
 */
export function isDamaged(error: unknown): boolean {
  const { code, message } = error as { code?: unknown; message?: unknown };
  if (typeof code !== "string") return false;
  return (
    ["XX001", "XX002", "58P01", "58030"].includes(code) ||
    (code === "XX000" &&
      /could not (?:read|open|find)|missing chunk|invalid page|compressed|corrupt/.test(
        `${message}`,
      ))
  );
}

/** What to do then. */
export const damagedAdvice = (folder: string): string =>
  `A part of the database in ${folder} cannot be read: its files were damaged, by the disk or by something that wrote to them. Stop the server and copy the folder away as it is. Then restore the newest of ${join(folder, "backups")} into a new folder: npm run restore -- FILE --data FOLDER`;
