import { randomUUID } from "node:crypto";
import type { ClientPayment, PaymentState, StudioComment } from "@humming-tide/contract";
import { type ClientOffer, clientOfferSchema } from "@humming-tide/core/show";
import { Op } from "sequelize";
import type { StudioDatabase } from "./database.ts";
import type { ClientCommentRow, ClientPageRow, ClientPaymentRow, ClientVersionRow } from "./tables/client-tables.ts";

export interface StoredClientPage {
  readonly showId: string;
  readonly token: string;
  readonly pin: string | null;
  readonly keyVersion: number;
  readonly shown: boolean;
  readonly expiresAt: Date | null;
  readonly embedOrigins: readonly string[];
  readonly wrongTries: number;
  readonly lockedUntil: Date | null;
  readonly wrongAt: Date | null;
}

/** What a page knows of a visitor. */
export interface StoredVisitor {
  readonly wrongTries: number;
  readonly lockedUntil: Date | null;
  readonly wrongAt: Date | null;
  /** The visitor knew the PIN once. */
  readonly letIn: boolean;
}

const NEW_VISITOR: StoredVisitor = { wrongTries: 0, lockedUntil: null, wrongAt: null, letIn: false };

export interface StoredVersion {
  readonly number: number;
  readonly note: string;
  readonly offer: ClientOffer;
  readonly pageExportId: string;
  readonly downloadExportId: string | null;
  readonly createdAt: Date;
}

export interface StoredPayment extends ClientPayment {
  readonly requestKey: string;
  readonly serviceId: string | null;
  readonly checkoutUrl: string | null;
}

/**
 * Client pages with their versions, comments and payments. Addresses and PINs are kept beside the
 * show, never in it: a copy of a show has a page of its own, or none.
 */
export class ClientPageStore {
  readonly #database: StudioDatabase;

  constructor(database: StudioDatabase) {
    this.#database = database;
  }

  async ofShow(showId: string): Promise<StoredClientPage | null> {
    const row = await this.#database.clientPages.findByPk(showId);
    return row && toPage(row);
  }

  async ofToken(token: string): Promise<StoredClientPage | null> {
    const row = await this.#database.clientPages.findOne({ where: { token } });
    return row && toPage(row);
  }

  async create(showId: string, token: string): Promise<void> {
    const fresh = { pin: null, keyVersion: 1, shown: true, expiresAt: null, embedOrigins: "[]" };
    await this.#database.clientPages.findOrCreate({
      where: { showId },
      defaults: { showId, token, ...fresh, wrongTries: 0, lockedUntil: null, wrongAt: null },
    });
  }

  async change(showId: string, { embedOrigins, ...change }: Partial<Omit<StoredClientPage, "showId">>): Promise<void> {
    const origins = embedOrigins ? { embedOrigins: JSON.stringify(embedOrigins) } : {};
    await this.#database.clientPages.update({ ...change, ...origins }, { where: { showId } });
  }

  /** Closes the page for good: its address leads nowhere, and what was said on it is gone. */
  async remove(showId: string): Promise<void> {
    const where = { showId };
    await this.#database.clientVisitors.destroy({ where });
    await this.#database.clientComments.destroy({ where });
    await this.#database.clientVersions.destroy({ where });
    await this.#database.clientPages.destroy({ where });
  }

  async visitor(showId: string, visitor: string): Promise<StoredVisitor> {
    const row = await this.#database.clientVisitors.findOne({ where: { showId, visitor } });
    if (!row) return NEW_VISITOR;
    const { wrongTries, lockedUntil, wrongAt, letIn } = row;
    return { wrongTries, lockedUntil, wrongAt, letIn };
  }

  async changeVisitor(showId: string, visitor: string, change: StoredVisitor): Promise<void> {
    await this.#database.clientVisitors.upsert({ showId, visitor, ...change });
  }

  /** Visitors who wait after wrong PINs. */
  async countWaitingVisitors(showId: string, now: Date): Promise<number> {
    return this.#database.clientVisitors.count({ where: { showId, lockedUntil: { [Op.gt]: now } } });
  }

  /** Nobody waits any more; with a new PIN, nobody is known to have been let in either. */
  async forgetVisitors(showId: string, { isNewPin }: { readonly isNewPin: boolean }): Promise<void> {
    if (isNewPin) await this.#database.clientVisitors.destroy({ where: { showId } });
    else
      await this.#database.clientVisitors.update(
        { wrongTries: 0, lockedUntil: null, wrongAt: null },
        { where: { showId } },
      );
  }

  /** The newest first. */
  async versions(showId: string): Promise<StoredVersion[]> {
    return (await this.#database.clientVersions.findAll({ where: { showId }, order: [["number", "DESC"]] })).map(
      toVersion,
    );
  }

  async addVersion(showId: string, version: Omit<StoredVersion, "number" | "createdAt">): Promise<number> {
    const newest =
      (await this.#database.clientVersions.max<number, ClientVersionRow>("number", { where: { showId } })) ?? 0;
    const number = newest + 1;
    await this.#database.clientVersions.create({ showId, number, ...version, offer: JSON.stringify(version.offer) });
    return number;
  }

  /** In the order in which they were made. */
  async comments(showId: string): Promise<StudioComment[]> {
    const order: [string, string][] = [
      ["createdAt", "ASC"],
      ["id", "ASC"],
    ];
    return (await this.#database.clientComments.findAll({ where: { showId }, order })).map(toComment);
  }

  async countComments(showId: string, since?: Date): Promise<number> {
    return this.#database.clientComments.count({
      where: { showId, ...(since ? { createdAt: { [Op.gt]: since } } : {}) },
    });
  }

  async addComment(
    showId: string,
    { from, ...comment }: Omit<StudioComment, "id" | "createdAt" | "done" | "doneRevision">,
  ): Promise<StudioComment> {
    return toComment(
      await this.#database.clientComments.create({
        ...{ id: randomUUID(), showId, author: from, ...comment, done: false, doneRevision: null },
      }),
    );
  }

  /**
   * Done by a revision of the show, or open again with null. Returns whether there was such a
   * comment.
   */
  async markComment(showId: string, id: string, doneRevision: number | null): Promise<boolean> {
    const change = { done: doneRevision !== null, doneRevision };
    const [count] = await this.#database.clientComments.update(change, { where: { id, showId } });
    return count > 0;
  }

  /** The newest first. */
  async payments(showId: string): Promise<StoredPayment[]> {
    return (await this.#database.clientPayments.findAll({ where: { showId }, order: [["createdAt", "DESC"]] })).map(
      toPayment,
    );
  }

  /** The payment of a key: made now, or there already. */
  async beginPayment(
    showId: string,
    requestKey: string,
    price: Pick<ClientPayment, "minorUnits" | "currency">,
  ): Promise<StoredPayment> {
    const [row] = await this.#database.clientPayments.findOrCreate({
      where: { showId, requestKey },
      defaults: { id: randomUUID(), showId, requestKey, state: "begun", ...price, serviceId: null, checkoutUrl: null },
    });
    return toPayment(row);
  }

  /** Shows of payments that were begun after an instant and have not ended. */
  async showsWithOpenPayments(after: Date): Promise<string[]> {
    const where = { state: "begun", createdAt: { [Op.gt]: after } };
    const rows = await this.#database.clientPayments.findAll({ attributes: ["showId"], where, group: ["showId"] });
    return rows.map(({ showId }) => showId);
  }

  async changePayment(
    id: string,
    change: { readonly state?: PaymentState; readonly serviceId?: string; readonly checkoutUrl?: string },
  ): Promise<void> {
    await this.#database.clientPayments.update(change, { where: { id } });
  }
}

const toPage = (row: ClientPageRow): StoredClientPage => ({
  showId: row.showId,
  token: row.token,
  pin: row.pin,
  keyVersion: row.keyVersion,
  shown: row.shown,
  expiresAt: row.expiresAt,
  embedOrigins: JSON.parse(row.embedOrigins) as string[],
  wrongTries: row.wrongTries,
  lockedUntil: row.lockedUntil,
  wrongAt: row.wrongAt,
});

const toVersion = (row: ClientVersionRow): StoredVersion => ({
  number: row.number,
  note: row.note,
  // Of before there was a choice: then the page always played the film itself.
  offer: clientOfferSchema.parse({ pageFilm: "full", greeting: "", ...(JSON.parse(row.offer) as object) }),
  pageExportId: row.pageExportId,
  downloadExportId: row.downloadExportId,
  createdAt: row.createdAt,
});

const toComment = (row: ClientCommentRow): StudioComment => ({
  id: row.id,
  threadId: row.threadId,
  from: row.author === "studio" ? "studio" : "client",
  name: row.name,
  text: row.text,
  version: row.version,
  seconds: row.seconds,
  slideId: row.slideId,
  round: row.round,
  done: row.done,
  doneRevision: row.doneRevision,
  createdAt: row.createdAt.toISOString(),
});

const toPayment = (row: ClientPaymentRow): StoredPayment => ({
  id: row.id,
  state: row.state as PaymentState,
  minorUnits: row.minorUnits,
  currency: row.currency,
  createdAt: row.createdAt.toISOString(),
  requestKey: row.requestKey,
  serviceId: row.serviceId,
  checkoutUrl: row.checkoutUrl,
});
