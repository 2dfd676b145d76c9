import type { LiveEvent, ProxyState } from "@humming-tide/contract";
import type { FilmPlan, WayOut } from "@humming-tide/core/film";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import type { MovedLandings } from "../plan/moved-landings.ts";
import { plain } from "./plain.ts";
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
  /** What would make slides and music agree better, the cheapest first; found a moment after the plan. */
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
    planned(draft, { payload }: PayloadAction<{ plan: FilmPlan; moved: MovedLandings | null | undefined }>): ViewState {
      const state = plain<ViewState>(draft);
      const { plan, moved = state.moved } = payload;
      return { ...state, plan, moved, waysOut: [], planProblem: null };
    },
    movedSeen: (draft): ViewState => ({ ...plain<ViewState>(draft), moved: null }),
    waysOutFound: (state, { payload }: PayloadAction<readonly WayOut[]>): ViewState => ({
      ...plain<ViewState>(state),
      waysOut: payload,
    }),
    planFailed: (state, { payload }: PayloadAction<{ code: string; message: string }>): ViewState => ({
      ...initialState,
      proxies: plain<ViewState>(state).proxies,
      preparing: plain<ViewState>(state).preparing,
      listening: plain<ViewState>(state).listening,
      toast: plain<ViewState>(state).toast,
      isDraft: plain<ViewState>(state).isDraft,
      planProblem: payload,
    }),
    proxiesHeard(state, { payload }: PayloadAction<readonly ProxyState[]>): ViewState {
      const before = plain<ViewState>(state);
      const heard = Object.fromEntries(payload.map((proxy) => [proxy.sha256, proxy]));
      return JSON.stringify(heard) === JSON.stringify(before.proxies) ? before : { ...before, proxies: heard };
    },
    proxyHeard(state, { payload }: PayloadAction<ProxyState>): ViewState {
      const before = plain<ViewState>(state);
      return { ...before, proxies: { ...before.proxies, [payload.sha256]: payload } };
    },
    preparingHeard(state, { payload }: PayloadAction<Preparing>): ViewState {
      const before = plain<ViewState>(state);
      const others = Object.entries(before.preparing).filter(([sha256]) => sha256 !== payload.sha256);
      const own: [string, Preparing][] = payload.isDone ? [] : [[payload.sha256, payload]];
      return { ...before, preparing: Object.fromEntries([...others, ...own]) };
    },
    toastShown: (state, { payload }: PayloadAction<string | null>): ViewState => ({
      ...plain<ViewState>(state),
      toast: payload === null ? null : { text: payload, number: (plain<ViewState>(state).toast?.number ?? 0) + 1 },
    }),
    listeningChanged: (state, { payload }: PayloadAction<Partial<Listening>>): ViewState => ({
      ...plain<ViewState>(state),
      listening: { ...plain<ViewState>(state).listening, ...payload },
    }),
    draftToggled: (draft): ViewState => {
      const state = plain<ViewState>(draft);
      return { ...state, isDraft: !state.isDraft };
    },
    viewCleared: () => initialState,
  },
  // A loop is seconds of one song: it means nothing for another.
  extraReducers: (builder) =>
    builder.addCase(songActions.songChosen, (draft): ViewState => {
      const state = plain<ViewState>(draft);
      return { ...state, listening: { ...state.listening, loop: null } };
    }),
});

export const viewReducer = slice.reducer;
export const viewActions = slice.actions;
