import { QueryTypes, type Sequelize } from "sequelize";
import { type JobEnd, type JobKeeper, MOST_TRIES } from "../jobs/job-keeper.ts";

/** The next job: by place in the queue, then by age. `only` is a condition on the row. */
const nextOf = (table: string, only: string): string =>
  `SELECT id FROM ${table} WHERE state = 'queued' AND ${only} ORDER BY position, created_at LIMIT 1`;

/**
 * The jobs in one table, which has the columns of `jobColumns` (tables/columns.ts). Each step is
 * one statement, so that two who take the same step at once cannot both succeed.
 */
export class JobTable implements JobKeeper {
  readonly #sequelize: Sequelize;
  readonly #table: string;
  readonly #only: string;

  /** `only`: the jobs that are meant, as an SQL condition; all by default. */
  constructor(sequelize: Sequelize, table: "exports" | "proxies" | "deliveries", only = "TRUE") {
    this.#sequelize = sequelize;
    this.#table = table;
    this.#only = only;
  }

  async claimNext(untilMs: number): Promise<string | null> {
    const claimed = await this.#changed(
      "state = 'running', tries = tries + 1, error = NULL, leased_until_ms = ?",
      `id = (${nextOf(this.#table, this.#only)})`,
      [untilMs],
    );
    return claimed[0] ?? null;
  }

  async renew(id: string, untilMs: number): Promise<void> {
    await this.#changed("leased_until_ms = ?", "id = ? AND state = 'running'", [untilMs, id]);
  }

  async progress(id: string, step: string, progress: number): Promise<void> {
    await this.#changed("step = ?, progress = ?", "id = ? AND state = 'running'", [step, progress, id]);
  }

  async end(id: string, { state, step, error, progress = null }: JobEnd): Promise<void> {
    await this.#changed(
      "state = ?, step = ?, error = ?, progress = COALESCE(?, progress), leased_until_ms = NULL, position = 0",
      "id = ?",
      [state, step, error, progress, id],
    );
  }

  async putBack(id: string): Promise<void> {
    await this.#changed(
      "state = 'queued', step = 'Waiting', leased_until_ms = NULL, tries = MAX(0, tries - 1)",
      "id = ? AND state = 'running'",
      [id],
    );
  }

  async requeueAbandoned(nowMs: number, lastError: string): Promise<readonly string[]> {
    const abandoned = `state = 'running' AND (leased_until_ms IS NULL OR leased_until_ms <= ?) AND ${this.#only}`;
    const failed = await this.#changed(
      "state = 'failed', step = 'Failed', error = ?, leased_until_ms = NULL",
      `${abandoned} AND tries >= ${MOST_TRIES}`,
      [lastError, nowMs],
    );
    const queued = await this.#changed(
      "state = 'queued', step = 'Starting again after the server had stopped', leased_until_ms = NULL",
      abandoned,
      [nowMs],
    );
    return [...failed, ...queued];
  }

  async cancelWaiting(id: string, step: string): Promise<boolean> {
    const cancelled = await this.#changed(
      "state = 'cancelled', step = ?, error = NULL",
      "id = ? AND state IN ('queued', 'paused')",
      [step, id],
    );
    return cancelled.length > 0;
  }

  async resume(id: string): Promise<boolean> {
    const queued = await this.#changed(
      "state = 'queued', step = 'Waiting', error = NULL, tries = 0",
      "id = ? AND state IN ('paused', 'failed')",
      [id],
    );
    return queued.length > 0;
  }

  async moveToFront(id: string): Promise<boolean> {
    const moved = await this.#changed(
      `position = (SELECT MIN(position) FROM ${this.#table} WHERE state = 'queued') - 1`,
      "id = ? AND state = 'queued'",
      [id],
    );
    return moved.length > 0;
  }

  /** Changes rows, and gives their ids. */
  async #changed(columns: string, where: string, replacements: unknown[]): Promise<string[]> {
    const rows = await this.#sequelize.query<{ id: string }>(
      `UPDATE ${this.#table} SET ${columns} WHERE ${where} RETURNING id`,
      { type: QueryTypes.SELECT, replacements },
    );
    return rows.map(({ id }) => id);
  }
}
