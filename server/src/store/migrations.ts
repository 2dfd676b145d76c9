import { deflateSync } from "node:zlib";
import { present } from "@humming-tide/core/presence";
import { QueryTypes, type Sequelize, type Transaction } from "sequelize";

export interface Migration {
  readonly name: string;
  /**
   * What only this migration makes: where it is there, the migration has run, whatever the list of
   * migrations says.
   */
  readonly leaves: { readonly table: string; readonly column?: string };
  readonly up: (database: Sequelize, transaction: Transaction) => Promise<void>;
}

/** A migration of plain statements. */
const statements =
  (...list: readonly string[]): Migration["up"] =>
  async (database, transaction) => {
    for (const statement of list) await database.query(statement, { transaction });
  };

/** Every revision is kept, so each is deflated. */
async function packRevisions(database: Sequelize, transaction: Transaction): Promise<void> {
  const keys = await database.query<{ show_id: string; revision: number }>(
    "SELECT show_id, revision FROM show_revisions",
    { type: QueryTypes.SELECT, transaction },
  );
  for (const { show_id, revision } of keys) {
    const [row] = await database.query<{ document: string; created_at: string }>(
      "SELECT document, created_at FROM show_revisions WHERE show_id = ? AND revision = ?",
      { type: QueryTypes.SELECT, replacements: [show_id, revision], transaction },
    );
    await database.query("INSERT INTO packed_revisions VALUES (?, ?, ?, ?)", {
      replacements: [show_id, revision, deflateSync(present(row).document), present(row).created_at],
      transaction,
    });
  }
}

/**
 * Changes of the database's layout, in order. One that has been released is never edited; a new one
 * follows it.
 */
export const migrations: readonly Migration[] = [
  {
    name: "001-first-layout",
    // Its last statement. The first release ran the statements one by one, so a kill left some of
    // the tables: hence IF NOT EXISTS.
    leaves: { table: "exports_by_show" },
    up: statements(
      `CREATE TABLE IF NOT EXISTS shows (id TEXT PRIMARY KEY, revision INTEGER NOT NULL, document TEXT NOT NULL,
        created_at DATETIME NOT NULL, updated_at DATETIME NOT NULL)`,
      `CREATE TABLE IF NOT EXISTS show_revisions (show_id TEXT NOT NULL REFERENCES shows(id), revision INTEGER NOT NULL,
        document TEXT NOT NULL, created_at DATETIME NOT NULL, PRIMARY KEY (show_id, revision))`,
      "CREATE TABLE IF NOT EXISTS media (sha256 TEXT PRIMARY KEY, facts TEXT NOT NULL, created_at DATETIME NOT NULL)",
      `CREATE TABLE IF NOT EXISTS exports (id TEXT PRIMARY KEY, show_id TEXT NOT NULL REFERENCES shows(id), state TEXT NOT NULL,
        document TEXT NOT NULL, progress REAL NOT NULL, step TEXT NOT NULL, error TEXT, restarts INTEGER NOT NULL,
        bytes INTEGER, measurement TEXT, created_at DATETIME NOT NULL)`,
      "CREATE INDEX exports_by_show ON exports (show_id, created_at)",
    ),
  },
  {
    name: "002-shelf-intake-and-packed-revisions",
    leaves: { table: "templates" },
    async up(database, transaction) {
      await statements(
        "ALTER TABLE shows ADD COLUMN archived_at DATETIME",
        "ALTER TABLE shows ADD COLUMN deleted_at DATETIME",
        "CREATE TABLE templates (id TEXT PRIMARY KEY, name TEXT NOT NULL, template TEXT NOT NULL, created_at DATETIME NOT NULL)",
        `CREATE TABLE intake_files (id TEXT PRIMARY KEY, show_id TEXT NOT NULL REFERENCES shows(id), path TEXT NOT NULL,
          bytes INTEGER NOT NULL, modified_ms REAL NOT NULL, state TEXT NOT NULL, sha256 TEXT, message TEXT,
          created_at DATETIME NOT NULL)`,
        "CREATE UNIQUE INDEX intake_by_file ON intake_files (show_id, path, bytes, modified_ms)",
        `CREATE TABLE proxies (sha256 TEXT PRIMARY KEY REFERENCES media(sha256), state TEXT NOT NULL, error TEXT,
          created_at DATETIME NOT NULL)`,
        `CREATE TABLE packed_revisions (show_id TEXT NOT NULL REFERENCES shows(id), revision INTEGER NOT NULL,
          document BLOB NOT NULL, created_at DATETIME NOT NULL, PRIMARY KEY (show_id, revision))`,
      )(database, transaction);
      await packRevisions(database, transaction);
      await statements("DROP TABLE show_revisions", "ALTER TABLE packed_revisions RENAME TO show_revisions")(
        database,
        transaction,
      );
    },
  },
  {
    name: "003-song-library",
    leaves: { table: "song_notes" },
    up: statements(
      `CREATE TABLE song_notes (sha256 TEXT PRIMARY KEY REFERENCES media(sha256), title TEXT NOT NULL, tags TEXT NOT NULL,
        is_favourite INTEGER NOT NULL, created_at DATETIME NOT NULL)`,
    ),
  },
  {
    name: "004-outputs",
    leaves: { table: "exports", column: "output" },
    // Null: as the show itself, in MP4; so were all exports before.
    up: statements("ALTER TABLE exports ADD COLUMN output TEXT"),
  },
  {
    name: "005-films-folder",
    leaves: { table: "preferences" },
    up: statements(
      "ALTER TABLE exports ADD COLUMN copied_to TEXT",
      "CREATE TABLE preferences (name TEXT PRIMARY KEY, value TEXT NOT NULL)",
    ),
  },
  {
    name: "006-client-pages",
    leaves: { table: "client_pages" },
    up: statements(
      `CREATE TABLE client_pages (show_id TEXT PRIMARY KEY REFERENCES shows(id), token TEXT NOT NULL UNIQUE, pin TEXT,
        key_version INTEGER NOT NULL, shown INTEGER NOT NULL, expires_at DATETIME, embed_origins TEXT NOT NULL,
        wrong_tries INTEGER NOT NULL, locked_until DATETIME, created_at DATETIME NOT NULL)`,
      `CREATE TABLE client_versions (show_id TEXT NOT NULL REFERENCES shows(id), number INTEGER NOT NULL, note TEXT NOT NULL,
        offer TEXT NOT NULL, page_export_id TEXT NOT NULL REFERENCES exports(id), download_export_id TEXT REFERENCES exports(id),
        created_at DATETIME NOT NULL, PRIMARY KEY (show_id, number))`,
      `CREATE TABLE client_comments (id TEXT PRIMARY KEY, show_id TEXT NOT NULL REFERENCES shows(id), thread_id TEXT,
        author TEXT NOT NULL, name TEXT NOT NULL, text TEXT NOT NULL, version INTEGER NOT NULL, seconds REAL NOT NULL,
        slide_id TEXT NOT NULL, round INTEGER NOT NULL, done INTEGER NOT NULL, created_at DATETIME NOT NULL)`,
      "CREATE INDEX client_comments_by_show ON client_comments (show_id, created_at)",
      `CREATE TABLE client_payments (id TEXT PRIMARY KEY, show_id TEXT NOT NULL REFERENCES shows(id), request_key TEXT NOT NULL,
        state TEXT NOT NULL, minor_units INTEGER NOT NULL, currency TEXT NOT NULL, service_id TEXT, checkout_url TEXT,
        created_at DATETIME NOT NULL, UNIQUE (show_id, request_key))`,
    ),
  },
  {
    name: "007-deliveries",
    leaves: { table: "deliveries" },
    up: statements(
      `CREATE TABLE deliveries (id TEXT PRIMARY KEY, show_id TEXT NOT NULL REFERENCES shows(id), export_id TEXT NOT NULL REFERENCES exports(id),
        wish TEXT NOT NULL, state TEXT NOT NULL, step TEXT NOT NULL, progress REAL NOT NULL, error TEXT, remark TEXT, place TEXT,
        service_id TEXT, created_at DATETIME NOT NULL)`,
    ),
  },
  {
    name: "008-summaries",
    leaves: { table: "shows", column: "summary" },
    // Null until they are summed up (documents/sum-up.ts), which needs more than statements.
    up: statements(
      "ALTER TABLE shows ADD COLUMN film_key TEXT",
      "ALTER TABLE shows ADD COLUMN film_seconds REAL",
      "ALTER TABLE shows ADD COLUMN film_revision INTEGER",
      "ALTER TABLE shows ADD COLUMN summary TEXT",
      "ALTER TABLE exports ADD COLUMN film_key TEXT",
      "ALTER TABLE exports ADD COLUMN file_name TEXT",
      "ALTER TABLE proxies ADD COLUMN tries INTEGER NOT NULL DEFAULT 0",
      "CREATE INDEX exports_done ON exports (show_id, created_at) WHERE state = 'done'",
    ),
  },
  {
    name: "009-visitors",
    leaves: { table: "client_visitors" },
    up: statements(
      `CREATE TABLE client_visitors (show_id TEXT NOT NULL REFERENCES shows(id), visitor TEXT NOT NULL, wrong_tries INTEGER NOT NULL,
        locked_until DATETIME, wrong_at DATETIME, let_in INTEGER NOT NULL, created_at DATETIME NOT NULL, PRIMARY KEY (show_id, visitor))`,
      "ALTER TABLE client_pages ADD COLUMN wrong_at DATETIME",
    ),
  },
  {
    name: "010-jobs",
    leaves: { table: "deliveries", column: "position" },
    // Every table of jobs has the same columns and states (store/job-table.ts).
    up: statements(
      "ALTER TABLE exports RENAME COLUMN restarts TO tries",
      "ALTER TABLE proxies RENAME COLUMN sha256 TO id",
      "ALTER TABLE proxies ADD COLUMN step TEXT NOT NULL DEFAULT 'Waiting'",
      "ALTER TABLE proxies ADD COLUMN progress REAL NOT NULL DEFAULT 0",
      "ALTER TABLE deliveries ADD COLUMN tries INTEGER NOT NULL DEFAULT 0",
      "UPDATE deliveries SET state = 'queued' WHERE state = 'waiting'",
      "UPDATE deliveries SET state = 'paused' WHERE state = 'stopped'",
      ...["exports", "proxies", "deliveries"].flatMap((table) => [
        `ALTER TABLE ${table} ADD COLUMN leased_until_ms INTEGER`,
        `ALTER TABLE ${table} ADD COLUMN position REAL NOT NULL DEFAULT 0`,
      ]),
    ),
  },
  {
    name: "011-variants",
    leaves: { table: "show_variants" },
    up: statements(
      `CREATE TABLE show_variants (id TEXT PRIMARY KEY, show_id TEXT NOT NULL REFERENCES shows(id), name TEXT NOT NULL,
        revision INTEGER NOT NULL, created_at DATETIME NOT NULL)`,
    ),
  },
  {
    name: "012-answered-comments",
    leaves: { table: "client_comments", column: "done_revision" },
    up: statements("ALTER TABLE client_comments ADD COLUMN done_revision INTEGER"),
  },
];
