import type { SavedShow } from "@humming-tide/contract";
import { present } from "@humming-tide/core/presence";
import {
  deltaBetween,
  hasPicture,
  isEmptyDelta,
  type MergeSide,
  mergeDocuments,
  readShowDocument,
  type ShowDocument,
} from "@humming-tide/core/show";
import { ApiFailure, api } from "../api.ts";
import { listenLive } from "../live/live-wire.ts";
import { FollowNewest } from "./follow-newest.ts";
import { showActions } from "./show-slice.ts";
import { store } from "./store.ts";
import { viewActions } from "./view-slice.ts";

/** Edits are saved this long after the last one, so that a row of quick ones is one revision … */
const QUIET_MS = 300;
/** … but never later than this after the first, however long the row. */
const LATEST_MS = 600;
const RETRY_MS = 3000;

interface KeptEdit {
  readonly revision: number;
  readonly document: ShowDocument;
}

const keepKey = (showId: string): string => `humming-tide unsaved ${showId}`;

let timer: ReturnType<typeof setTimeout> | undefined;
/** When the oldest edit that is not on its way to the server was made. */
let waitingSince: number | null = null;
let inFlight: Promise<void> | null = null;
/**
 * Documents whose save got no answer since the last one that did: the server may have one of them
 * all the same.
 */
let unanswered: ShowDocument[] = [];

/**
 * Saves the open show after every edit. Until the server has it, the document is kept in this
 * browser too. A closed window, a full disk or a stopped server loses nothing. What other windows
 * save is taken over at once. Call once; returns the function that ends it.
 */
export function startSaving(): () => void {
  let seen = store.getState().show.document;
  const unsubscribe = store.subscribe(() => {
    const { document, id, saveState } = store.getState().show;
    if (document === seen) return;
    seen = document;
    if (!document || !id || saveState.kind === "saved") return;
    waitingSince ??= Date.now();
    schedule(Math.max(0, Math.min(QUIET_MS, waitingSince + LATEST_MS - Date.now())));
  });
  const onLeave = (): void => {
    keepUnsaved();
    void saveNow();
  };
  const look = (): void => void lookForOthers().catch(() => undefined);
  const stopListening = listenLive((event) => {
    if (event.kind === "copy") store.dispatch(viewActions.proxyHeard(event.state));
    else if (event.kind === "preparing") store.dispatch(viewActions.preparingHeard(event));
    else if (event.kind === "connected") look();
    else if (event.kind === "revision" && event.showId === store.getState().show.id)
      void others.hear(event.revision).catch(() => undefined);
  });
  window.addEventListener("pagehide", onLeave);
  window.addEventListener("focus", look);
  return () => {
    unsubscribe();
    stopListening();
    window.removeEventListener("pagehide", onLeave);
    window.removeEventListener("focus", look);
    clearTimeout(timer);
    waitingSince = null;
    unanswered = [];
    others.forget();
  };
}

/** What the server does not have yet is kept in this browser. */
function keepUnsaved(): void {
  const { id, document, revision, saveState } = store.getState().show;
  if (!id || !document || saveState.kind === "saved") return;
  try {
    localStorage.setItem(keepKey(id), JSON.stringify({ revision, document } satisfies KeptEdit));
  } catch {
    // The browser's room is full. The server is the place to keep things; this was only for the
    // time until it answers.
  }
}

/**
 * Asks how the show's clips are and whether another window saved meanwhile: at the beginning, and
 * when nothing was heard for a while.
 */
async function lookForOthers(): Promise<void> {
  const { id, document, media } = store.getState().show;
  if (!id || !document) return;
  const clips = document.slides
    .filter(hasPicture)
    .map(({ sha256 }) => sha256)
    .filter((sha256) => media[sha256]?.kind === "clip");
  if (clips.length > 0) store.dispatch(viewActions.proxiesHeard(await api.copies(id, clips)));
  await others.look();
}

/** What other windows save is taken over where nothing is unsaved here. */
const others = new FollowNewest<SavedShow>({
  here() {
    const { id, document, revision, saveState } = store.getState().show;
    return id && saveState.kind === "saved" && !inFlight ? { revision, document } : null;
  },
  ask: () => api.getShow(present(store.getState().show.id)),
  take(show) {
    if (show.id === store.getState().show.id) store.dispatch(showActions.followed(show));
  },
});

function schedule(delay: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => void saveNow(), delay);
}

/**
 * Saves what is unsaved, now. Resolves when the server has the newest document, or has refused it.
 */
export async function saveNow(): Promise<void> {
  while (inFlight) await inFlight;
  const { id, document, revision, base, saveState } = store.getState().show;
  if (!id || !document || !base || saveState.kind === "saved" || saveState.kind === "conflict") return;
  clearTimeout(timer);
  waitingSince = null;
  keepUnsaved();
  inFlight = save(id, revision, base, document).finally(() => {
    inFlight = null;
  });
  await inFlight;
  if (store.getState().show.saveState.kind === "unsaved") await saveNow();
}

/**
 * Saves the show and returns the revision that holds all of it. Throws where it cannot be saved
 * now: the newest revision would be an older film.
 */
export async function savedRevision(): Promise<number> {
  await saveNow();
  const { revision, saveState } = store.getState().show;
  if (saveState.kind === "saved") return revision;
  throw new Error("The show is not saved yet, so nothing was done. Try again when it says “Saved”.");
}

async function save(id: string, revision: number, base: ShowDocument, document: ShowDocument): Promise<void> {
  store.dispatch(showActions.saveStateChanged({ kind: "saving" }));
  try {
    const change = deltaBetween(base, document);
    const saved = isEmptyDelta(change) ? revision : await api.saveChange(id, revision, change);
    if (store.getState().show.id !== id) return;
    unanswered = [];
    store.dispatch(showActions.savedAs({ revision: saved, document }));
    if (store.getState().show.saveState.kind === "saved") localStorage.removeItem(keepKey(id));
  } catch (error) {
    if (store.getState().show.id !== id) return;
    const failure = error instanceof ApiFailure ? error : new ApiFailure(0, "unknown", String(error));
    if (failure.code === "show-changed") await bringTogether(id);
    else {
      if (failure.status === 0 && !unanswered.includes(document)) unanswered.push(document);
      store.dispatch(showActions.saveStateChanged({ kind: "offline", message: failure.message }));
      schedule(RETRY_MS);
    }
  }
}

/**
 * Another window saved first: what it saved and what is unsaved here become one, or the person is
 * asked where both touch the same thing.
 */
async function bringTogether(id: string): Promise<void> {
  const newest = await api.getShow(id).catch(() => null);
  const { show } = store.getState();
  if (show.id !== id || !show.document || !show.base) return;
  if (!newest) {
    store.dispatch(showActions.saveStateChanged({ kind: "offline", message: "The server cannot be reached." }));
    schedule(RETRY_MS);
    return;
  }
  const ours = savedByUs(newest);
  if (ours) {
    unanswered = [];
    store.dispatch(showActions.savedAs({ revision: newest.revision, document: ours }));
    return;
  }
  const { document, conflicts } = mergeDocuments(show.base, show.document, newest.document);
  if (conflicts.length === 0) store.dispatch(showActions.merged({ newest, document }));
  else store.dispatch(showActions.saveStateChanged({ kind: "conflict", conflicts, newest }));
}

/** The person has chosen a side for each place that both windows touched. */
export async function settleConflict(choose: (key: string) => MergeSide): Promise<void> {
  const { document, base, saveState } = store.getState().show;
  if (saveState.kind !== "conflict" || !document || !base) return;
  const { newest } = saveState;
  const withSide = (side: (key: string) => MergeSide): ShowDocument =>
    mergeDocuments(base, document, newest.document, side).document;
  store.dispatch(showActions.merged({ newest, document: withSide(choose), before: withSide(() => "mine") }));
  await saveNow();
}

/**
 * The document of this page that the newest revision is: a save whose answer was lost on the way.
 */
function savedByUs(newest: SavedShow): ShowDocument | undefined {
  if (unanswered.length === 0) return undefined;
  // Read the same way, both have the same order of fields.
  const text = JSON.stringify(newest.document);
  return unanswered.find((document) => JSON.stringify(readShowDocument(document)) === text);
}

/**
 * An edit that never reached the server, kept by this browser; null where there is none or it
 * cannot be read.
 */
function keptEdit(showId: string): KeptEdit | null {
  const text = localStorage.getItem(keepKey(showId));
  if (!text) return null;
  try {
    const kept = JSON.parse(text) as KeptEdit;
    return { revision: kept.revision, document: readShowDocument(kept.document) };
  } catch {
    return null;
  }
}

const forgetKeptEdit = (showId: string): void => localStorage.removeItem(keepKey(showId));

/**
 * An edit that this browser kept because the server never confirmed it comes back. Where the show
 * has moved on, both become one; where they touch the same thing, the person decides.
 */
export async function takeUpKeptEdit(show: SavedShow): Promise<void> {
  const kept = keptEdit(show.id);
  if (!kept) return;
  if (JSON.stringify(kept.document) === JSON.stringify(show.document)) {
    forgetKeptEdit(show.id);
    return;
  }
  if (kept.revision === show.revision) {
    store.dispatch(showActions.edited(kept.document));
    return;
  }
  // Without the revision that it was made from, every difference counts as an edit of both.
  const base = await api.documentAt(show.id, kept.revision).catch(() => kept.document);
  if (store.getState().show.id !== show.id) return;
  const { document, conflicts } = mergeDocuments(base, kept.document, show.document);
  if (conflicts.length === 0) {
    store.dispatch(showActions.edited(document));
    return;
  }
  store.dispatch(showActions.takenUp({ base, document: kept.document, revision: kept.revision }));
  store.dispatch(showActions.saveStateChanged({ kind: "conflict", conflicts, newest: show }));
}
