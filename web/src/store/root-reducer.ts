import { combineSlices } from "@reduxjs/toolkit";
import { intakeReducer } from "../intake/intake-slice.ts";
import { serverState } from "../server-state/server-state.ts";
import { checkReducer } from "./check-slice.ts";
import { clientReducer } from "./client-slice.ts";
import { selectionReducer } from "./selection-slice.ts";
import { showReducer } from "./show-slice.ts";
import { songReducer } from "./song-slice.ts";
import { soundReducer } from "./sound-slice.ts";
import { viewReducer } from "./view-slice.ts";

/**
 * The state of the whole page. Slices that belong to one screen inject themselves here when it is
 * first entered.
 */
export const rootReducer = combineSlices({
  show: showReducer,
  intake: intakeReducer,
  song: songReducer,
  sound: soundReducer,
  selection: selectionReducer,
  view: viewReducer,
  check: checkReducer,
  client: clientReducer,
  [serverState.reducerPath]: serverState.reducer,
});
