import type { MediaFacts, SavedShow } from "@humming-tide/contract";
import { type MergeConflict, mergeDocuments, type ShowDocument } from "@humming-tide/core/show";
import { createSlice, type Draft, original, type PayloadAction } from "@reduxjs/toolkit";
import { castDraft } from "immer";

type SaveState =
  | { readonly kind: "saved" }
  | { readonly kind: "saving" }
  | { readonly kind: "unsaved" }
  | { readonly kind: "offline"; readonly message: string }
  /** Both this window and another changed the same things: saving waits for the person's choice. */
  | { readonly kind: "conflict"; readonly conflicts: readonly MergeConflict[]; readonly newest: SavedShow };

/** Another film of this show; the stage shows it, or the film as it is now. */
interface ComparedVariant {
  readonly id: string;
  readonly document: ShowDocument;
  readonly isShown: boolean;
}

interface ShowState {
  readonly id: string | null;
  readonly revision: number;
  readonly document: ShowDocument | null;
  /** The document of that revision: what edits are sent against. */
  readonly base: ShowDocument | null;
  readonly media: Readonly<Record<string, MediaFacts>>;
  /** Documents to go back to, oldest first, and those undone, next first. */
  readonly past: readonly ShowDocument[];
  readonly future: readonly ShowDocument[];
  /**
   * What a drag would make of the document; not saved and not in the history until it is let go.
   */
  readonly draft: ShowDocument | null;
  /** A variant beside the film as it is now, while the two are compared. */
  readonly compared: ComparedVariant | null;
  readonly saveState: SaveState;
  /** Edits that follow one another with the same tag (the files of one drop) are one undo step. */
  readonly lastTag: string | null;
}

const UNDO_STEPS = 200;
/**
 * So many steps stay when two windows are brought together: moving each takes about a millisecond.
 */
const MOVED_STEPS = 20;

const empty: ShowState = {
  id: null,
  revision: 0,
  document: null,
  base: null,
  media: {},
  past: [],
  future: [],
  draft: null,
  compared: null,
  saveState: { kind: "saved" },
  lastTag: null,
};

const slice = createSlice({
  name: "show",
  initialState: empty,
  reducers: {
    opened: {
      prepare: (show: SavedShow, history: Pick<ShowState, "past" | "future"> | null = null) => ({
        payload: { show, history },
      }),
      reducer: (
        _state,
        { payload }: PayloadAction<{ show: SavedShow; history: Pick<ShowState, "past" | "future"> | null }>,
      ): ShowState => ({
        ...empty,
        id: payload.show.id,
        revision: payload.show.revision,
        document: payload.show.document,
        base: payload.show.document,
        media: payload.show.media,
        past: payload.history?.past.slice(-UNDO_STEPS) ?? [],
        future: payload.history?.future ?? [],
      }),
    },
    closed: () => empty,
    /** One edit, one undo step; edits of one tag in a row are one step together. */
    edited: {
      prepare: (document: ShowDocument, tag: string | null = null) => ({ payload: { document, tag } }),
      reducer(state, { payload }: PayloadAction<{ document: ShowDocument; tag: string | null }>) {
        const before = documentOf(state);
        state.draft = null;
        if (!before || payload.document === before) return;
        const isSameStep = payload.tag !== null && payload.tag === state.lastTag;
        if (!isSameStep) keepStep(state, before);
        change(state, payload.document);
        state.future = [];
        state.lastTag = payload.tag;
      },
    },
    drafted(state, { payload }: PayloadAction<ShowDocument | null>) {
      state.draft = castDraft(payload);
    },
    /** A variant is compared with the film; null: no longer. */
    compared(state, { payload }: PayloadAction<ComparedVariant | null>) {
      state.compared = castDraft(payload);
    },
    comparedShown(state, { payload }: PayloadAction<boolean>) {
      if (state.compared) state.compared.isShown = payload;
    },
    undone(state) {
      const now = documentOf(state);
      const before = state.past.at(-1);
      if (!before || !now) return;
      state.past.pop();
      state.future.unshift(castDraft(now));
      change(state, before);
    },
    redone(state) {
      const now = documentOf(state);
      const next = state.future[0];
      if (!next || !now) return;
      state.future.shift();
      state.past.push(castDraft(now));
      change(state, next);
    },
    mediaArrived(state, { payload }: PayloadAction<readonly MediaFacts[]>) {
      for (const facts of payload) state.media[facts.sha256] = castDraft(facts);
    },
    saveStateChanged(state, { payload }: PayloadAction<SaveState>) {
      state.saveState = castDraft(payload);
    },
    savedAs(state, { payload }: PayloadAction<{ revision: number; document: ShowDocument }>) {
      state.saveState = { kind: documentOf(state) === payload.document ? "saved" : "unsaved" };
      state.revision = payload.revision;
      state.base = castDraft(payload.document);
    },
    /**
     * Another window or program saved, and nothing here is unsaved: its document is taken over, as
     * a step that can be undone.
     */
    followed(state, { payload }: PayloadAction<SavedShow>) {
      const before = documentOf(state);
      if (state.id !== payload.id || !before) return;
      keepStep(state, before);
      takeNewest(state, payload, payload.document);
      state.future = [];
      state.lastTag = null;
      state.saveState = { kind: "saved" };
    },
    /** An edit of an older revision that this browser kept, as it was left. */
    takenUp(state, { payload }: PayloadAction<{ base: ShowDocument; document: ShowDocument; revision: number }>) {
      change(state, payload.document);
      state.base = castDraft(payload.base);
      state.revision = payload.revision;
    },
    /**
     * What another window saved and what is unsaved here become one document, made from the newer
     * revision. What can be undone is moved there too, so that an undo takes back what was done
     * here and nothing else.
     */
    merged(state, { payload }: PayloadAction<{ newest: SavedShow; document: ShowDocument; before?: ShowDocument }>) {
      const { newest, document, before } = payload;
      const { base, past, future } = original(state);
      if (state.id !== newest.id || !base) return;
      const moved = (step: ShowDocument): ShowDocument => mergeDocuments(base, step, newest.document).document;
      takeNewest(state, newest, document);
      // `before`: what a choice of this window's side everywhere would have been, one undo away.
      state.past = castDraft([...past.slice(-MOVED_STEPS).map(moved), ...(before ? [before] : [])]);
      state.future = castDraft(future.slice(0, MOVED_STEPS).map(moved));
      state.saveState = { kind: "unsaved" };
    },
  },
});

type State = Draft<ShowState>;

/**
 * The document itself: what was saved is compared with it by identity, and a draft of it is another
 * object.
 */
const documentOf = ({ document }: State): ShowDocument | null => document && (original(document) ?? document);

/**
 * Another document to show and save. While two windows disagree, saving waits for the person's
 * choice.
 */
function change(state: State, document: ShowDocument): void {
  state.document = castDraft(document);
  state.draft = null;
  state.lastTag = null;
  if (state.saveState.kind !== "conflict") state.saveState = { kind: "unsaved" };
}

/** One more step that can be undone; the oldest goes where there are too many. */
function keepStep(state: State, document: ShowDocument): void {
  state.past.push(castDraft(document));
  if (state.past.length > UNDO_STEPS) state.past.shift();
}

/** Goes on from what another window saved. */
function takeNewest(state: State, newest: SavedShow, document: ShowDocument): void {
  state.revision = newest.revision;
  state.base = castDraft(newest.document);
  state.document = castDraft(document);
  state.draft = null;
  Object.assign(state.media, newest.media);
}

/** The document whose film is on the stage: a drag's, a variant's, or the show's. */
export const shownDocument = ({ draft, compared, document }: ShowState): ShowDocument | null =>
  draft ?? (compared?.isShown ? compared.document : document);

export const showReducer = slice.reducer;
export const showActions = slice.actions;
