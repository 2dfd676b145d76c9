import type { Rating } from "@humming-tide/core/show";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { plain } from "../../store/plain.ts";
import { showActions } from "../../store/show-slice.ts";

/** Which slides the sheet shows. */
export type SheetFilter = "all" | Rating | "hero";
/** Widths of a picture on the sheet. */
type SheetSize = "small" | "medium" | "large";

interface GatherState {
  readonly selected: ReadonlySet<string>;
  /** The slide that keys act on; also the moving end of a range. */
  readonly focusId: string | null;
  /** The fixed end of a range. */
  readonly anchorId: string | null;
  readonly filter: SheetFilter;
  readonly size: SheetSize;
  /** The slides of the large look, and which of them is looked at; null while the sheet is. */
  readonly look: { readonly ids: readonly string[]; readonly at: number; readonly compare: boolean } | null;
  /** Ids of nearly equal pictures, a group each. */
  readonly moments: readonly (readonly string[])[];
}

const NOTHING: ReadonlySet<string> = new Set();

const initial: GatherState = {
  selected: NOTHING,
  focusId: null,
  anchorId: null,
  filter: "all",
  size: "medium",
  look: null,
  moments: [],
};

const slice = createSlice({
  name: "gather",
  initialState: initial,
  reducers: {
    /** One slide alone: the anchor of the next range. */
    picked: (state, { payload }: PayloadAction<string>): GatherState => ({
      ...plain<GatherState>(state),
      selected: new Set([payload]),
      focusId: payload,
      anchorId: payload,
    }),
    toggled(state, { payload }: PayloadAction<string>): GatherState {
      const selected = new Set(plain<GatherState>(state).selected);
      if (!selected.delete(payload)) selected.add(payload);
      return { ...plain<GatherState>(state), selected, focusId: payload, anchorId: payload };
    },
    /** Many at once; the focus goes to `focusId`, the anchor stays. */
    selectionSet: (
      state,
      { payload }: PayloadAction<{ ids: readonly string[]; focusId?: string | null }>,
    ): GatherState => ({
      ...plain<GatherState>(state),
      selected: new Set(payload.ids),
      focusId: payload.focusId ?? plain<GatherState>(state).focusId,
      anchorId: plain<GatherState>(state).anchorId ?? payload.ids[0] ?? null,
    }),
    focused: (state, { payload }: PayloadAction<string>): GatherState => ({
      ...plain<GatherState>(state),
      focusId: payload,
    }),
    filterChosen: (state, { payload }: PayloadAction<SheetFilter>): GatherState => ({
      ...plain<GatherState>(state),
      filter: payload,
      selected: NOTHING,
    }),
    sizeChosen: (state, { payload }: PayloadAction<SheetSize>): GatherState => ({
      ...plain<GatherState>(state),
      size: payload,
    }),
    lookedAt: (state, { payload }: PayloadAction<GatherState["look"]>): GatherState => ({
      ...plain<GatherState>(state),
      look: payload,
    }),
    momentsFound: (state, { payload }: PayloadAction<readonly (readonly string[])[]>): GatherState => ({
      ...plain<GatherState>(state),
      moments: payload,
    }),
    gatherLeft: (state): GatherState => ({ ...initial, size: plain<GatherState>(state).size }),
  },
  // What has been taken out of the show is not selected any more.
  extraReducers: (builder) =>
    builder.addCase(showActions.edited, (draft, { payload }): GatherState => {
      const state = plain<GatherState>(draft);
      if (state.selected.size === 0) return state;
      const known = new Set(payload.document.slides.map(({ id }) => id));
      const selected = new Set([...state.selected].filter((id) => known.has(id)));
      return selected.size === state.selected.size ? state : { ...state, selected };
    }),
});

export const gatherReducer = slice.reducer;
export const gatherActions = slice.actions;
