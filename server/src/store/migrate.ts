import { QueryTypes, type Sequelize, type Transaction } from "sequelize";
import { machineError } from "../machine-errors.ts";
import { type Migration, migrations } from "./migrations.ts";

/**
 * Names of the migrations that have run. The table has had this name and shape since the first
 * release.
 */
const LIST = "CREATE TABLE IF NOT EXISTS `SequelizeMeta` (`name` VARCHAR(255) NOT NULL UNIQUE PRIMARY KEY)";

/**
 * Brings a database to the newest layout, in one transaction with the list of what ran: a kill at
 * any moment leaves the old layout or the new one. Earlier releases listed a migration after it had
 * run, so a kill could leave one that is there but not listed: it is recognised by what it leaves,
 * and only listed. Throws `database-newer` where a newer version of the program was here before.
 */
export async function migrate(database: Sequelize): Promise<void> {
  await database.transaction(async (transaction) => {
    await database.query(LIST, { transaction });
    const listed = await database.query<{ name: string }>("SELECT name FROM `SequelizeMeta`", {
      type: QueryTypes.SELECT,
      transaction,
    });
    const known = new Set(migrations.map(({ name }) => name));
    const unknown = listed.find(({ name }) => !known.has(name));
    if (unknown) throw machineError("database-newer", { change: unknown.name });
    const ran = new Set(listed.map(({ name }) => name));
    for (const migration of migrations) {
      if (ran.has(migration.name)) continue;
      if (!(await hasRun(database, transaction, migration))) await migration.up(database, transaction);
      await database.query("INSERT INTO `SequelizeMeta` VALUES (?)", { replacements: [migration.name], transaction });
    }
  });
}

async function hasRun(
  database: Sequelize,
  transaction: Transaction,
  { leaves: { table, column } }: Migration,
): Promise<boolean> {
  const [found] =
    column === undefined
      ? await database.query("SELECT name FROM sqlite_master WHERE name = ?", {
          type: QueryTypes.SELECT,
          replacements: [table],
          transaction,
        })
      : await database.query("SELECT name FROM pragma_table_info(?) WHERE name = ?", {
          type: QueryTypes.SELECT,
          replacements: [table, column],
          transaction,
        });
  return found !== undefined;
}
