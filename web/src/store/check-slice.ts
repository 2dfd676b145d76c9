import type { CheckRun } from "@humming-tide/contract";
import { type Finding, type Severity, sortedFindings } from "@humming-tide/core/check";
import { createSlice, current, type PayloadAction } from "@reduxjs/toolkit";

/** What was found about the open show. */
interface CheckState {
  /** From its plan, a moment after every edit. */
  readonly live: readonly Finding[];
  /** The last thorough check, of the saved show of its revision. */
  readonly run: CheckRun | null;
  /** Of both: what is to be shown, the gravest first. */
  readonly findings: readonly Finding[];
  /** The gravest of each slot. */
  readonly bySlot: Readonly<Record<number, Severity>>;
}

const none: CheckState = { live: [], run: null, findings: [], bySlot: {} };

/** Only a thorough check finds these. All other findings are worked out again after each edit. */
const THOROUGH: ReadonlySet<Finding["kind"]> = new Set([
  "bars",
  "flashes",
  "media-missing",
  "media-changed",
  "loudness",
  "true-peak",
]);

function withFindings(live: readonly Finding[], run: CheckRun | null): CheckState {
  const thorough = (run?.findings ?? []).filter(({ kind }) => THOROUGH.has(kind));
  const findings = sortedFindings([...thorough, ...live]);
  const bySlot: Record<number, Severity> = {};
  for (const { place, severity } of findings) if (place.slotIndex !== null) bySlot[place.slotIndex] ??= severity;
  return { live, run, findings, bySlot };
}

const slice = createSlice({
  name: "check",
  initialState: none,
  reducers: {
    found: (state, { payload }: PayloadAction<readonly Finding[]>): CheckState =>
      withFindings(payload, current(state).run),
    ran: (state, { payload }: PayloadAction<CheckRun>): CheckState => {
      const { live, run } = current(state);
      // While another run is under way, what the last one found stays in sight.
      const known = payload.state === "done" ? payload.findings : (run?.findings ?? []);
      return withFindings(live, { ...payload, findings: [...known], facts: payload.facts ?? run?.facts ?? null });
    },
    cleared: () => none,
  },
});

export const checkReducer = slice.reducer;
export const checkActions = slice.actions;
