import type { ClipFacts, PictureFacts } from "@humming-tide/contract";
import type { SoundKind } from "@humming-tide/core/sound";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

/** A sound that came in and of which a person has to say what it is for. */
export interface WaitingSound {
  /** Of the file in the list of what came in. */
  readonly id: string;
  readonly sha256: string;
  readonly fileName: string;
  readonly durationSeconds: number;
  readonly kind: SoundKind;
}

/** What is known of a retouched file. */
type RetouchedFacts = PictureFacts | ClipFacts;

export interface IntakeItem {
  readonly id: string;
  readonly path: string;
  readonly bytes: number;
  /** "asks": it is in the data folder, and a person says what it is for. */
  readonly state: "waiting" | "sending" | "in" | "asks" | "already-there" | "refused";
  /** 0 to 1 of the sending. */
  readonly sent: number;
  readonly message: string | null;
}

type Phase =
  /** Nothing is on its way. */
  | "idle"
  | "announcing"
  | "running"
  /** By the person; what waits can go on. */
  | "stopped"
  /** The server does not answer; the intake goes on when it does. */
  | "server-away"
  /** Something that must be put right first, said in `problem`; what waits can go on. */
  | "blocked";

interface IntakeState {
  readonly phase: Phase;
  readonly problem: string | null;
  readonly rows: Readonly<Record<string, IntakeItem>>;
  /** Ids in the order given. */
  readonly order: readonly string[];
  /** Milliseconds of running before the present run, and when that began. */
  readonly ranMs: number;
  readonly runningSince: number | null;
  /** Weight of what was done without sending: already in before. */
  readonly skippedWeight: number;
  /** Files of an earlier time, before this page was loaded, that were announced and never came. */
  readonly leftFromBefore: number;
  /** In the order in which they were given. */
  readonly sounds: readonly WaitingSound[];
  /** Retouched files that are in, and wait for a person to see which slides they belong to. */
  readonly retouched: readonly RetouchedFacts[];
}

const none: IntakeState = {
  phase: "idle",
  problem: null,
  rows: {},
  order: [],
  ranMs: 0,
  runningSince: null,
  skippedWeight: 0,
  leftFromBefore: 0,
  sounds: [],
  retouched: [],
};

/** A file costs something however small it is: a moment of decoding weighs like so many bytes. */
const weightOf = (row: IntakeItem): number => row.bytes + 200_000;

const slice = createSlice({
  name: "intake",
  initialState: none,
  reducers: {
    filesGiven(state, { payload }: PayloadAction<readonly IntakeItem[]>) {
      for (const row of payload) {
        if (!state.rows[row.id]) state.order.push(row.id);
        state.rows[row.id] = row;
        if (row.state !== "waiting") state.skippedWeight += weightOf(row);
      }
      state.leftFromBefore = 0;
    },
    rowsChanged(state, { payload }: PayloadAction<readonly (Partial<IntakeItem> & { id: string })[]>) {
      for (const change of payload) {
        const row = state.rows[change.id];
        if (row) Object.assign(row, change);
      }
    },
    phaseChanged(state, { payload }: PayloadAction<{ phase: Phase; problem?: string | null; now: number }>) {
      const { phase, problem = null, now } = payload;
      if (state.runningSince !== null) state.ranMs += now - state.runningSince;
      state.phase = phase;
      state.problem = problem;
      state.runningSince = phase === "running" ? now : null;
    },
    leftFromBeforeFound(state, { payload }: PayloadAction<number>) {
      state.leftFromBefore = payload;
    },
    soundsAsked(state, { payload }: PayloadAction<readonly WaitingSound[]>) {
      const known = new Set(state.sounds.map(({ sha256 }) => sha256));
      state.sounds.push(...payload.filter(({ sha256 }) => !known.has(sha256)));
    },
    soundDecided(state, { payload: { id, message } }: PayloadAction<{ id: string; message: string | null }>) {
      state.sounds = state.sounds.filter((sound) => sound.id !== id);
      const row = state.rows[id];
      if (row) Object.assign(row, { state: "in", message } satisfies Partial<IntakeItem>);
    },
    retouchedArrived(state, { payload }: PayloadAction<readonly RetouchedFacts[]>) {
      state.retouched.push(...payload);
    },
    retouchedDecided(state) {
      state.retouched = [];
    },
    /** The list goes; what a person has not said yet is still asked. */
    cleared: ({ sounds, retouched }) => ({ ...none, sounds, retouched }),
    left: () => none,
  },
});

export const intakeReducer = slice.reducer;
export const intakeActions = slice.actions;

export interface IntakeSummary {
  readonly total: number;
  readonly waiting: number;
  readonly sending: number;
  readonly in: number;
  readonly alreadyThere: number;
  readonly refused: number;
  /** 0 to 1 of all bytes. */
  readonly share: number;
  /** Null until enough has come in to tell. */
  readonly secondsLeft: number | null;
}

/** Enough to judge the speed by. */
const TELLING_MS = 1500;

/** Where the bringing-in stands at a moment in milliseconds. */
export function summaryOf(state: IntakeState, now: number): IntakeSummary {
  const rows = Object.values(state.rows);
  const count = (kind: IntakeItem["state"]): number => rows.reduce((sum, row) => sum + (row.state === kind ? 1 : 0), 0);
  const all = rows.reduce((sum, row) => sum + weightOf(row), 0);
  const left = rows.reduce((sum, row) => {
    if (row.state === "waiting") return sum + weightOf(row);
    return row.state === "sending" ? sum + weightOf(row) * (1 - 0.7 * row.sent) : sum;
  }, 0);
  const ran = state.ranMs + (state.runningSince === null ? 0 : now - state.runningSince);
  const done = all - left - state.skippedWeight;
  const secondsLeft = state.phase === "running" && ran > TELLING_MS && done > 0 ? (ran / 1000 / done) * left : null;
  return {
    total: rows.length,
    waiting: count("waiting"),
    sending: count("sending"),
    in: count("in") + count("asks"),
    alreadyThere: count("already-there"),
    refused: count("refused"),
    share: all > 0 ? 1 - left / all : 0,
    secondsLeft,
  };
}
