import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { enableMapSet } from "immer";
import { showActions } from "./show-slice.ts";

/** A slide where it is shown for the first, second … time. */
interface ShownSlide {
  readonly slideId: string;
  readonly round: number;
}

/** What is selected on every screen, by slides, so that a re-lay keeps it. */
export interface SelectionState {
  readonly ids: ReadonlySet<string>;
  /** The one that keys act on and whose slot is told; also the moving end of a range. */
  readonly current: ShownSlide | null;
  /** The fixed end of a range. */
  readonly anchorId: string | null;
}

// What is selected is a set.
enableMapSet();

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
    toggled(state, { payload }: PayloadAction<ShownSlide>) {
      if (!state.ids.delete(payload.slideId)) state.ids.add(payload.slideId);
      state.current = payload;
      state.anchorId = payload.slideId;
    },
    /** Many at once; the anchor stays, and without `current` so does the slide that keys act on. */
    selected(state, { payload }: PayloadAction<{ ids: readonly string[]; current?: ShownSlide | null }>) {
      state.ids = new Set(payload.ids);
      if (payload.current !== undefined) state.current = payload.current;
      state.anchorId ??= payload.ids[0] ?? null;
    },
    /** The keys go on from this slide; what is selected stays. */
    focused(state, { payload }: PayloadAction<ShownSlide>) {
      state.current = payload;
    },
    cleared: () => nothing,
  },
  extraReducers: (builder) => {
    builder.addCase(showActions.closed, () => nothing);
    // What has been taken out of the show is no longer selected.
    builder.addCase(showActions.edited, (state, { payload }) => {
      if (state.ids.size === 0) return;
      const known = new Set(payload.document.slides.map(({ id }) => id));
      for (const id of [...state.ids]) if (!known.has(id)) state.ids.delete(id);
      if (state.current && !known.has(state.current.slideId)) state.current = null;
    });
  },
});

export const selectionReducer = slice.reducer;
export const selectionActions = slice.actions;

/** The slot of the current slide; undefined where the film does not show it. O(slots). */
export const currentSlot = (plan: FilmPlan | null, { current }: SelectionState): FilmSlot | undefined =>
  current ? plan?.slots.find((slot) => slot.slideId === current.slideId && slot.round === current.round) : undefined;
