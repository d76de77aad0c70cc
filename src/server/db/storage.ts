/** The storage cannot do what is asked: a code for the program, one sentence for a person, what to do. */
export class StorageProblem extends Error {
  constructor(
    readonly code: "locked" | "full" | "read-only" | "newer" | "damaged" | "unreachable" | "not-a-backup",
    message: string,
    options?: ErrorOptions,
  ) {
    super(message, options);
  }
}

const SENTENCES: [RegExp, StorageProblem["code"], string][] = [
  [
    /^SQLITE_(BUSY|LOCKED)/,
    "locked",
    "Another program holds the database. Nothing was written; try again, or end the other program.",
  ],
  [/^SQLITE_FULL/, "full", "The disk is full. Nothing was written; make room, then try again."],
  [
    /^SQLITE_READONLY|^SQLITE_PERM/,
    "read-only",
    "The database may only be read. Nothing was written; make its file and folder writable.",
  ],
  [/^SQLITE_(CANTOPEN|IOERR)/, "unreachable", "The database cannot be opened or read. See that its folder is there."],
  [
    /^SQLITE_(CORRUPT|NOTADB)/,
    "damaged",
    "The database file is damaged. Put a backup in its place: npm run restore -- FILE.",
  ],
  [
    /^(ECONN|ENOTFOUND|EAI_|UND_ERR|SERVER_ERROR|HRANA|WEBSOCKET)/,
    "unreachable",
    "The database server cannot be reached. Nothing was written; try again.",
  ],
];

/** What an error of the database means for a person; null when it is not one of the storage. */
export function asStorageProblem(cause: unknown): StorageProblem | null {
  for (
    let error = cause as { code?: unknown; cause?: unknown } | undefined;
    error;
    error = error.cause as typeof error
  ) {
    if (error instanceof StorageProblem) return error;
    const { code } = error;
    if (typeof code !== "string") continue;
    const known = SENTENCES.find(([pattern]) => pattern.test(code));
    if (known) return new StorageProblem(known[1], known[2], { cause: error });
  }
  return null;
}

/** The status that goes with it: what may be over soon is asked for again. */
export const statusOf = ({ code }: StorageProblem): number =>
  code === "full" ? 507 : code === "not-a-backup" ? 422 : 503;
