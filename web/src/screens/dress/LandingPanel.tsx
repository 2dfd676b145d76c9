import type { ShowDocument, TransitionLanding } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { edit } from "../../store/edit.ts";
import { Choice } from "../../ui/Choice.tsx";
import { Panel } from "../../ui/Panel.tsx";

const POINTS = [
  { value: "start", label: "Start", hint: "Its first frame" },
  { value: "middle", label: "Middle", hint: "The frame that shows half of each picture" },
  { value: "end", label: "End", hint: "The first frame of the new picture alone" },
] as const;
const LEADS = ["0", "1", "2", "3"].map((value) => ({ value, label: value }));

function landingWords({ point, leadFrames }: TransitionLanding): string {
  const what = {
    start: "The first frame of each transition",
    middle: "The middle of each transition, half of either picture,",
    end: "The first frame behind each transition, the new picture alone,",
  }[point];
  if (leadFrames === 0) return `${what} lands on the beat; of a cut, the new picture's first frame.`;
  return `${what} comes ${leadFrames === 1 ? "a frame" : `${leadFrames} frames`} before the beat; of a cut, the new picture's first frame.`;
}

/** How all changes of picture of a show meet their landings. */
export function LandingPanel({ show, shortened }: { show: ShowDocument; shortened: number }): ReactNode {
  const { transitionLanding } = show;
  const set = (change: Partial<TransitionLanding>): void =>
    edit((document) => ({ ...document, transitionLanding: { ...document.transitionLanding, ...change } }));
  return (
    <Panel title="On the beat">
      <h3 className="mb-1 font-sans text-[13px] text-quiet">Point that lands on the beat</h3>
      <Choice
        label="Point that lands on the beat"
        value={transitionLanding.point}
        options={POINTS}
        onChange={(point) => set({ point })}
      />
      <h3 className="mt-3 mb-1 font-sans text-[13px] text-quiet">Frames ahead of the beat</h3>
      <Choice
        label="Frames ahead of the beat"
        value={String(transitionLanding.leadFrames)}
        options={LEADS}
        onChange={(lead) => set({ leadFrames: Number(lead) })}
      />
      <p className="mt-3 text-[13px] text-soft">{landingWords(transitionLanding)}</p>
      {shortened > 0 && (
        <p className="mt-2 text-[13px] text-warning">
          {shortened === 1 ? "One transition is" : `${shortened} transitions are`} shorter than asked, so that never
          three pictures are seen at once.
        </p>
      )}
    </Panel>
  );
}
