import type { FilmPlan } from "@humming-tide/core/film";
import { type PaceUnits, paceUnits } from "@humming-tide/core/fit";
import { changePassage, changeStyle, type Passage } from "@humming-tide/core/show";
import { type ReactNode, useMemo } from "react";
import { usePlayer } from "../../../stage/player-context.tsx";
import { edit } from "../../../store/edit.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import { showActions } from "../../../store/show-slice.ts";
import { useAppDispatch } from "../../../store/store.ts";
import { TransitionSelect } from "../../../style/TransitionSelect.tsx";
import { Panel } from "../../../ui/Panel.tsx";
import { PaceField } from "./PaceField.tsx";
import { PassageStart } from "./PassageStart.tsx";

/**
 * How long slides stand and how they follow one another, in the whole show and in each passage, and
 * with which section a passage begins.
 */
export function PassagesPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const dispatch = useAppDispatch();
  const document = useOpenShow();
  const { grid, phrases } = plan.music;
  const units = useMemo(() => paceUnits({ ...grid, phrases }), [grid, phrases]);
  return (
    <Panel title="Pace and transitions">
      <PaceField
        label="Pace of the show"
        pace={document.pace}
        units={units}
        onChange={(pace) => pace && dispatch(showActions.edited({ ...document, pace }, "pace"))}
      />
      {document.passages.length > 1 && (
        <ul className="mt-3 flex flex-col gap-3" aria-label="Passages">
          {document.passages.map((passage, index) => (
            <PassageLine key={passage.id} passage={passage} number={index + 1} plan={plan} units={units} />
          ))}
        </ul>
      )}
    </Panel>
  );
}

interface PassageLineProps {
  passage: Passage;
  number: number;
  plan: FilmPlan;
  units: PaceUnits;
}

function PassageLine({ passage, number, plan, units }: PassageLineProps): ReactNode {
  const dispatch = useAppDispatch();
  const player = usePlayer();
  const document = useOpenShow();
  const name = passage.name || `Passage ${number}`;
  const ids = new Set(document.slides.filter(({ passageId }) => passageId === passage.id).map(({ id }) => id));
  const first = plan.slots.find((slot) => slot.round === 0 && ids.has(slot.slideId));
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_176px] items-center gap-2 text-[13px]">
      <button
        type="button"
        className="truncate text-left text-soft hover:text-ink"
        title={`${name}: go to its first slide`}
        disabled={!first}
        onClick={() => first && player.seek((first.startFrame * plan.rate.den) / plan.rate.num)}
      >
        {name}
      </button>
      <PaceField
        label={`Pace of ${name}`}
        pace={passage.pace}
        units={units}
        mayFollow
        onChange={(pace) => dispatch(showActions.edited(changePassage(document, passage.id, { pace }), "pace"))}
      />
      <TransitionSelect
        label={`Transition of ${name}`}
        transition={passage.style.transition}
        className="col-start-2 row-start-2"
        onChange={(transition) =>
          edit((show) => changeStyle(show, { kind: "passage", passageId: passage.id }, { transition }))
        }
      />
      {first?.landing && <PassageStart passage={passage} name={name} plan={plan} />}
    </li>
  );
}
