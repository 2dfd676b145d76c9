import type { ProxyState } from "@humming-tide/contract";
import type { FilmPlan } from "@humming-tide/core/film";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { plain } from "./plain.ts";

/** What the page shows beside the document: the film that follows from it, and what is selected. */
interface ViewState {
  readonly plan: FilmPlan | null;
  /** Why there is no film yet. */
  readonly planProblem: { readonly code: string; readonly message: string } | null;
  readonly selectedSlot: number | null;
  /** The playable copies of the show's clips, by content hash. */
  readonly proxies: Readonly<Record<string, ProxyState>>;
  /** Something to tell in passing; the number makes the same text twice two messages. */
  readonly said: { readonly text: string; readonly number: number } | null;
}

const initialState: ViewState = { plan: null, planProblem: null, selectedSlot: null, proxies: {}, said: null };

const slice = createSlice({
  name: "view",
  initialState,
  reducers: {
    planned(draft, { payload }: PayloadAction<FilmPlan>): ViewState {
      const state = plain<ViewState>(draft);
      return {
        ...state,
        selectedSlot:
          state.selectedSlot !== null && state.selectedSlot < payload.slots.length ? state.selectedSlot : null,
        plan: payload,
        planProblem: null,
      };
    },
    planFailed: (state, { payload }: PayloadAction<{ code: string; message: string }>): ViewState => ({
      ...initialState,
      proxies: plain<ViewState>(state).proxies,
      said: plain<ViewState>(state).said,
      planProblem: payload,
    }),
    slotSelected: (state, { payload }: PayloadAction<number | null>): ViewState => ({
      ...plain<ViewState>(state),
      selectedSlot: payload,
    }),
    proxiesHeard(state, { payload }: PayloadAction<readonly ProxyState[]>): ViewState {
      const before = plain<ViewState>(state);
      const heard = Object.fromEntries(payload.map((proxy) => [proxy.sha256, proxy]));
      return JSON.stringify(heard) === JSON.stringify(before.proxies) ? before : { ...before, proxies: heard };
    },
    said: (state, { payload }: PayloadAction<string | null>): ViewState => ({
      ...plain<ViewState>(state),
      said: payload === null ? null : { text: payload, number: (plain<ViewState>(state).said?.number ?? 0) + 1 },
    }),
    viewCleared: () => initialState,
  },
});

export const viewReducer = slice.reducer;
export const viewActions = slice.actions;
