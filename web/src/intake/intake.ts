import { ANNOUNCED_AT_ONCE, type IntakeFile, isSeen, type MediaFacts } from "@humming-tide/contract";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import {
  addSong,
  arrivalPlace,
  chooseSong,
  insertSlides,
  newSlide,
  type ShowDocument,
  swapFiles,
} from "@humming-tide/core/show";
import { firstSong, type SoundKind, soundKind, soundName } from "@humming-tide/core/sound";
import { ApiFailure, api, sendAnnounced } from "../api.ts";
import { newId } from "../store/new-id.ts";
import { openShow } from "../store/open-show.ts";
import { showActions } from "../store/show-slice.ts";
import { store } from "../store/store.ts";
import { viewActions } from "../store/view-slice.ts";
import type { FileWithPath } from "./dropped-files.ts";
import { type IntakeItem, intakeActions } from "./intake-slice.ts";
import { replacedText } from "./replaced-text.ts";

/**
 * Files sent at the same time. The server uses several threads for each, mostly on this machine:
 * on few processors more of them would only make the page wait for its own turn.
 */
const AT_ONCE = Math.max(2, Math.min(4, navigator.hardwareConcurrency - 1));
/**
 * What came in is put into the show together, this often: a thousand single edits would be a
 * thousand revisions. Every time, the sheet and the film are laid anew; with many files on their
 * way more rarely, so that the page stays free for scrolling and culling.
 */
const PLACE_EVERY_MS = 250;
const PLACE_MANY_EVERY_MS = 1000;
const MANY_FILES = 40;
const ASK_AGAIN_MS = 1500;
/** Failures that are not the file's fault and need a person: everything waits for them. */
const BLOCKING = new Set(["disk-full", "ffmpeg-missing"]);

/** Where what comes in goes. */
interface IntakeTarget {
  /** Of pictures; null: the last passage. */
  readonly passageId?: string | null;
  /**
   * "ask": the only song of a show that has none is taken, else a person says; "add": it comes
   * behind the others.
   */
  readonly songs?: "ask" | "add";
  /** The slide whose file it takes the place of. */
  readonly replaces?: string;
  /** Retouched files: they wait until a person has seen which slides they belong to. */
  readonly retouched?: boolean;
}

interface Waiting {
  readonly id: string;
  readonly file: File;
  /** The drop or choice that the file came with: one undo step. */
  readonly batch: string;
  readonly target: IntakeTarget;
  /** Place among all files that were ever given to this page. */
  readonly order: number;
}

interface Arrived extends Waiting {
  readonly facts: MediaFacts;
}

/** A sound that came in, and what it sounds like. */
interface ArrivedSound extends Waiting {
  readonly facts: Extract<MediaFacts, { kind: "song" }>;
  readonly kind: SoundKind;
}

let showId: string | null = null;
let waiting: Waiting[] = [];
const running = new Map<string, AbortController>();
const orderOf = new Map<string, number>();
let arrived: Arrived[] = [];
let sounds: ArrivedSound[] = [];
/** Sounds of a drop that are not in yet, by id: the first that is in need not be the song. */
const soundsComing = new Map<string, string>();
let placing: ReturnType<typeof setTimeout> | undefined;
type RowChange = Partial<IntakeItem> & { id: string };
/** What became of files since the list was last changed. */
const rowChanges = new Map<string, RowChange>();
let askingAgain: ReturnType<typeof setTimeout> | undefined;

/**
 * Brings files into the open show: announced all at once, then sent a few at a time. Pictures and
 * clips become slides in the order given, at the end of the passage; a song becomes the show's
 * song. What the show has already is not sent again.
 */
export async function bringIn(files: readonly FileWithPath[], target: IntakeTarget = {}): Promise<void> {
  const id = store.getState().show.id;
  if (!id || files.length === 0) return;
  if (showId !== id) forgetAll();
  showId = id;
  const batch = newId();
  setPhase("announcing");
  try {
    for (let from = 0; from < files.length; from += ANNOUNCED_AT_ONCE) {
      const part = files.slice(from, from + ANNOUNCED_AT_ONCE);
      const known = await api.announce(
        id,
        part.map(({ file, path }) => ({ path, bytes: file.size, modifiedMs: file.lastModified })),
      );
      if (showId !== id) return;
      take(part, known, batch, target);
    }
    goOn();
  } catch (error) {
    setPhase("blocked", (error as Error).message);
  }
}

/** Sorts announced files into those to send and those that need no sending. */
function take(files: readonly FileWithPath[], known: readonly IntakeFile[], batch: string, target: IntakeTarget): void {
  tellRows();
  const rows: IntakeItem[] = [];
  for (const [index, entry] of known.entries()) {
    const { id, path, bytes } = entry;
    if (running.has(id) || waiting.some((item) => item.id === id)) continue;
    const order = orderOf.get(id) ?? orderOf.size;
    orderOf.set(id, order);
    if (target.songs !== "add" && !isForSlides(target) && isSoundFile(itemAt(files, index).file))
      soundsComing.set(id, batch);
    const item: Waiting = { id, file: itemAt(files, index).file, batch, target, order };
    if (entry.facts) {
      rows.push({ id, path, bytes, state: "already-there", sent: 1, message: null });
      arrive({ ...item, facts: entry.facts });
    } else {
      rows.push({ id, path, bytes, state: "waiting", sent: 0, message: null });
      waiting.push(item);
    }
  }
  store.dispatch(intakeActions.filesGiven(rows));
}

/** Stops; what was being sent goes back to what waits, and `goOn` takes up there. */
export function stop(): void {
  setPhase("stopped");
  for (const controller of running.values()) controller.abort();
  placeSoon();
}

export function goOn(): void {
  clearTimeout(askingAgain);
  if (waiting.length + running.size === 0) {
    setPhase("idle");
    return;
  }
  if (store.getState().intake.phase !== "running") setPhase("running");
  while (running.size < AT_ONCE && waiting.length > 0) void sendNext();
}

/** Takes the list away; what waits is forgotten, what is in stays in. */
export function forgetAll(): void {
  const id = showId;
  const unfinished = waiting.length > 0 || store.getState().intake.leftFromBefore > 0;
  waiting = [];
  for (const controller of running.values()) controller.abort();
  clearTimeout(askingAgain);
  soundsComing.clear();
  place();
  store.dispatch(intakeActions.cleared());
  showId = null;
  const open = id ?? store.getState().show.id;
  if (open && unfinished) void api.forgetWaitingFiles(open).catch(() => undefined);
}

/** Leaves a show: what was on its way stops, and is remembered by the server as not come in. */
export function leaveIntake(): void {
  waiting = [];
  for (const controller of running.values()) controller.abort();
  clearTimeout(askingAgain);
  place();
  showId = null;
  soundsComing.clear();
  sounds = [];
  store.dispatch(intakeActions.left());
}

/** Asks whether files that were announced before this page was loaded are still missing. */
export async function lookForLeftOver(id: string): Promise<void> {
  const left = await api.waitingFiles(id).catch(() => []);
  if (store.getState().show.id === id && store.getState().intake.phase === "idle") {
    store.dispatch(intakeActions.leftFromBeforeFound(left.length));
  }
}

async function sendNext(): Promise<void> {
  const item = waiting.shift();
  const show = showId;
  if (!item || !show) return;
  const { id } = item;
  const controller = new AbortController();
  running.set(id, controller);
  change({ id, state: "sending", sent: 0, message: null });
  let saidAt = 0;
  try {
    const sent = (share: number): void => {
      const now = performance.now();
      if (now - saidAt < PLACE_EVERY_MS) return;
      saidAt = now;
      change({ id, sent: share });
    };
    const facts = await sendAnnounced(show, id, item.file, sent, controller.signal);
    if (showId === show) arrive({ ...item, facts });
  } catch (error) {
    if (showId === show) failed(item, error as Error);
  } finally {
    running.delete(id);
    if (showId === show) next();
  }
}

function failed(item: Waiting, error: Error): void {
  const failure = error instanceof ApiFailure ? error : new ApiFailure(400, "unreadable", unreadable(error));
  if (failure.code === "cancelled" || failure.status === 0 || failure.code === "upload-broken-off") {
    putBack(item);
    if (failure.code !== "cancelled") waitForServer();
  } else if (BLOCKING.has(failure.code)) {
    putBack(item);
    setPhase("blocked", failure.message);
    for (const controller of running.values()) controller.abort();
  } else {
    refuse(item, failure.message);
  }
}

/**
 * A file that does not come in. Away from Gather the list of files is not seen: there it is said.
 */
function refuse({ id, file, target }: Waiting, message: string): void {
  change({ id, state: "refused", sent: 1, message });
  if (target.replaces !== undefined) store.dispatch(viewActions.toastShown(`“${file.name}” was not taken. ${message}`));
  soundsComing.delete(id);
  placeSoon();
}

const isForSlides = ({ replaces, retouched }: IntakeTarget): boolean => replaces !== undefined || retouched === true;

const unreadable = (error: Error): string => `The browser could not read the file (${error.message}). Drop it again.`;

function putBack(item: Waiting): void {
  const at = waiting.findIndex((other) => other.order > item.order);
  waiting.splice(at < 0 ? waiting.length : at, 0, item);
  change({ id: item.id, state: "waiting", sent: 0 });
}

/** The server is away: asked again and again until it is back. */
function waitForServer(): void {
  if (store.getState().intake.phase !== "running") return;
  setPhase("server-away");
  const ask = (): void => {
    api.health().then(
      () => store.getState().intake.phase === "server-away" && goOn(),
      () => {
        askingAgain = setTimeout(ask, ASK_AGAIN_MS);
      },
    );
  };
  askingAgain = setTimeout(ask, ASK_AGAIN_MS);
}

function next(): void {
  const { phase } = store.getState().intake;
  if (phase === "running") goOn();
}

function arrive(item: Arrived): void {
  const { facts } = item;
  if (isForSlides(item.target) && !isSeen(facts)) {
    refuse(item, "This is a sound. A slide shows a picture or a clip.");
    return;
  }
  if (facts.kind === "song" && item.target.songs !== "add") {
    void hear({ ...item, facts });
    return;
  }
  soundsComing.delete(item.id);
  arrived.push(item);
  placeSoon();
}

const SOUND_ENDINGS = /\.(mp3|m4a|aac|wav|flac|ogg|oga)$/i;
const isSoundFile = ({ name, type }: File): boolean => type.startsWith("audio/") || SOUND_ENDINGS.test(name);

/**
 * Tells what a sound sounds like. Only where there is no steady beat it has to be listened to for
 * words.
 */
async function hear(item: Omit<ArrivedSound, "kind">): Promise<void> {
  const { facts, id } = item;
  const show = showId;
  soundsComing.set(id, item.batch);
  const speech = facts.steady ? null : await api.speech(soundName(facts.sha256, "spoken")).catch(() => null);
  if (showId !== show) return;
  soundsComing.delete(id);
  sounds.push({ ...item, kind: soundKind(facts, speech) });
  placeSoon();
}

/** Sounds of which all that came with them are in, in the order in which they were given. */
function decidableSounds(): ArrivedSound[] {
  const isMoving = store.getState().intake.phase !== "stopped" && store.getState().intake.phase !== "blocked";
  const open = new Set(isMoving ? soundsComing.values() : []);
  const ready = sounds.filter(({ batch }) => !open.has(batch)).sort((a, b) => a.order - b.order);
  sounds = sounds.filter(({ batch }) => open.has(batch));
  return ready;
}

function placeSoon(): void {
  placing ??= setTimeout(place, waiting.length > MANY_FILES ? PLACE_MANY_EVERY_MS : PLACE_EVERY_MS);
}

/** Puts everything that arrived since the last time into the show, one edit for each drop. */
function place(): void {
  clearTimeout(placing);
  placing = undefined;
  const items = arrived;
  arrived = [];
  const heard = decidableSounds();
  const { document } = store.getState().show;
  if (items.length + heard.length === 0 || !document || store.getState().show.id !== showId) return tellRows();
  store.dispatch(showActions.mediaArrived([...items, ...heard].map(({ facts }) => facts)));
  const retouched = items.filter(({ target }) => target.retouched).map(({ facts }) => facts);
  if (retouched.length > 0) store.dispatch(intakeActions.retouchedArrived(retouched.filter(isSeen)));
  for (const batch of new Set([...items, ...heard].map((item) => item.batch))) {
    const before = openShow();
    const own = items.filter((item) => item.batch === batch);
    const after = own.reduce((show, item) => placeOne(show, item), before);
    const ofBatch = heard.filter((item) => item.batch === batch);
    store.dispatch(showActions.edited(placeSounds(after, ofBatch), batch));
  }
  tellRows();
}

function placeOne(show: ShowDocument, { id, order, facts, target }: Arrived): ShowDocument {
  const { sha256, fileName } = facts;
  const say = (state: IntakeItem["state"], message: string | null): void => change({ id, state, sent: 1, message });
  if (facts.kind === "song") {
    say("in", facts.remark);
    return addSong(show, { sha256, fileName });
  }
  if (target.replaces !== undefined) {
    const before = show.slides.find((slide) => slide.id === target.replaces);
    const after = swapFiles(show, new Map([[target.replaces, { sha256, fileName }]]));
    if (!before) say("refused", "The slide was taken out of the show meanwhile.");
    else if (after === show) say("already-there", "This is the very file that is there.");
    else {
      say("in", facts.remark);
      store.dispatch(viewActions.toastShown(replacedText(before, facts)));
    }
    return after;
  }
  if (target.retouched) {
    say("in", null);
    return show;
  }
  const same = show.slides.find((slide) => slide.sha256 === sha256);
  if (same) {
    say("already-there", same.fileName === fileName ? null : `The same content is there as “${same.fileName}”.`);
    return show;
  }
  say("in", facts.remark);
  const passage = target.passageId ?? lastOf(show.passages).id;
  // Small files overtake large ones on the way in; each takes its place before the first that was
  // given later.
  const later = show.slides.find((slide) => slide.passageId === passage && (orderOf.get(slide.id) ?? -1) > order);
  const place = later ? { passageId: passage, beforeId: later.id } : arrivalPlace(show, passage);
  return insertSlides(show, [newSlide({ id, sha256, fileName })], place);
}

/**
 * The song of a show that has none is taken; about all other sounds a person is asked, and nothing
 * is replaced.
 */
function placeSounds(show: ShowDocument, heard: readonly ArrivedSound[]): ShowDocument {
  const isThere = ({ facts }: ArrivedSound): boolean => show.songs.some(({ sha256 }) => sha256 === facts.sha256);
  const fresh = heard.filter((sound) => !isThere(sound));
  const song = show.songs.length === 0 ? firstSong(fresh) : null;
  const asked = fresh.filter((sound) => sound !== song);
  for (const { id } of heard.filter(isThere))
    change({ id, state: "already-there", sent: 1, message: "It is a song of this show already." });
  for (const { id } of asked) change({ id, state: "asks", sent: 1, message: "Say above what it is for." });
  if (asked.length > 0)
    store.dispatch(
      intakeActions.soundsAsked(
        asked.map(({ id, facts: { sha256, fileName, durationSeconds }, kind }) => ({
          ...{ id, sha256, fileName, durationSeconds, kind },
        })),
      ),
    );
  if (!song) return show;
  const { sha256, fileName, remark } = song.facts;
  change({ id: song.id, state: "in", sent: 1, message: remark });
  return chooseSong(show, { sha256, fileName });
}

/** Seen in the list when what came in is put into the show the next time. */
function change(values: RowChange): void {
  rowChanges.set(values.id, { ...rowChanges.get(values.id), ...values });
  placeSoon();
}

function tellRows(): void {
  if (rowChanges.size === 0) return;
  const changes = [...rowChanges.values()];
  rowChanges.clear();
  store.dispatch(intakeActions.rowsChanged(changes));
}

function setPhase(
  phase: Parameters<typeof intakeActions.phaseChanged>[0]["phase"],
  problem: string | null = null,
): void {
  tellRows();
  store.dispatch(intakeActions.phaseChanged({ phase, problem, now: Date.now() }));
}
