import type { ClientComment, ClientFilm, CommentWish, PaymentState, StudioComment } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { chaptersOf } from "@humming-tide/core/film";
import { drawnPicture, slotIndexAt } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import { CONTAINER_FACTS, posterSlide } from "@humming-tide/core/show";
import { frameAt, framesPerSecond } from "@humming-tide/core/time";
import { Doors } from "../doors.ts";
import type { ClientPageStore, StoredClientPage } from "../store/client-page-store.ts";
import type { PreferenceStore } from "../store/preference-store.ts";
import type { ShowStore } from "../store/show-store.ts";
import { clientPageError } from "./client-page-errors.ts";
import type { Payments } from "./payments.ts";
import { FORGOTTEN_AFTER_MS, pageDelaySeconds, visitorDelaySeconds } from "./pin-delay.ts";
import type { PublishedVersion, PublishedVersions } from "./published-versions.ts";
import { isPin, isSession, isToken, newKey, newSession, visitorName } from "./secrets.ts";
import type { StudioIdentityKeeper } from "./studio-identity.ts";

const SESSION_MS = 24 * 3_600_000;
const MOST_COMMENTS = 1000;
const MOST_COMMENTS_AN_HOUR = 60;

/** A page that a visitor was let in to. */
interface Visit {
  readonly page: StoredClientPage;
  /** The newest version whose films are there. */
  readonly version: PublishedVersion;
}

export interface ServedFilm {
  readonly path: string;
  readonly fileName: string;
}

/** What a link shows where it is shared. */
export interface LinkCard {
  readonly title: string;
  readonly greeting: string;
  readonly studio: string;
  readonly hasCover: boolean;
}

export interface VisitSources {
  readonly pages: ClientPageStore;
  readonly preferences: PreferenceStore;
  readonly shows: ShowStore;
  readonly versions: PublishedVersions;
  readonly payments: Payments;
  readonly identity: StudioIdentityKeeper;
  /** Where a picture lies as films draw it. */
  readonly picturePath: (drawnName: string) => string;
  /** Hears of everything that the studio sees of a page. */
  readonly onChange: (showId: string) => void;
  readonly now: () => number;
}

/**
 * The client's side of client pages. Everything that can be reached from outside goes through here.
 * Each method checks the page's address and the client's session.
 */
export class ClientVisits {
  readonly #pages: ClientPageStore;
  readonly #preferences: PreferenceStore;
  readonly #shows: ShowStore;
  readonly #versions: PublishedVersions;
  readonly #payments: Payments;
  readonly #identity: StudioIdentityKeeper;
  readonly #picturePath: VisitSources["picturePath"];
  readonly #now: () => number;
  #key: Promise<string> | null = null;
  readonly #onChange: (showId: string) => void;
  /**
   * PINs and comments of a page come one after the other: many at once would all pass before a
   * limit holds.
   */
  readonly #doors = new Doors();

  constructor(sources: VisitSources) {
    const { pages, preferences, shows, versions, payments, identity, picturePath, onChange, now } = sources;
    this.#pages = pages;
    this.#preferences = preferences;
    this.#shows = shows;
    this.#versions = versions;
    this.#payments = payments;
    this.#identity = identity;
    this.#picturePath = picturePath;
    this.#now = now;
    this.#onChange = onChange;
  }

  /** Whose pages may show it in a frame. Throws `page-unknown`. */
  async embedOrigins(token: string): Promise<readonly string[]> {
    return (await this.#known(token)).embedOrigins;
  }

  /**
   * Lets a visitor in. `from`: the network address that the visitor comes from. Throws
   * `page-unknown`, `page-closed`, `pin-wanted` where none was given, `pin-wrong`, and `pin-locked`
   * while no PIN of this visitor is tried, not even the right one.
   */
  async enter(token: string, pin: string | null, from: string): Promise<string> {
    const page = await this.#open(token);
    if (page.pin !== null) {
      if (pin === null) throw clientPageError("pin-wanted");
      await this.#doors.through(page.showId, () => this.#tryPin(token, pin, from));
    }
    return newSession(await this.#signingKey(), page, this.#now() + SESSION_MS);
  }

  async #tryPin(token: string, pin: string, from: string): Promise<void> {
    const page = await this.#open(token);
    const { showId, pin: stored } = page;
    const name = visitorName(await this.#signingKey(), from);
    const visitor = await this.#pages.visitor(showId, name);
    // Whoever knew the PIN before is not held by what others try.
    const until = Math.max(visitor.lockedUntil?.getTime() ?? 0, visitor.letIn ? 0 : (page.lockedUntil?.getTime() ?? 0));
    const wait = Math.ceil((until - this.#now()) / 1000);
    if (wait > 0) throw clientPageError("pin-locked", { waitSeconds: wait });
    if (stored === null || (await isPin(pin, stored))) {
      await this.#pages.changeVisitor(showId, name, {
        wrongTries: 0,
        lockedUntil: null,
        wrongAt: null,
        letIn: true,
      });
      if (visitor.wrongTries > 0) this.#onChange(showId);
      return;
    }
    const tries = 1 + this.#countingTries(visitor);
    const pageTries = 1 + this.#countingTries(page);
    const delay = visitorDelaySeconds(tries);
    const lockAfter = (seconds: number): Date | null => (seconds > 0 ? new Date(this.#now() + 1000 * seconds) : null);
    const wrongAt = new Date(this.#now());
    await this.#pages.changeVisitor(showId, name, {
      ...visitor,
      wrongTries: tries,
      lockedUntil: lockAfter(delay),
      wrongAt,
    });
    await this.#pages.change(showId, {
      wrongTries: pageTries,
      lockedUntil: lockAfter(pageDelaySeconds(pageTries)),
      wrongAt,
    });
    this.#onChange(showId);
    throw clientPageError("pin-wrong", { waitSeconds: delay });
  }

  #countingTries({ wrongTries, wrongAt }: { readonly wrongTries: number; readonly wrongAt: Date | null }): number {
    return wrongAt !== null && this.#now() - wrongAt.getTime() > FORGOTTEN_AFTER_MS ? 0 : wrongTries;
  }

  /**
   * All that the client's page shows. Throws as every visit does: `page-unknown`, `page-closed`,
   * `session-ended`, `film-not-ready`.
   */
  async film(token: string, session: string): Promise<ClientFilm> {
    const { page, version } = await this.#visit(token, session);
    const { document, plan } = await this.#versions.laid(version.page);
    const fps = framesPerSecond(plan.rate);
    const live = await this.#versions.live(page.showId);
    const { downloads, price, comments, greeting } = version.offer;
    return {
      studio: await this.#identity.get(),
      greeting,
      hasCover: posterSlide(document) !== undefined,
      title: document.title,
      event: document.event,
      date: document.date,
      versions: live.map(({ number, note, createdAt }) => ({ number, note, createdAt: createdAt.toISOString() })),
      film: {
        version: version.number,
        seconds: plan.totalFrames / fps,
        ...plan.size,
        mime: CONTAINER_FACTS[version.page.output.container].mime,
        chapters: chaptersOf(document, plan).map(({ title, startFrame, endFrame }) => ({
          title,
          startSeconds: startFrame / fps,
          endSeconds: endFrame / fps,
        })),
        slideSeconds: plan.slots.map(({ startFrame }) => startFrame / fps),
      },
      download:
        downloads && version.download
          ? { price, ...(await this.#paid(page.showId, price)), bytes: version.download.bytes ?? 0 }
          : null,
      takesComments: comments,
      comments: (await this.#pages.comments(page.showId)).map(clientComment),
    };
  }

  async #paid(
    showId: string,
    price: unknown,
  ): Promise<{ readonly isPaid: boolean; readonly payment: PaymentState | null }> {
    if (price === null) return { isPaid: true, payment: null };
    const payments = await this.#payments.list(showId);
    return { isPaid: payments.some(({ state }) => state === "paid"), payment: payments[0]?.state ?? null };
  }

  /**
   * The film of the page, in its newest version. A player that reads one part after the other names
   * the version that it began with: throws `version-replaced` where that is not the newest any
   * more.
   */
  async watch(token: string, session: string, number: number): Promise<ServedFilm> {
    const { version } = await this.#visit(token, session);
    if (version.number !== number) throw clientPageError("version-replaced");
    return { path: this.#versions.filmPath(version.page), fileName: version.page.fileName };
  }

  /**
   * The picture that stands for the film. Without a PIN anybody at the address may see it, so that
   * links can show it. Throws `cover-none`, and what `film` throws.
   */
  async cover(token: string, session: string): Promise<string> {
    const { version } = await this.#visitOrOpen(token, session);
    const poster = posterSlide((await this.#versions.laid(version.page)).document);
    if (!poster) throw clientPageError("cover-none");
    return this.#picturePath(drawnPicture(poster.sha256, poster.turn));
  }

  /**
   * What a link to the page may show of it: nothing behind a PIN, nothing of a page that is closed
   * or has no film yet.
   */
  async card(token: string): Promise<LinkCard | null> {
    try {
      const { version } = await this.#visitOrOpen(token, "");
      const { document } = await this.#versions.laid(version.page);
      const { name } = await this.#identity.get();
      const { title } = document;
      return {
        title,
        greeting: version.offer.greeting,
        studio: name,
        hasCover: posterSlide(document) !== undefined,
      };
    } catch (error) {
      if (error instanceof HummingTideError) return null;
      throw error;
    }
  }

  /** With a session, or without one where the page asks for no PIN. */
  async #visitOrOpen(token: string, session: string): Promise<Visit> {
    const page = await this.#open(token);
    if (page.pin !== null) return this.#visit(token, session);
    const [version] = await this.#versions.live(page.showId);
    if (!version) throw clientPageError("film-not-ready");
    return { page, version };
  }

  /** Throws `no-downloads`, and `payment-wanted` where it is not paid for. */
  async download(token: string, session: string): Promise<ServedFilm> {
    const { page, version } = await this.#visit(token, session);
    const { download, offer } = version;
    if (!offer.downloads || !download) throw clientPageError("no-downloads");
    if (offer.price !== null && !(await this.#payments.isPaid(page.showId))) throw clientPageError("payment-wanted");
    return { path: this.#versions.filmPath(download), fileName: download.fileName };
  }

  /**
   * Throws `comments-closed`, `comment-unknown` for a thread that is not there,
   * `too-many-comments`, `version-unknown`.
   */
  async comment(token: string, session: string, wish: CommentWish): Promise<ClientComment> {
    const { page, version: newest } = await this.#visit(token, session);
    const comment = await this.#doors.through(page.showId, () => this.#addComment(page.showId, newest, wish));
    this.#onChange(page.showId);
    return comment;
  }

  async #addComment(showId: string, newest: PublishedVersion, wish: CommentWish): Promise<ClientComment> {
    if (!newest.offer.comments) throw clientPageError("comments-closed");
    const hour = new Date(this.#now() - 3_600_000);
    if (
      (await this.#pages.countComments(showId)) >= MOST_COMMENTS ||
      (await this.#pages.countComments(showId, hour)) >= MOST_COMMENTS_AN_HOUR
    )
      throw clientPageError("too-many-comments");
    const { threadId, name, text } = wish;
    if (threadId !== null) {
      const first = (await this.#pages.comments(showId)).find(({ id }) => id === threadId);
      if (!first || first.threadId !== null) throw clientPageError("comment-unknown");
      const { version, seconds, slideId, round } = first;
      // What is talked about again is open again.
      if (first.done) await this.#pages.markComment(showId, threadId, null);
      return clientComment(
        await this.#pages.addComment(showId, {
          ...{ threadId, from: "client", name, text, version, seconds, slideId, round },
        }),
      );
    }
    const version = (await this.#versions.live(showId)).find(({ number }) => number === wish.version);
    if (!version) throw clientPageError("version-unknown");
    const { slots, rate, totalFrames } = (await this.#versions.laid(version.page)).plan;
    const seconds = Math.min(wish.seconds, (totalFrames - 1) / framesPerSecond(rate));
    const { slideId, round } = itemAt(slots, slotIndexAt(slots, frameAt(seconds, rate)));
    return clientComment(
      await this.#pages.addComment(showId, {
        ...{ threadId: null, from: "client", name, text, version: wish.version, seconds, slideId, round },
      }),
    );
  }

  /**
   * `returnUrl`: where the payer comes back to. Throws `no-downloads`, `nothing-to-pay`, and what
   * payments throw.
   */
  async pay(
    token: string,
    session: string,
    key: string,
    returnUrl: string,
  ): Promise<{ readonly id: string; readonly checkoutUrl: string }> {
    const { page, version } = await this.#visit(token, session);
    const { downloads, price } = version.offer;
    if (!downloads) throw clientPageError("no-downloads");
    if (price === null) throw clientPageError("nothing-to-pay");
    const { title } = (await this.#versions.laid(version.page)).document;
    return this.#payments.begin(page.showId, { key, price, what: title, returnUrl });
  }

  async #visit(token: string, session: string): Promise<Visit> {
    const page = await this.#open(token);
    if (!isSession(await this.#signingKey(), page, session, this.#now())) throw clientPageError("session-ended");
    const [version] = await this.#versions.live(page.showId);
    if (!version) throw clientPageError("film-not-ready");
    return { page, version };
  }

  /** A page that is there and may be seen. */
  async #open(token: string): Promise<StoredClientPage> {
    const page = await this.#known(token);
    const isOver = page.expiresAt !== null && page.expiresAt.getTime() <= this.#now();
    if (!page.shown || isOver) throw clientPageError("page-closed");
    return page;
  }

  async #known(token: string): Promise<StoredClientPage> {
    const page = isToken(token) ? await this.#pages.ofToken(token) : null;
    // A show that was deleted takes its page with it, and brings it back when it comes back.
    const isThere = page !== null && (await this.#shows.revision(page.showId).catch(() => null)) !== null;
    if (!isThere) throw clientPageError("page-unknown");
    return page;
  }

  #signingKey(): Promise<string> {
    this.#key ??= this.#preferences.clientKey(newKey);
    return this.#key;
  }
}

const clientComment = ({ slideId: _, round: __, doneRevision: ___, ...comment }: StudioComment): ClientComment =>
  comment;
