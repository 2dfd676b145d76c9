import type { LiveEvent, ProxyState } from "@humming-tide/contract";
import type { FilmPlan, WayOut } from "@humming-tide/core/film";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { castDraft } from "immer";
import type { MovedLandings } from "../plan/moved-landings.ts";
import { songActions } from "./song-slice.ts";

/** A medium that the server makes ready while somebody waits for it. */
export type Preparing = Extract<LiveEvent, { kind: "preparing" }>;

interface Listening {
  /** 0.5 to 1. */
  readonly speed: number;
  /** Seconds of the song that are played round and round. */
  readonly loop: { readonly startSeconds: number; readonly endSeconds: number } | null;
  /** 0 to 1; 0 is no click track. */
  readonly clickGain: number;
}

/** What the page shows beside the document: the film that follows from it, and what is selected. */
interface ViewState {
  readonly plan: FilmPlan | null;
  /**
   * What would make slides and music agree better, the cheapest first; found a moment after the
   * plan.
   */
  readonly waysOut: readonly WayOut[];
  /** Why there is no film yet. */
  readonly planProblem: { readonly code: string; readonly message: string } | null;
  /** What the last change of the show has moved in the film; null where nothing is told. */
  readonly moved: MovedLandings | null;
  /** The stage is drawn with fewer pixels. */
  readonly isDraft: boolean;
  /** How Listen plays: kept while the show is open. */
  readonly listening: Listening;
  /** The playable copies of the show's clips, by content hash. */
  readonly proxies: Readonly<Record<string, ProxyState>>;
  /** Media that are being made ready, by content hash. */
  readonly preparing: Readonly<Record<string, Preparing>>;
  /** Something to tell in passing; the number makes the same text twice two messages. */
  readonly toast: { readonly text: string; readonly number: number } | null;
}

const initialState: ViewState = {
  plan: null,
  waysOut: [],
  planProblem: null,
  moved: null,
  isDraft: false,
  listening: { speed: 1, loop: null, clickGain: 0 },
  proxies: {},
  preparing: {},
  toast: null,
};

const slice = createSlice({
  name: "view",
  initialState,
  reducers: {
    /** `moved` is undefined where nobody changed the show: what was told last stays. */
    planned(state, { payload }: PayloadAction<{ plan: FilmPlan; moved: MovedLandings | null | undefined }>) {
      state.plan = castDraft(payload.plan);
      if (payload.moved !== undefined) state.moved = castDraft(payload.moved);
      state.waysOut = [];
      state.planProblem = null;
    },
    movedSeen(state) {
      state.moved = null;
    },
    waysOutFound(state, { payload }: PayloadAction<readonly WayOut[]>) {
      state.waysOut = castDraft(payload);
    },
    planFailed(state, { payload }: PayloadAction<{ code: string; message: string }>) {
      state.plan = null;
      state.waysOut = [];
      state.moved = null;
      state.planProblem = payload;
    },
    proxiesHeard(state, { payload }: PayloadAction<readonly ProxyState[]>) {
      const heard = Object.fromEntries(payload.map((proxy) => [proxy.sha256, proxy]));
      if (JSON.stringify(heard) !== JSON.stringify(state.proxies)) state.proxies = heard;
    },
    proxyHeard(state, { payload }: PayloadAction<ProxyState>) {
      state.proxies[payload.sha256] = payload;
    },
    preparingHeard(state, { payload }: PayloadAction<Preparing>) {
      if (payload.isDone) delete state.preparing[payload.sha256];
      else state.preparing[payload.sha256] = payload;
    },
    toastShown(state, { payload }: PayloadAction<string | null>) {
      state.toast = payload === null ? null : { text: payload, number: (state.toast?.number ?? 0) + 1 };
    },
    listeningChanged(state, { payload }: PayloadAction<Partial<Listening>>) {
      Object.assign(state.listening, payload);
    },
    draftToggled(state) {
      state.isDraft = !state.isDraft;
    },
    viewCleared: () => initialState,
  },
  // A loop is seconds of one song: it means nothing for another.
  extraReducers: (builder) =>
    builder.addCase(songActions.songChosen, (state) => {
      state.listening.loop = null;
    }),
});

export const viewReducer = slice.reducer;
export const viewActions = slice.actions;
