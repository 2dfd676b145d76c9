import { itemAt } from "@humming-tide/core/presence";
import {
  type DocumentDelta,
  deltaBetween,
  readShowDocument,
  SHOW_DOCUMENT_VERSION,
  type ShowDocument,
  withDelta,
} from "@humming-tide/core/show";
import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import { store } from "./store.ts";

/** What can be undone and redone. */
export interface UndoHistory {
  /** Oldest first. */
  readonly past: readonly ShowDocument[];
  /** Next first. */
  readonly future: readonly ShowDocument[];
}

/** From a document to the next one and back. */
interface Step {
  readonly forth: DocumentDelta;
  readonly back: DocumentDelta;
}

/**
 * One window's history of a show. Steps `first` up to, but not including, `end` exist; the document
 * lies behind step `at - 1`.
 */
interface Head {
  readonly key: readonly [showId: string, windowId: string];
  readonly showId: string;
  readonly usedAt: number;
  readonly version: number;
  readonly document: ShowDocument;
  readonly first: number;
  readonly at: number;
  readonly end: number;
}

interface HistorySchema extends DBSchema {
  heads: { key: [string, string]; value: Head; indexes: { showId: string; usedAt: number } };
  steps: { key: [string, string, number]; value: Step };
}

/** Edits are written down so long after the last one. */
const QUIET_MS = 150;
/** Histories of shows and windows that are kept in this browser. */
const MOST_HEADS = 40;
const WINDOW_KEY = "humming-tide window";

let opening: Promise<IDBPDatabase<HistorySchema>> | null = null;

function database(): Promise<IDBPDatabase<HistorySchema>> {
  opening ??= openDB<HistorySchema>("humming-tide undo", 1, {
    upgrade(fresh) {
      const heads = fresh.createObjectStore("heads", { keyPath: "key" });
      heads.createIndex("showId", "showId");
      heads.createIndex("usedAt", "usedAt");
      fresh.createObjectStore("steps");
    },
  });
  return opening;
}

let ownId: Promise<string> | null = null;

/** The same over reloads of a window, another one in every window. */
function windowId(): Promise<string> {
  ownId ??= (async () => {
    const known = sessionStorage.getItem(WINDOW_KEY);
    // A window that was duplicated has the other one's id, which is held already.
    if (known && (await isHeldHere(known))) return known;
    const fresh = Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) => byte.toString(16)).join("-");
    sessionStorage.setItem(WINDOW_KEY, fresh);
    await isHeldHere(fresh);
    return fresh;
  })();
  return ownId;
}

/**
 * Holds an id until this window is closed; false where another one does, or where the browser has
 * no locks.
 */
function isHeldHere(id: string): Promise<boolean> {
  if (!("locks" in navigator)) return Promise.resolve(false);
  return new Promise((answer) => {
    void navigator.locks.request(`${WINDOW_KEY} ${id}`, { ifAvailable: true }, (lock) => {
      answer(lock !== null);
      return lock && new Promise(() => undefined);
    });
  });
}

const stepsOf = (showId: string, owner: string): IDBKeyRange =>
  IDBKeyRange.bound([showId, owner, 0], [showId, owner, Infinity]);

/**
 * What this window could undo and redo when the show was closed, else what the window could that
 * was last used. A document that has changed since then follows as one more step, as when another
 * window saves. Null where nothing was kept or it cannot be read.
 */
export async function keptHistory(showId: string, document: ShowDocument): Promise<UndoHistory | null> {
  try {
    const kept = await database();
    const heads = await kept.getAllFromIndex("heads", "showId", showId);
    const newest = heads.sort((a, b) => b.usedAt - a.usedAt);
    const own = await windowId();
    const head = newest.find(({ key }) => key[1] === own) ?? newest[0];
    if (!head || head.version !== SHOW_DOCUMENT_VERSION) return null;
    const [, owner] = head.key;
    const steps = await kept.getAll(
      "steps",
      IDBKeyRange.bound([showId, owner, head.first], [showId, owner, head.end], false, true),
    );
    if (steps.length !== head.end - head.first) return null;
    const past: ShowDocument[] = [];
    for (let at = head.at - 1, now = head.document; at >= head.first; at--)
      past.unshift((now = withDelta(now, itemAt(steps, at - head.first).back)));
    const future: ShowDocument[] = [];
    for (let at = head.at, now = head.document; at < head.end; at++)
      future.push((now = withDelta(now, itemAt(steps, at - head.first).forth)));
    // Read the same way, both have the same order of fields.
    return JSON.stringify(readShowDocument(head.document)) === JSON.stringify(document)
      ? { past, future }
      : { past: [...past, head.document], future: [] };
  } catch {
    // Without a place to keep it (a private window, a full disk) there is no history from before;
    // the show itself is the server's.
    return null;
  }
}

/**
 * Keeps what can be undone in this browser, from now on. Returns the function that ends it and
 * writes down what is left.
 */
export function keepHistory(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let writing: Promise<void> = Promise.resolve();
  let written: Written | null = null;
  const write = (): void => {
    clearTimeout(timer);
    timer = undefined;
    const { id, document, past, future } = store.getState().show;
    if (!id || !document) return;
    const chain = [...past, document, ...future];
    writing = writing.then(async () => {
      written = await writeChain(id, chain, past.length, written).catch(() => null);
    });
  };
  const unsubscribe = store.subscribe(() => {
    const { id, document } = store.getState().show;
    const last = written?.chain[written.at];
    if (!id || !document || (document === last && timer === undefined)) return;
    timer ??= setTimeout(write, QUIET_MS);
  });
  window.addEventListener("pagehide", write);
  return () => {
    if (timer !== undefined) write();
    unsubscribe();
    window.removeEventListener("pagehide", write);
  };
}

/**
 * What lies in the browser's store: document i + 1 of the chain follows from document i by step
 * `first + i`.
 */
interface Written {
  readonly showId: string;
  readonly chain: readonly ShowDocument[];
  readonly at: number;
  readonly first: number;
}

/** Writes only the steps that are not there yet. */
async function writeChain(
  showId: string,
  chain: readonly ShowDocument[],
  at: number,
  before: Written | null,
): Promise<Written> {
  const kept = await database();
  const owner = await windowId();
  const same = before?.showId === showId ? before : null;
  // The oldest steps go when there are too many: what is left of the old chain begins further on.
  const dropped = same ? same.chain.indexOf(itemAt(chain, 0)) : -1;
  const first = same && dropped >= 0 ? same.first + dropped : 0;
  let shared = 1;
  if (same && dropped >= 0) {
    while (shared < chain.length && same.chain[dropped + shared] === chain[shared]) shared++;
  }
  const change = kept.transaction(["heads", "steps"], "readwrite");
  const [heads, steps] = [change.objectStore("heads"), change.objectStore("steps")];
  if (!same || dropped < 0) await steps.delete(stepsOf(showId, owner));
  else if (dropped > 0) await steps.delete(IDBKeyRange.bound([showId, owner, 0], [showId, owner, first], false, true));
  for (let i = shared; i < chain.length; i++) {
    const [from, to] = [itemAt(chain, i - 1), itemAt(chain, i)];
    await steps.put({ forth: deltaBetween(from, to), back: deltaBetween(to, from) }, [showId, owner, first + i - 1]);
  }
  const end = first + chain.length - 1;
  await steps.delete(IDBKeyRange.bound([showId, owner, end], [showId, owner, Infinity]));
  await heads.put({
    ...{ key: [showId, owner], showId, usedAt: Date.now(), version: SHOW_DOCUMENT_VERSION },
    ...{ document: itemAt(chain, at), first, at: first + at, end },
  });
  const all = await heads.index("usedAt").getAllKeys();
  for (const [oldShow, oldOwner] of all.slice(0, Math.max(0, all.length - MOST_HEADS))) {
    await heads.delete([oldShow, oldOwner]);
    await steps.delete(stepsOf(oldShow, oldOwner));
  }
  await change.done;
  return { showId, chain, at, first };
}
