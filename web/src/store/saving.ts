import type { SavedShow } from "@humming-tide/contract";
import { hasPicture, readShowDocument, type ShowDocument } from "@humming-tide/core/show";
import { ApiFailure, api } from "../api.ts";
import { showActions } from "./show-slice.ts";
import { store } from "./store.ts";
import { viewActions } from "./view-slice.ts";

/** Edits are saved this long after the last one, so that a row of quick ones is one revision … */
const QUIET_MS = 300;
/** … but never later than this after the first, however long the row. */
const LATEST_MS = 600;
const RETRY_MS = 3000;
/** How often the server is asked whether another window saved. */
const LOOK_MS = 4000;

interface KeptEdit {
  readonly revision: number;
  readonly document: ShowDocument;
}

const keepKey = (showId: string): string => `humming-tide unsaved ${showId}`;

let timer: ReturnType<typeof setTimeout> | undefined;
/** When the oldest edit that is not on its way to the server was made. */
let waitingSince: number | null = null;
let inFlight: Promise<void> | null = null;
/** Documents whose save got no answer since the last one that did: the server may have one of them all the same. */
let unanswered: ShowDocument[] = [];

/**
 * Saves the open show after every edit. Until the server has it, the document is kept in this browser too, so that a closed window, a
 * full disk or a stopped server loses nothing. Call once; returns the function that ends it.
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
  const look = setInterval(() => void lookForOthers(), LOOK_MS);
  const onFocus = (): void => void lookForOthers();
  window.addEventListener("pagehide", onLeave);
  window.addEventListener("focus", onFocus);
  return () => {
    unsubscribe();
    window.removeEventListener("pagehide", onLeave);
    window.removeEventListener("focus", onFocus);
    clearInterval(look);
    clearTimeout(timer);
    waitingSince = null;
    unanswered = [];
  };
}

/** What the server does not have yet is kept in this browser. */
function keepUnsaved(): void {
  const { id, document, revision, saveState } = store.getState().show;
  if (!id || !document || saveState.kind === "saved") return;
  try {
    localStorage.setItem(keepKey(id), JSON.stringify({ revision, document } satisfies KeptEdit));
  } catch {
    // The browser's room is full. The server is the place to keep things; this was only for the time until it answers.
  }
}

/** Takes over what another window or program saved, or says that both have changed the show. */
async function lookForOthers(): Promise<void> {
  const { id, revision, document, media, saveState } = store.getState().show;
  if (!id || !document || window.document.hidden || inFlight) return;
  if (saveState.kind !== "saved") return;
  const clips = document.slides
    .filter(hasPicture)
    .map(({ sha256 }) => sha256)
    .filter((sha256) => media[sha256]?.kind === "clip");
  try {
    const state = await api.showState(id, clips);
    store.dispatch(viewActions.proxiesHeard(state.proxies));
    if (state.revision <= revision) return;
    const newest = await api.getShow(id);
    const now = store.getState().show;
    // Whoever edited meanwhile is told by the next save.
    if (
      now.id === id &&
      now.document === document &&
      now.saveState.kind === "saved" &&
      newest.revision > now.revision
    ) {
      store.dispatch(showActions.followed(newest));
    }
  } catch {
    // The server is away. The next save says so; without one there is nothing to lose.
  }
}

function schedule(delay: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => void saveNow(), delay);
}

/** Saves what is unsaved, now. Resolves when the server has the newest document, or has refused it. */
export async function saveNow(): Promise<void> {
  while (inFlight) await inFlight;
  const { id, document, revision, saveState } = store.getState().show;
  if (!id || !document || saveState.kind === "saved" || saveState.kind === "conflict") return;
  clearTimeout(timer);
  waitingSince = null;
  keepUnsaved();
  inFlight = save(id, revision, document).finally(() => {
    inFlight = null;
  });
  await inFlight;
  if (store.getState().show.saveState.kind === "unsaved") await saveNow();
}

async function save(id: string, revision: number, document: ShowDocument): Promise<void> {
  store.dispatch(showActions.saveStateChanged({ kind: "saving" }));
  try {
    const saved = await api.saveShow(id, revision, document);
    if (store.getState().show.id !== id) return;
    unanswered = [];
    store.dispatch(showActions.savedAs({ revision: saved, document }));
    if (store.getState().show.saveState.kind === "saved") localStorage.removeItem(keepKey(id));
  } catch (error) {
    if (store.getState().show.id !== id) return;
    const failure = error instanceof ApiFailure ? error : new ApiFailure(0, "unknown", String(error));
    if (failure.code === "show-changed") {
      if (await isOurs(id)) return;
      store.dispatch(showActions.saveStateChanged({ kind: "conflict", message: failure.message }));
    } else {
      if (failure.status === 0 && !unanswered.includes(document)) unanswered.push(document);
      store.dispatch(showActions.saveStateChanged({ kind: "offline", message: failure.message }));
      schedule(RETRY_MS);
    }
  }
}

/** Whether the newest revision is a save of this page whose answer was lost on the way; then it counts as saved. */
async function isOurs(id: string): Promise<boolean> {
  if (unanswered.length === 0) return false;
  const newest = await api.getShow(id).catch(() => null);
  if (!newest || store.getState().show.id !== id) return false;
  // Read the same way, both have the same order of fields.
  const text = JSON.stringify(newest.document);
  const sent = unanswered.find((document) => JSON.stringify(readShowDocument(document)) === text);
  if (!sent) return false;
  unanswered = [];
  store.dispatch(showActions.savedAs({ revision: newest.revision, document: sent }));
  return true;
}

/** An edit that never reached the server, kept by this browser; null where there is none or it cannot be read. */
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

export const forgetKeptEdit = (showId: string): void => localStorage.removeItem(keepKey(showId));

/** An edit that this browser kept because the server never confirmed it comes back; where the show has moved on, the person decides. */
export function takeUpKeptEdit(show: SavedShow): void {
  const kept = keptEdit(show.id);
  if (!kept) return;
  if (JSON.stringify(kept.document) === JSON.stringify(show.document)) {
    forgetKeptEdit(show.id);
    return;
  }
  store.dispatch(showActions.edited(kept.document));
  if (kept.revision !== show.revision) {
    store.dispatch(
      showActions.saveStateChanged({ kind: "conflict", message: "This browser kept an edit of an older revision." }),
    );
  }
}
