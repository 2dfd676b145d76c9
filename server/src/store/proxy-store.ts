import type { ProxyState } from "@humming-tide/contract";
import { Op } from "sequelize";
import type { StudioDatabase } from "./database.ts";
import { jobStatusOf } from "./job-status.ts";
import { JobTable } from "./job-table.ts";
import type { ProxyRow } from "./tables/media-tables.ts";

/** The jobs that make clips playable. A job's id is the clip's content hash. */
export class ProxyStore {
  readonly jobs: JobTable;
  readonly #database: StudioDatabase;

  constructor(database: StudioDatabase) {
    this.#database = database;
    this.jobs = new JobTable(database.sequelize, "proxies");
  }

  /** Asks for a clip's copy, also where it failed before or is there. */
  async ask(sha256: string): Promise<void> {
    const isNew = await this.#create(sha256);
    // One that is being made goes on.
    const where = { id: sha256, state: { [Op.ne]: "running" } };
    if (!isNew) await this.#database.proxies.update(QUEUED, { where });
  }

  /** Asks for one that was there and is missing now, or was never asked for. */
  async askMissing(sha256: string): Promise<void> {
    await this.#create(sha256);
    await this.#database.proxies.update(QUEUED, { where: { id: sha256, state: "done" } });
  }

  /** Throws where none was asked for. */
  async get(sha256: string): Promise<ProxyState> {
    const [state] = await this.states([sha256]);
    if (!state) throw new Error(`No copy of the clip ${sha256} was asked for`);
    return state;
  }

  async states(hashes: readonly string[]): Promise<ProxyState[]> {
    if (hashes.length === 0) return [];
    return (await this.#database.proxies.findAll({ where: { id: [...hashes] } })).map(toState);
  }

  async #create(sha256: string): Promise<boolean> {
    const [, isNew] = await this.#database.proxies.findOrCreate({
      where: { id: sha256 },
      defaults: { id: sha256, ...QUEUED },
    });
    return isNew;
  }
}

const QUEUED = { state: "queued", step: "Waiting", progress: 0, error: null, tries: 0 };

const toState = (row: ProxyRow): ProxyState => ({ sha256: row.id, ...jobStatusOf(row) });
