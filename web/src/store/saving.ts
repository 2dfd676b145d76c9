import type { ShowDocument } from "@humming-tide/core/show";
import { showDocumentSchema } from "@humming-tide/core/show";
import { ApiFailure, api } from "../api.ts";
import { showActions } from "./show-slice.ts";
import { store } from "./store.ts";

/** Edits are saved this long after the last one. */
const QUIET_MS = 400;
const RETRY_MS = 3000;

interface KeptEdit {
  readonly revision: number;
  readonly document: ShowDocument;
}

const keepKey = (showId: string): string => `humming-tide unsaved ${showId}`;

let timer: ReturnType<typeof setTimeout> | undefined;
let inFlight: Promise<void> | null = null;

/**
 * Saves the open show after every edit. Until the server has it, the document is kept in this browser too, so that a closed window, a
 * full disk or a stopped server loses nothing. Call once; returns the function that ends it.
 */
export function startSaving(): () => void {
  let seen = store.getState().show.document;
  const unsubscribe = store.subscribe(() => {
    const { document, id, revision, saveState } = store.getState().show;
    if (document === seen) return;
    seen = document;
    if (!document || !id || saveState.kind === "saved") return;
    localStorage.setItem(keepKey(id), JSON.stringify({ revision, document } satisfies KeptEdit));
    schedule(QUIET_MS);
  });
  const onLeave = (): void => void saveNow();
  window.addEventListener("pagehide", onLeave);
  return () => {
    unsubscribe();
    window.removeEventListener("pagehide", onLeave);
    clearTimeout(timer);
  };
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
    store.dispatch(showActions.savedAs({ revision: saved, document }));
    if (store.getState().show.saveState.kind === "saved") localStorage.removeItem(keepKey(id));
  } catch (error) {
    if (store.getState().show.id !== id) return;
    const failure = error instanceof ApiFailure ? error : new ApiFailure(0, "unknown", String(error));
    if (failure.code === "show-changed") {
      store.dispatch(showActions.saveStateChanged({ kind: "conflict", message: failure.message }));
    } else {
      store.dispatch(showActions.saveStateChanged({ kind: "offline", message: failure.message }));
      schedule(RETRY_MS);
    }
  }
}

/** An edit that never reached the server, kept by this browser; null where there is none or it cannot be read. */
export function keptEdit(showId: string): KeptEdit | null {
  const text = localStorage.getItem(keepKey(showId));
  if (!text) return null;
  try {
    const kept = JSON.parse(text) as KeptEdit;
    return { revision: kept.revision, document: showDocumentSchema.parse(kept.document) };
  } catch {
    return null;
  }
}

export const forgetKeptEdit = (showId: string): void => localStorage.removeItem(keepKey(showId));
