import type { FilmPlan } from "@humming-tide/core/film";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

/** What the page shows beside the document: the film that follows from it, and what is selected. */
interface ViewState {
  readonly plan: FilmPlan | null;
  /** Why there is no film yet. */
  readonly planProblem: { readonly code: string; readonly message: string } | null;
  readonly selectedSlot: number | null;
}

const initialState: ViewState = { plan: null, planProblem: null, selectedSlot: null };

const slice = createSlice({
  name: "view",
  initialState,
  reducers: {
    planned: (state, { payload }: PayloadAction<FilmPlan>): ViewState => ({
      selectedSlot:
        state.selectedSlot !== null && state.selectedSlot < payload.slots.length ? state.selectedSlot : null,
      plan: payload,
      planProblem: null,
    }),
    planFailed: (_state, { payload }: PayloadAction<{ code: string; message: string }>): ViewState => ({
      ...initialState,
      planProblem: payload,
    }),
    slotSelected: (state, { payload }: PayloadAction<number | null>): ViewState => ({
      ...(state as ViewState),
      selectedSlot: payload,
    }),
    viewCleared: () => initialState,
  },
});

export const viewReducer = slice.reducer;
export const viewActions = slice.actions;
