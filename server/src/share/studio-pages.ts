import type {
  ChangeClientPage,
  MarkComment,
  StudioClientPage,
  StudioComment,
  StudioVersion,
} from "@humming-tide/contract";
import { VERSION_STATES } from "@humming-tide/contract";
import type { HummingTideError } from "@humming-tide/core";
import { present } from "@humming-tide/core/presence";
import { filmKeyOf } from "../documents/checked-document.ts";
import { escapedHtml } from "../escaped-html.ts";
import type { ClientPageStore, StoredClientPage } from "../store/client-page-store.ts";
import type { ExportStore } from "../store/export-store.ts";
import type { ShowStore } from "../store/show-store.ts";
import { clientPageError } from "./client-page-errors.ts";
import type { Payments } from "./payments.ts";
import type { PublishedVersion, PublishedVersions } from "./published-versions.ts";
import { hashPin, newToken } from "./secrets.ts";

export interface StudioPageSources {
  readonly pages: ClientPageStore;
  readonly exports: ExportStore;
  readonly shows: ShowStore;
  readonly versions: PublishedVersions;
  readonly payments: Payments;
  /** Where client pages are served, without a slash at its end. */
  readonly address: () => string;
  /** Hears of every change of a page. */
  readonly onChange: (showId: string) => void;
  readonly now: () => number;
}

/** The studio's side of client pages. */
export class StudioPages {
  readonly #pages: ClientPageStore;
  readonly #exports: ExportStore;
  readonly #shows: ShowStore;
  readonly #versions: PublishedVersions;
  readonly #payments: Payments;
  readonly #address: () => string;
  readonly #onChange: (showId: string) => void;
  readonly #now: () => number;

  constructor({ pages, exports, shows, versions, payments, address, onChange, now }: StudioPageSources) {
    this.#pages = pages;
    this.#exports = exports;
    this.#shows = shows;
    this.#versions = versions;
    this.#payments = payments;
    this.#address = address;
    this.#onChange = onChange;
    this.#now = now;
  }

  async get(showId: string): Promise<StudioClientPage> {
    await this.#shows.revision(showId);
    const page = await this.#pages.ofShow(showId);
    // Most shows have none, and then nothing else is looked at.
    if (!page) return this.#noPage(showId);
    const { document } = await this.#shows.get(showId);
    const versions = await this.#versions.list(showId);
    const newest = versions[0];
    const isNewest =
      newest !== undefined &&
      (await this.#exports.filmKey(newest.page.id)) === filmKeyOf(document) &&
      sameOffer(newest, document);
    return {
      page: this.#pageOf(page, document.title, await this.#pages.countWaitingVisitors(showId, new Date(this.#now()))),
      versions: versions.map((version, index) => versionOf(version, index === 0 && isNewest)),
      comments: await this.#pages.comments(showId),
      payments: await this.#payments.list(showId),
      canBePaid: this.#payments.canBePaid,
    };
  }

  async #noPage(showId: string): Promise<StudioClientPage> {
    const payments = await this.#payments.list(showId);
    return { page: null, versions: [], comments: [], payments, canBePaid: this.#payments.canBePaid };
  }

  #pageOf(stored: StoredClientPage, title: string, waitingVisitors: number): NonNullable<StudioClientPage["page"]> {
    const { token, pin, shown, expiresAt, embedOrigins, wrongTries, lockedUntil } = stored;
    const address = `${this.#address()}/p/${token}`;
    return {
      address,
      hasPin: pin !== null,
      shown,
      expiresAt: expiresAt?.toISOString() ?? null,
      embedOrigins: [...embedOrigins],
      embedCode: embedCode(address, title),
      wrongTries,
      lockedUntil: lockedUntil && lockedUntil.getTime() > this.#now() ? lockedUntil.toISOString() : null,
      waitingVisitors,
    };
  }

  /**
   * Opens a page where there is none yet, and sets who may see it. A new PIN, or none any more,
   * ends every session.
   */
  async change(showId: string, { pin, shown, expiresAt, embedOrigins }: ChangeClientPage): Promise<void> {
    await this.#shows.get(showId);
    await this.#pages.create(showId, newToken());
    const stored = present(await this.#pages.ofShow(showId));
    const expires = expiresAt === null ? null : new Date(expiresAt);
    await this.#pages.change(showId, { shown, expiresAt: expires, embedOrigins });
    if (pin !== undefined) {
      await this.#pages.change(showId, {
        pin: pin === null ? null : await hashPin(pin),
        keyVersion: stored.keyVersion + 1,
        ...NO_WRONG_TRIES,
      });
      await this.#pages.forgetVisitors(showId, { isNewPin: true });
    }
    this.#onChange(showId);
  }

  /** Ends every wait after wrong PINs, of the page and of its visitors. Throws `no-client-page`. */
  async endWaiting(showId: string): Promise<void> {
    await this.#page(showId);
    await this.#pages.change(showId, NO_WRONG_TRIES);
    await this.#pages.forgetVisitors(showId, { isNewPin: false });
    this.#onChange(showId);
  }

  /** The old address leads nowhere from now on. Throws `no-client-page`. */
  async newAddress(showId: string): Promise<void> {
    const { keyVersion } = await this.#page(showId);
    await this.#pages.change(showId, { token: newToken(), keyVersion: keyVersion + 1 });
    this.#onChange(showId);
  }

  /** With its versions and comments; what was paid stays on record. */
  async remove(showId: string): Promise<void> {
    await this.#shows.get(showId);
    await this.#pages.remove(showId);
    this.#onChange(showId);
  }

  /** Throws `no-client-page`, and what publishing throws. */
  async publish(showId: string, note: string): Promise<void> {
    await this.#page(showId);
    await this.#versions.publish(showId, note);
    this.#onChange(showId);
  }

  /** An answer stands at the place of what it answers. Throws `comment-unknown`. */
  async answer(showId: string, commentId: string, text: string): Promise<StudioComment> {
    const comments = await this.#pages.comments(showId);
    const comment = comments.find(({ id }) => id === commentId);
    if (!comment) throw unknownComment();
    const { version, seconds, slideId, round } = comment;
    const threadId = comment.threadId ?? comment.id;
    const answer = await this.#pages.addComment(showId, {
      ...{ threadId, from: "studio", name: "Studio", text, version, seconds, slideId, round },
    });
    this.#onChange(showId);
    return answer;
  }

  /** Done by a revision of the show, or open again. Throws `comment-unknown`. */
  async mark(showId: string, commentId: string, { done, revision }: MarkComment): Promise<void> {
    if (!(await this.#pages.markComment(showId, commentId, done ? revision : null))) throw unknownComment();
    this.#onChange(showId);
  }

  async #page(showId: string): Promise<StoredClientPage> {
    await this.#shows.get(showId);
    const page = await this.#pages.ofShow(showId);
    if (!page) throw clientPageError("no-client-page");
    return page;
  }
}

const NO_WRONG_TRIES = { wrongTries: 0, lockedUntil: null, wrongAt: null };

const unknownComment = (): HummingTideError => clientPageError("comment-unknown");

/** The newest version offers what the show offers now. */
const sameOffer = ({ offer }: PublishedVersion, { clientOffer }: { readonly clientOffer: unknown }): boolean =>
  JSON.stringify(offer) === JSON.stringify(clientOffer);

function versionOf({ number, note, createdAt, page, download }: PublishedVersion, isNewest: boolean): StudioVersion {
  const films = download && download.id !== page.id ? [page, download] : [page];
  const states = films.map(({ state }) => VERSION_STATES[state]);
  const failed = films.find(({ state }) => VERSION_STATES[state] === "failed");
  return {
    number,
    note,
    createdAt: createdAt.toISOString(),
    state: failed ? "failed" : states.includes("preparing") ? "preparing" : "live",
    progress: films.reduce((sum, { progress }) => sum + progress, 0) / films.length,
    error: failed ? (failed.error ?? "Its export was cancelled. Publish again.") : null,
    isNewest,
  };
}

/** For a page elsewhere: it shows the film where that page's address is among those that may. */
const embedCode = (address: string, title: string): string =>
  `<iframe src="${address}" title="${escapedHtml(title)}" width="960" height="640" style="border:0" allow="fullscreen"></iframe>`;
