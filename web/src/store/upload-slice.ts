import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

export interface Upload {
  readonly id: string;
  readonly fileName: string;
  readonly bytes: number;
  readonly state: "waiting" | "sending" | "taking-in" | "in" | "already-there" | "refused" | "stopped";
  /** 0 to 1 of the sending. */
  readonly progress: number;
  readonly message: string | null;
}

const slice = createSlice({
  name: "uploads",
  initialState: [] as Upload[],
  reducers: {
    uploadsQueued(state, { payload }: PayloadAction<Upload[]>) {
      state.push(...payload);
    },
    uploadChanged(state, { payload }: PayloadAction<Partial<Upload> & { id: string }>) {
      const upload = state.find((candidate) => candidate.id === payload.id);
      if (upload) Object.assign(upload, payload);
    },
    endedUploadsCleared: (state) =>
      state.filter(({ state: kind }) => kind === "waiting" || kind === "sending" || kind === "taking-in"),
    uploadsForgotten: () => [],
  },
});

export const uploadReducer = slice.reducer;
export const uploadActions = slice.actions;
