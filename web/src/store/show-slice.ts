import type { MediaFacts, SavedShow } from "@humming-tide/contract";
import { type MergeConflict, mergeDocuments, type ShowDocument } from "@humming-tide/core/show";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { plain } from "./plain.ts";

type SaveState =
  | { readonly kind: "saved" }
  | { readonly kind: "saving" }
  | { readonly kind: "unsaved" }
  | { readonly kind: "offline"; readonly message: string }
  /** Both this window and another changed the same things: saving waits for the person's choice. */
  | { readonly kind: "conflict"; readonly conflicts: readonly MergeConflict[]; readonly newest: SavedShow };

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
  /** What a drag would make of the document; not saved and not in the history until it is let go. */
  readonly draft: ShowDocument | null;
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
      reducer(draft, { payload }: PayloadAction<{ document: ShowDocument; tag: string | null }>): ShowState {
        const state = plain(draft);
        const before = state.document;
        if (!before || payload.document === before) return { ...state, draft: null };
        const sameStep = payload.tag !== null && payload.tag === state.lastTag;
        const past = sameStep ? state.past : [...state.past, before].slice(-UNDO_STEPS);
        return { ...changed(state, payload.document), past, future: [], lastTag: payload.tag };
      },
    },
    drafted: (draft, { payload }: PayloadAction<ShowDocument | null>): ShowState => ({
      ...plain(draft),
      draft: payload,
    }),
    undone(draft): ShowState {
      const state = plain(draft);
      const before = state.past.at(-1);
      if (!before || !state.document) return state;
      return { ...changed(state, before), past: state.past.slice(0, -1), future: [state.document, ...state.future] };
    },
    redone(draft): ShowState {
      const state = plain(draft);
      const next = state.future[0];
      if (!next || !state.document) return state;
      return { ...changed(state, next), past: [...state.past, state.document], future: state.future.slice(1) };
    },
    mediaArrived(draft, { payload }: PayloadAction<readonly MediaFacts[]>): ShowState {
      const state = plain(draft);
      const arrived = Object.fromEntries(payload.map((facts) => [facts.sha256, facts]));
      return { ...state, media: { ...state.media, ...arrived } };
    },
    saveStateChanged: (draft, { payload }: PayloadAction<SaveState>): ShowState => ({
      ...plain(draft),
      saveState: payload,
    }),
    savedAs(draft, { payload }: PayloadAction<{ revision: number; document: ShowDocument }>): ShowState {
      const state = plain(draft);
      const isNewest = state.document === payload.document;
      const saveState: SaveState = { kind: isNewest ? "saved" : "unsaved" };
      return { ...state, revision: payload.revision, base: payload.document, saveState };
    },
    /** Another window or program saved, and nothing here is unsaved: its document is taken over, as a step that can be undone. */
    followed(draft, { payload }: PayloadAction<SavedShow>): ShowState {
      const state = plain(draft);
      if (state.id !== payload.id || !state.document) return state;
      return {
        ...state,
        revision: payload.revision,
        document: payload.document,
        base: payload.document,
        media: { ...state.media, ...payload.media },
        past: [...state.past, state.document].slice(-UNDO_STEPS),
        future: [],
        draft: null,
        lastTag: null,
        saveState: { kind: "saved" },
      };
    },
    /** An edit of an older revision that this browser kept, as it was left. */
    takenUp(
      draft,
      { payload }: PayloadAction<{ base: ShowDocument; document: ShowDocument; revision: number }>,
    ): ShowState {
      const state = plain(draft);
      return { ...changed(state, payload.document), ...payload, past: state.past };
    },
    /**
     * What another window saved and what is unsaved here become one document, made from the newer
     * revision. What can be undone is moved there too, so that an undo takes back what was done
     * here and nothing else.
     */
    merged(
      draft,
      { payload }: PayloadAction<{ newest: SavedShow; document: ShowDocument; before?: ShowDocument }>,
    ): ShowState {
      const state = plain(draft);
      const { newest, document, before } = payload;
      const { base } = state;
      if (state.id !== newest.id || !base) return state;
      const moved = (step: ShowDocument): ShowDocument => mergeDocuments(base, step, newest.document).document;
      return {
        ...state,
        revision: newest.revision,
        document,
        base: newest.document,
        media: { ...state.media, ...newest.media },
        // `before`: what a choice of this window's side everywhere would have been, one undo away.
        past: [...state.past.slice(-MOVED_STEPS).map(moved), ...(before ? [before] : [])],
        future: state.future.slice(0, MOVED_STEPS).map(moved),
        draft: null,
        saveState: { kind: "unsaved" },
      };
    },
  },
});

/** Another document to show and save. While two windows disagree, saving waits for the person's choice. */
const changed = (state: ShowState, document: ShowDocument): ShowState => ({
  ...state,
  document,
  draft: null,
  lastTag: null,
  saveState: state.saveState.kind === "conflict" ? state.saveState : { kind: "unsaved" },
});

export const showReducer = slice.reducer;
export const showActions = slice.actions;
