import { configureStore } from "@reduxjs/toolkit";
import { useDispatch, useSelector } from "react-redux";
import { intakeReducer } from "../intake/intake-slice.ts";
import { gatherReducer } from "../screens/gather/gather-slice.ts";
import { checkReducer } from "./check-slice.ts";
import { clientReducer } from "./client-slice.ts";
import { selectionReducer } from "./selection-slice.ts";
import { showReducer } from "./show-slice.ts";
import { songReducer } from "./song-slice.ts";
import { soundReducer } from "./sound-slice.ts";
import { viewReducer } from "./view-slice.ts";

export const store = configureStore({
  reducer: {
    show: showReducer,
    intake: intakeReducer,
    gather: gatherReducer,
    song: songReducer,
    sound: soundReducer,
    selection: selectionReducer,
    view: viewReducer,
    check: checkReducer,
    client: clientReducer,
  },
  // Documents and plans are large and come from validated sources; checking them on every action costs more than it finds.
  middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
});

export type RootState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
