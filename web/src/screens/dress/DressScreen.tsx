import type { Fill, TransitionLanding, TransitionWish } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { Stage } from "../../stage/Stage.tsx";
import { Transport } from "../../stage/Transport.tsx";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Choice } from "../../ui/Choice.tsx";
import { DISSOLVE_SECONDS } from "../../ui/dissolve-lengths.ts";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Panel } from "../../ui/Panel.tsx";

const COLOURS = [
  { value: "blur", label: "Blurred copy" },
  { value: "#0d1f26", label: "Deep" },
  { value: "#000000", label: "Black" },
  { value: "#f3e9d4", label: "Sand" },
] as const;

const POINTS = [
  { value: "start", label: "Start", hint: "Its first frame" },
  { value: "middle", label: "Middle", hint: "The frame that shows half of each picture" },
  { value: "end", label: "End", hint: "The first frame of the new picture alone" },
] as const;
const LEADS = ["0", "1", "2", "3"].map((value) => ({ value, label: value }));

function landingWords(transition: TransitionWish, { point, leadFrames }: TransitionLanding): string {
  const what =
    transition.kind === "cut"
      ? "The new picture's first frame"
      : {
          start: "The first frame of each dissolve",
          middle: "The middle of each dissolve, half of either picture,",
          end: "The first frame behind each dissolve, the new picture alone,",
        }[point];
  if (leadFrames === 0) return `${what} lands on the beat.`;
  return `${what} comes ${leadFrames === 1 ? "a frame" : `${leadFrames} frames`} before the beat.`;
}

/** How pictures follow one another and what stands beside them, with the film at full width to judge it by. */
export function DressScreen(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  const problem = useAppSelector((state) => state.view.planProblem);
  const document = useAppSelector((state) => state.show.document)!;
  const dispatch = useAppDispatch();
  const setTransition = (transition: TransitionWish): void =>
    void dispatch(showActions.edited({ ...document, transition }));
  const setFill = (fill: Fill): void => void dispatch(showActions.edited({ ...document, fill }));
  if (!plan) {
    return (
      <EmptyState
        title="No film to dress yet"
        action={
          <Link className="underline" to="../gather">
            To Gather
          </Link>
        }
      >
        {problem?.message ?? "Laying the slides …"}
      </EmptyState>
    );
  }
  const { transition, transitionLanding, fill } = document;
  const setLanding = (landing: TransitionLanding): void =>
    void dispatch(showActions.edited({ ...document, transitionLanding: landing }));
  // Slides of passages with a transition of their own do not follow the show's.
  const own = new Set(document.passages.filter((passage) => passage.transition).map(({ id }) => id));
  const following = new Set(document.slides.filter(({ passageId }) => !own.has(passageId)).map(({ id }) => id));
  const shortened = plan.slots.filter(
    (slot) =>
      slot.index > 0 &&
      following.has(slot.slideId) &&
      transition.kind === "dissolve" &&
      isShortened(slot.transitionIn, transition.seconds, plan.rate.num / plan.rate.den),
  ).length;
  return (
    <div className="flex h-full min-h-0">
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="min-h-0 flex-1">
          <Stage plan={plan} />
        </div>
        <Transport track={plan} />
      </div>
      <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <Panel title="Transition">
          <div className="-ml-2.5">
            <Choice
              label="Kind of transition"
              value={transition.kind}
              options={[
                { value: "cut", label: "Cut" },
                { value: "dissolve", label: "Dissolve" },
              ]}
              onChange={(kind) => setTransition(kind === "cut" ? { kind } : { kind, seconds: 0.8 })}
            />
          </div>
          {transition.kind === "dissolve" && (
            <>
              <h3 className="mt-3 mb-1 font-sans text-[13px] text-quiet">Length</h3>
              <div className="-ml-2.5">
                <Choice
                  label="Length of the dissolve"
                  value={String(transition.seconds)}
                  options={DISSOLVE_SECONDS.map((seconds) => ({ value: String(seconds), label: `${seconds} s` }))}
                  onChange={(seconds) => setTransition({ kind: "dissolve", seconds: Number(seconds) })}
                />
              </div>
            </>
          )}
          {(transition.kind === "dissolve" || own.size > 0) && (
            <>
              <h3 className="mt-3 mb-1 font-sans text-[13px] text-quiet">What of it lands on the beat</h3>
              <div className="-ml-2.5">
                <Choice
                  label="What lands on the beat"
                  value={transitionLanding.point}
                  options={POINTS}
                  onChange={(point) => setLanding({ ...transitionLanding, point })}
                />
              </div>
            </>
          )}
          <h3 className="mt-3 mb-1 font-sans text-[13px] text-quiet">Frames ahead of the beat</h3>
          <div className="-ml-2.5">
            <Choice
              label="Frames ahead of the beat"
              value={String(transitionLanding.leadFrames)}
              options={LEADS}
              onChange={(lead) => setLanding({ ...transitionLanding, leadFrames: Number(lead) })}
            />
          </div>
          <p className="mt-3 text-[13px] text-soft">{landingWords(transition, transitionLanding)}</p>
          {own.size > 0 && (
            <p className="mt-2 text-[13px] text-soft">
              {own.size === 1 ? "One passage has" : `${own.size} passages have`} a transition of their own, chosen in
              Gather or on the Score.
            </p>
          )}
          {shortened > 0 && (
            <p className="mt-2 text-[13px] text-warning">
              {shortened} of {plan.slots.length - 1} are shorter than asked, so that never three pictures are seen at
              once.
            </p>
          )}
        </Panel>
        <Panel title="Beside a picture">
          <p className="mb-2 text-[13px] text-soft">
            Pictures that would lose more than a sixth of their height or width are shown whole.
          </p>
          <div className="-ml-2.5">
            <Choice
              label="What stands beside a picture"
              value={fill.kind === "blur" ? "blur" : fill.colour}
              options={COLOURS}
              onChange={(value) => setFill(value === "blur" ? { kind: "blur" } : { kind: "colour", colour: value })}
            />
          </div>
        </Panel>
      </aside>
    </div>
  );
}

const isShortened = (transition: { startFrame: number; endFrame: number }, seconds: number, fps: number): boolean =>
  transition.endFrame - transition.startFrame < 2 * Math.floor((seconds * fps - 1) / 2) + 1;
