import type { MediaFacts, SavedShow } from "@humming-tide/contract";
import type { ShowDocument } from "@humming-tide/core/show";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

type SaveState =
  | { readonly kind: "saved" }
  | { readonly kind: "saving" }
  | { readonly kind: "unsaved" }
  | { readonly kind: "offline"; readonly message: string }
  | { readonly kind: "conflict"; readonly message: string };

interface ShowState {
  readonly id: string | null;
  readonly revision: number;
  readonly document: ShowDocument | null;
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

const empty: ShowState = {
  id: null,
  revision: 0,
  document: null,
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
    opened(_state, { payload }: PayloadAction<SavedShow>): ShowState {
      return { ...empty, id: payload.id, revision: payload.revision, document: payload.document, media: payload.media };
    },
    closed: () => empty,
    /** One edit, one undo step; edits of one tag in a row are one step together. */
    edited: {
      prepare: (document: ShowDocument, tag: string | null = null) => ({ payload: { document, tag } }),
      reducer(state, { payload }: PayloadAction<{ document: ShowDocument; tag: string | null }>): ShowState {
        const before = state.document;
        if (!before || payload.document === before) return { ...(state as ShowState), draft: null };
        const sameStep = payload.tag !== null && payload.tag === state.lastTag;
        return {
          ...(state as ShowState),
          past: sameStep ? state.past : [...(state.past as ShowDocument[]), before].slice(-UNDO_STEPS),
          future: [],
          document: payload.document,
          draft: null,
          saveState: keptConflict(state.saveState),
          lastTag: payload.tag,
        };
      },
    },
    drafted(state, { payload }: PayloadAction<ShowDocument | null>) {
      return { ...(state as ShowState), draft: payload };
    },
    undone(state): ShowState {
      const before = state.past.at(-1) as ShowDocument | undefined;
      if (!before || !state.document) return state;
      return {
        ...(state as ShowState),
        past: state.past.slice(0, -1),
        future: [state.document, ...(state.future as ShowDocument[])],
        document: before,
        draft: null,
        saveState: keptConflict(state.saveState),
        lastTag: null,
      };
    },
    redone(state): ShowState {
      const next = state.future[0] as ShowDocument | undefined;
      if (!next || !state.document) return state;
      return {
        ...(state as ShowState),
        past: [...(state.past as ShowDocument[]), state.document],
        future: state.future.slice(1),
        document: next,
        draft: null,
        saveState: keptConflict(state.saveState),
        lastTag: null,
      };
    },
    mediaArrived(state, { payload }: PayloadAction<MediaFacts>): ShowState {
      return { ...(state as ShowState), media: { ...state.media, [payload.sha256]: payload } };
    },
    saveStateChanged(state, { payload }: PayloadAction<SaveState>): ShowState {
      return { ...(state as ShowState), saveState: payload };
    },
    savedAs(state, { payload }: PayloadAction<{ revision: number; document: ShowDocument }>): ShowState {
      const current = state.document === payload.document;
      return {
        ...(state as ShowState),
        revision: payload.revision,
        saveState: { kind: current ? "saved" : "unsaved" },
      };
    },
    /** The newer revision is known now: the next save goes over it, because the person chose so. */
    rebased(state, { payload }: PayloadAction<number>): ShowState {
      return { ...(state as ShowState), revision: payload, saveState: { kind: "unsaved" } };
    },
  },
});

/** While two windows disagree, further edits wait for the person's choice. */
const keptConflict = (state: SaveState): SaveState => (state.kind === "conflict" ? state : { kind: "unsaved" });

export const showReducer = slice.reducer;
export const showActions = slice.actions;
