import { Sequelize, Transaction } from "sequelize";
import { checkDatabase, checkDatabaseFile } from "./database-check.ts";
import { migrate } from "./migrate.ts";
import { clientTables } from "./tables/client-tables.ts";
import { filmTables } from "./tables/film-tables.ts";
import { mediaTables } from "./tables/media-tables.ts";
import { preferenceTables } from "./tables/preference-tables.ts";
import { showTables } from "./tables/show-tables.ts";

/** An open database with its tables. */
export type StudioDatabase = ReturnType<typeof withTables>;

/**
 * Opens the database, looks whether it is whole, brings it to the newest layout and switches to
 * write-ahead logging. The caller closes it. Throws `database-empty`, `database-damaged` and
 * `database-newer`, before anything is changed.
 */
export async function openDatabase(path: string): Promise<StudioDatabase> {
  await checkDatabaseFile(path);
  const sequelize = new Sequelize({
    dialect: "sqlite",
    storage: path,
    logging: false,
    // A transaction takes its place among writers when it begins. One that first reads and then
    // wants to write could only fail.
    transactionType: Transaction.TYPES.IMMEDIATE,
    retry: { match: [/SQLITE_BUSY/], max: 12 },
  });
  try {
    await checkDatabase(sequelize);
    await sequelize.query("PRAGMA journal_mode = WAL");
    await migrate(sequelize);
  } catch (error) {
    await sequelize.close();
    throw error;
  }
  return withTables(sequelize);
}

const withTables = (sequelize: Sequelize) => ({
  sequelize,
  ...showTables(sequelize),
  ...mediaTables(sequelize),
  ...filmTables(sequelize),
  ...clientTables(sequelize),
  ...preferenceTables(sequelize),
});
