import { blob, index, integer, sqliteTable, text, uniqueIndex } from "drizzle-orm/sqlite-core";

/** A job: its document as it is now, and the revision that every write counts up. */
export const jobs = sqliteTable("jobs", {
  id: text("id").primaryKey(),
  name: text("name").notNull(),
  document: text("document").notNull(),
  revision: integer("revision").notNull(),
  /** What the list of jobs shows, as JSON, so that it reads no document; null in a row that an earlier release wrote. */
  outline: text("outline"),
  /** The edit that undo would take back, and the undo that redo would take back: ids of changes. */
  undoTop: integer("undo_top"),
  redoTop: integer("redo_top"),
  /** Whether the two above and `changes.under` are filled in; a row that an earlier release wrote has them from its log once. */
  hasTops: integer("has_tops", { mode: "boolean" }).notNull().default(false),
  createdAt: integer("created_at", { mode: "timestamp_ms" }).notNull(),
  updatedAt: integer("updated_at", { mode: "timestamp_ms" }).notNull(),
});

/** The log: every edit, undo and redo of a job, with the patches to do it and to take it back. Rows are only added. */
export const changes = sqliteTable(
  "changes",
  {
    id: integer("id").primaryKey({ autoIncrement: true }),
    job: text("job")
      .notNull()
      .references(() => jobs.id, { onDelete: "cascade" }),
    revision: integer("revision").notNull(),
    kind: text("kind", { enum: ["edit", "undo", "redo"] }).notNull(),
    /** For an undo or redo: the edit that it takes back or does again. */
    of: integer("of"),
    /**
     * What lies under it on its stack, as the id of a change: under an edit, the edit that can be undone after it; under an
     * undo, the undo that can be taken back after it. So one edit costs the same however long the log is.
     */
    under: integer("under"),
    label: text("label").notNull(),
    /** The sender's own mark for the edit: sent again after a lost answer, it is not done twice. */
    token: text("token"),
    patches: text("patches").notNull(),
    inverse: text("inverse").notNull(),
    at: integer("at", { mode: "timestamp_ms" }).notNull(),
  },
  (table) => [
    uniqueIndex("changes_job_revision").on(table.job, table.revision),
    uniqueIndex("changes_job_token").on(table.job, table.token),
  ],
);

/** Computed results by key: they can always be computed again, so the oldest may go. */
export const geometry = sqliteTable(
  "geometry",
  {
    key: text("key").primaryKey(),
    bytes: blob("bytes", { mode: "buffer" }).notNull(),
    size: integer("size").notNull(),
    usedAt: integer("used_at", { mode: "timestamp_ms" }).notNull(),
  },
  (table) => [index("geometry_used").on(table.usedAt)],
);

/** Imported files, kept as they came, by the hash of their bytes. */
export const files = sqliteTable("files", {
  sha256: text("sha256").primaryKey(),
  name: text("name").notNull(),
  bytes: blob("bytes", { mode: "buffer" }).notNull(),
  size: integer("size").notNull(),
  createdAt: integer("created_at", { mode: "timestamp_ms" }).notNull(),
});
