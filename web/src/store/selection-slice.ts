import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { plain } from "./plain.ts";
import { showActions } from "./show-slice.ts";

/** A slide where it is shown for the first, second … time. */
interface ShownSlide {
  readonly slideId: string;
  readonly round: number;
}

/** What is selected of the film, by slides, so that a re-lay keeps it. */
export interface SelectionState {
  readonly ids: ReadonlySet<string>;
  /** The one whose slot is told; also the moving end of a range. */
  readonly current: ShownSlide | null;
  /** The fixed end of a range. */
  readonly anchorId: string | null;
}

const nothing: SelectionState = { ids: new Set(), current: null, anchorId: null };

const slice = createSlice({
  name: "selection",
  initialState: nothing,
  reducers: {
    /** One slide alone: the anchor of the next range. */
    picked: (_state, { payload }: PayloadAction<ShownSlide>): SelectionState => ({
      ids: new Set([payload.slideId]),
      current: payload,
      anchorId: payload.slideId,
    }),
    toggled(state, { payload }: PayloadAction<ShownSlide>): SelectionState {
      const ids = new Set(plain<SelectionState>(state).ids);
      const isAdded = !ids.delete(payload.slideId);
      if (isAdded) ids.add(payload.slideId);
      return { ids, current: payload, anchorId: payload.slideId };
    },
    /** Many at once; the anchor stays. */
    selected: (
      state,
      { payload }: PayloadAction<{ ids: readonly string[]; current: ShownSlide | null }>,
    ): SelectionState => ({
      ids: new Set(payload.ids),
      current: payload.current,
      anchorId: plain<SelectionState>(state).anchorId ?? payload.ids[0] ?? null,
    }),
    cleared: (): SelectionState => nothing,
  },
  extraReducers: (builder) => {
    builder.addCase(showActions.closed, () => nothing);
    // What has been taken out of the show is not selected any more.
    builder.addCase(showActions.edited, (draft, { payload }): SelectionState => {
      const state = plain<SelectionState>(draft);
      if (state.ids.size === 0) return state;
      const known = new Set(payload.document.slides.map(({ id }) => id));
      const ids = new Set([...state.ids].filter((id) => known.has(id)));
      if (ids.size === state.ids.size) return state;
      const { current } = state;
      return { ...state, ids, current: current && known.has(current.slideId) ? current : null };
    });
  },
});

export const selectionReducer = slice.reducer;
export const selectionActions = slice.actions;

/** The slot of the current slide; undefined where the film does not show it. O(slots). */
export const currentSlot = (plan: FilmPlan | null, { current }: SelectionState): FilmSlot | undefined =>
  current ? plan?.slots.find((slot) => slot.slideId === current.slideId && slot.round === current.round) : undefined;
