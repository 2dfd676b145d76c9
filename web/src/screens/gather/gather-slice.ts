import type { Rating } from "@humming-tide/core/show";
import { createSlice, type PayloadAction, type WithSlice } from "@reduxjs/toolkit";
import { castDraft } from "immer";
import { rootReducer } from "../../store/root-reducer.ts";
import type { RootState } from "../../store/store.ts";

/** Which slides the sheet shows. */
export type SheetFilter = "all" | Rating | "hero";
/** Widths of a picture on the sheet. */
type SheetSize = "small" | "medium" | "large";

interface GatherState {
  readonly filter: SheetFilter;
  readonly size: SheetSize;
  /** The slides of the large view, and which of them is looked at; null while the sheet is. */
  readonly largeView: { readonly ids: readonly string[]; readonly at: number; readonly compare: boolean } | null;
  /** Ids of nearly equal pictures, a group each. */
  readonly moments: readonly (readonly string[])[];
  /** Whether near-identical pictures lie in one stack, the best on top. */
  readonly foldsAlike: boolean;
}

/** Kept in the browser, as the sheet is how a person likes to work. */
const FOLDS = "humming-tide fold-alike";
export const keepFolds = (isOn: boolean): void => localStorage.setItem(FOLDS, isOn ? "on" : "off");

const initial: GatherState = {
  filter: "all",
  size: "medium",
  largeView: null,
  moments: [],
  foldsAlike: localStorage.getItem(FOLDS) === "on",
};

const slice = createSlice({
  name: "gather",
  initialState: initial,
  reducers: {
    filterChosen(state, { payload }: PayloadAction<SheetFilter>) {
      state.filter = payload;
    },
    sizeChosen(state, { payload }: PayloadAction<SheetSize>) {
      state.size = payload;
    },
    largeViewSet(state, { payload }: PayloadAction<GatherState["largeView"]>) {
      state.largeView = castDraft(payload);
    },
    momentsFound(state, { payload }: PayloadAction<readonly (readonly string[])[]>) {
      state.moments = castDraft(payload);
    },
    foldsChosen(state, { payload }: PayloadAction<boolean>) {
      state.foldsAlike = payload;
    },
    gatherLeft: ({ size, foldsAlike }) => ({ ...initial, size, foldsAlike }),
  },
});

const injected = slice.injectInto(rootReducer);

export const gatherActions = injected.actions;
/**
 * The store does not know this screen: before it was entered there is nothing, which is the first
 * state.
 */
export const selectGather = (state: RootState): GatherState =>
  injected.selectSlice(state as Partial<WithSlice<typeof slice>>);
