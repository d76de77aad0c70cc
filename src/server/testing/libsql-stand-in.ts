import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import Sqlite from "libsql";

/** Values, statements and answers of the Hrana protocol, version 2 over HTTP with JSON, as its specification has them. */
type Value =
  | { type: "null" }
  | { type: "integer"; value: string }
  | { type: "float"; value: number }
  | { type: "text"; value: string }
  | { type: "blob"; base64: string };
interface Statement {
  sql?: string | null;
  sql_id?: number;
  args?: Value[];
  named_args?: { name: string; value: Value }[];
}
type Condition =
  | { type: "ok" | "error"; step: number }
  | { type: "not"; cond: Condition }
  | { type: "and" | "or"; conds: Condition[] }
  | { type: "is_autocommit" };
interface Request {
  type: "execute" | "batch" | "sequence" | "store_sql" | "close_sql" | "get_autocommit" | "close";
  stmt?: Statement;
  batch?: { steps: { stmt: Statement; condition?: Condition | null }[] };
  sql?: string;
  sql_id?: number;
}
interface Fault {
  message: string;
  code: string;
}

/** A stream: one connection, which lives as long as its client sends its baton back. */
interface Stream {
  db: InstanceType<typeof Sqlite>;
  texts: Map<number, string>;
}

/** How long, ms, a statement waits for another stream to let go. */
const PATIENCE = 10_000;

/**
 * A small server that stands in for a libSQL server in tests: it speaks as much of the published protocol as a client asks
 * for, over one SQLite file. It can be told to drop answers after the work was done, as a network does.
 */
export class LibsqlStandIn {
  private readonly streams = new Map<string, Stream>();
  private readonly server: Server;
  private count = 0;
  /** Stays open, so that the file is not tidied up each time that the last stream ends. */
  private readonly keeper: Stream["db"];
  /** Told of each request that was answered; an answer is dropped where it says so. */
  drops: () => boolean = () => false;

  constructor(private readonly file: string) {
    this.keeper = new Sqlite(file);
    this.server = createServer((request, response) => {
      const chunks: Buffer[] = [];
      request.on("data", (chunk: Buffer) => chunks.push(chunk));
      request.on("end", async () => {
        if (request.method !== "POST" || !request.url?.endsWith("/v2/pipeline")) {
          response.writeHead(404).end();
          return;
        }
        try {
          const { baton, requests } = JSON.parse(Buffer.concat(chunks).toString("utf8"));
          const done = await this.pipeline(baton ?? null, requests);
          const answer = JSON.stringify(done);
          if (this.drops()) {
            // Nobody can go on with a stream whose baton was lost: it ends, and what it had not committed with it.
            if (done.baton) this.end(done.baton);
            response.destroy();
          } else response.writeHead(200, { "Content-Type": "application/json" }).end(answer);
        } catch (cause) {
          response.writeHead(400).end(String(cause));
        }
      });
    });
  }

  async start(): Promise<string> {
    this.keeper.exec("PRAGMA journal_mode = WAL");
    await new Promise<void>((resolve) => this.server.listen(0, "127.0.0.1", resolve));
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  async stop(): Promise<void> {
    this.server.closeAllConnections();
    await new Promise((resolve) => this.server.close(resolve));
    for (const { db } of this.streams.values()) db.close();
    this.keeper.close();
  }

  private async pipeline(baton: string | null, requests: Request[]) {
    const found = baton === null ? undefined : this.streams.get(baton);
    if (baton !== null && !found) throw new Error("This stream is closed.");
    if (baton !== null) this.streams.delete(baton);
    const stream = found ?? this.open();
    const results = [];
    let open = true;
    for (const request of requests)
      try {
        results.push({ type: "ok", response: { type: request.type, ...(await this.answer(stream, request)) } });
        if (request.type === "close") open = false;
      } catch (cause) {
        results.push({ type: "error", error: asFault(cause) });
      }
    const next = open ? `stream-${++this.count}` : null;
    if (next) this.streams.set(next, stream);
    else stream.db.close();
    return { baton: next, base_url: null, results };
  }

  private end(baton: string): void {
    this.streams.get(baton)?.db.close();
    this.streams.delete(baton);
  }

  private open(): Stream {
    const db = new Sqlite(this.file);
    // How it stores is the stand-in's own affair: only what it says when is under test.
    db.exec("PRAGMA synchronous = OFF; PRAGMA busy_timeout = 0");
    return { db, texts: new Map() };
  }

  private async answer(stream: Stream, request: Request): Promise<object> {
    switch (request.type) {
      case "execute":
        return { result: await execute(stream, request.stmt!) };
      case "batch":
        return { result: await batch(stream, request.batch!.steps) };
      case "sequence":
        await patiently(() => stream.db.exec(request.sql ?? stream.texts.get(request.sql_id!)!));
        return {};
      case "store_sql":
        stream.texts.set(request.sql_id!, request.sql!);
        return {};
      case "close_sql":
        stream.texts.delete(request.sql_id!);
        return {};
      case "get_autocommit":
        return { is_autocommit: !stream.db.inTransaction };
      case "close":
        return {};
    }
  }
}

/** Tries again while another stream holds the file: the driver itself would stop everything to wait. */
async function patiently<T>(work: () => T): Promise<T> {
  for (const started = Date.now(); ; )
    try {
      return work();
    } catch (cause) {
      if (asFault(cause).code !== "SQLITE_BUSY" || Date.now() - started > PATIENCE) throw cause;
      await new Promise((resolve) => setTimeout(resolve, 2));
    }
}

function asFault(cause: unknown): Fault {
  const { message, code } = cause as { message?: string; code?: string };
  return { message: message ?? String(cause), code: code ?? "SQLITE_ERROR" };
}

function execute({ db, texts }: Stream, { sql, sql_id, args = [], named_args = [] }: Statement) {
  const text = sql ?? texts.get(sql_id!)!;
  const named = named_args.map(({ name, value }) => [name.replace(/^[:@$]/, ""), plain(value)] as const);
  const given = named.length > 0 ? [Object.fromEntries(named)] : args.map(plain);
  // A prepared statement that found the file held counts as running, and what runs cannot be committed: these are not kept.
  if (/^\s*(BEGIN|COMMIT|ROLLBACK|SAVEPOINT|RELEASE)\b/i.test(text))
    return patiently(() => {
      db.exec(text);
      return { cols: [], rows: [], affected_row_count: 0, last_insert_rowid: null };
    });
  const statement = db.prepare(text);
  statement.safeIntegers(true);
  return patiently(() => {
    if (statement.reader) {
      const cols = statement.columns().map(({ name, type }) => ({ name, decltype: type ?? null }));
      const rows = (statement.raw(true).all(...given) as unknown[][]).map((row) => row.map(wired));
      return { cols, rows, affected_row_count: 0, last_insert_rowid: null };
    }
    const { changes, lastInsertRowid } = statement.run(...given);
    return {
      cols: [],
      rows: [],
      affected_row_count: Number(changes),
      last_insert_rowid: String(lastInsertRowid),
    };
  });
}

async function batch(stream: Stream, steps: { stmt: Statement; condition?: Condition | null }[]) {
  const results: (object | null)[] = [];
  const errors: (Fault | null)[] = [];
  const holds = (condition: Condition): boolean => {
    switch (condition.type) {
      case "ok":
        return results[condition.step] !== null;
      case "error":
        return errors[condition.step] !== null;
      case "not":
        return !holds(condition.cond);
      case "and":
        return condition.conds.every(holds);
      case "or":
        return condition.conds.some(holds);
      case "is_autocommit":
        return !stream.db.inTransaction;
    }
  };
  for (const { stmt, condition } of steps) {
    results.push(null);
    errors.push(null);
    if (condition && !holds(condition)) continue;
    try {
      results[results.length - 1] = await execute(stream, stmt);
    } catch (cause) {
      errors[errors.length - 1] = asFault(cause);
    }
  }
  return { step_results: results, step_errors: errors };
}

function plain(value: Value): unknown {
  switch (value.type) {
    case "null":
      return null;
    case "integer":
      return BigInt(value.value);
    case "blob":
      return Buffer.from(value.base64, "base64");
    default:
      return value.value;
  }
}

function wired(value: unknown): Value {
  if (value === null || value === undefined) return { type: "null" };
  if (typeof value === "bigint") return { type: "integer", value: String(value) };
  if (typeof value === "number") return { type: "float", value };
  if (typeof value === "string") return { type: "text", value };
  return { type: "blob", base64: Buffer.from(value as Uint8Array).toString("base64") };
}
