import type { StudioClientPage, StudioComment } from "@humming-tide/contract";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

interface ClientState {
  /** Null: not known yet. */
  readonly page: StudioClientPage | null;
  /** Slides that a client has said something about which is not done. */
  readonly openBySlide: Readonly<Record<string, true>>;
}

const none: ClientState = { page: null, openBySlide: {} };

const slice = createSlice({
  name: "client",
  initialState: none,
  reducers: {
    came(state, { payload }: PayloadAction<StudioClientPage>) {
      // Asked for with every step of an export: what is the same must not draw the whole Score
      // again.
      if (JSON.stringify(state.page) === JSON.stringify(payload)) return;
      state.page = payload;
      state.openBySlide = Object.fromEntries(openThreads(payload.comments).map(({ slideId }) => [slideId, true]));
    },
    left: () => none,
  },
});

/** What was said and is not done, without its answers. */
export const openThreads = (comments: readonly StudioComment[] = []): StudioComment[] =>
  comments.filter(({ threadId, done }) => threadId === null && !done);

export const clientReducer = slice.reducer;
export const clientActions = slice.actions;
