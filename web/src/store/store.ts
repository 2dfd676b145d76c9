import { configureStore, isPlain } from "@reduxjs/toolkit";
import { useDispatch, useSelector } from "react-redux";
import { serverState } from "../server-state/server-state.ts";
import { rootReducer } from "./root-reducer.ts";

/** What the state may hold: plain data, sets of ids, and the numbers of waveforms. */
const isData = (value: unknown): boolean => isPlain(value) || value instanceof Set || ArrayBuffer.isView(value);

/** Longer than this and the checks of development say that they slow it down. */
const WARN_AFTER_MS = 100;

export const store = configureStore({
  reducer: rootReducer,
  middleware: (defaults) =>
    defaults({
      serializableCheck: { isSerializable: isData, warnAfter: WARN_AFTER_MS },
      immutableCheck: { warnAfter: WARN_AFTER_MS },
    }).concat(serverState.middleware),
});

export type RootState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
