import type { QueryInterface } from "sequelize";

/** Changes of the database's layout, in order. One that has been released is never edited; a new one follows it. */
export const migrations = [
  {
    name: "001-first-layout",
    async up({ context }: { context: QueryInterface }): Promise<void> {
      const statements = [
        `CREATE TABLE shows (id TEXT PRIMARY KEY, revision INTEGER NOT NULL, document TEXT NOT NULL,
          created_at DATETIME NOT NULL, updated_at DATETIME NOT NULL)`,
        `CREATE TABLE show_revisions (show_id TEXT NOT NULL REFERENCES shows(id), revision INTEGER NOT NULL,
          document TEXT NOT NULL, created_at DATETIME NOT NULL, PRIMARY KEY (show_id, revision))`,
        "CREATE TABLE media (sha256 TEXT PRIMARY KEY, facts TEXT NOT NULL, created_at DATETIME NOT NULL)",
        `CREATE TABLE exports (id TEXT PRIMARY KEY, show_id TEXT NOT NULL REFERENCES shows(id), state TEXT NOT NULL,
          document TEXT NOT NULL, progress REAL NOT NULL, step TEXT NOT NULL, error TEXT, restarts INTEGER NOT NULL,
          bytes INTEGER, measurement TEXT, created_at DATETIME NOT NULL)`,
        "CREATE INDEX exports_by_show ON exports (show_id, created_at)",
      ];
      for (const statement of statements) await context.sequelize.query(statement);
    },
  },
];
