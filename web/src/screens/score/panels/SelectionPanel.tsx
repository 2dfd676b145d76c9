import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { counted } from "@humming-tide/core/language";
import { itemAt, present } from "@humming-tide/core/presence";
import { changeSlides, gatherPassage } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { edit } from "../../../store/edit.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import { selectionActions } from "../../../store/selection-slice.ts";
import { allHeroes, beginPassageAt, rate, takeOut, toggleHero } from "../../../store/slide-actions.ts";
import { useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { LineField } from "../../../ui/Field.tsx";
import { Panel } from "../../../ui/Panel.tsx";
import { ClipSoundFields } from "../sound/ClipSoundFields.tsx";
import { fitAgain, toggleLocks } from "../use-score-keys.ts";

/** What can be done with several pictures at once. Every button says how many it will change. */
export function SelectionPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const dispatch = useAppDispatch();
  const ids = useAppSelector((state) => state.selection.ids);
  const show = useOpenShow();
  const count = ids.size;
  const shown = plan.slots.filter((slot) => slot.round === 0 && ids.has(slot.slideId));
  const seconds =
    shown.reduce((sum, slot) => sum + slot.endFrame - slot.startFrame, 0) * (plan.rate.den / plan.rate.num);
  const landed = shown.filter((slot) => slot.landing);
  const isLocked = landed.length > 0 && landed.every((slot) => slot.locked);
  const lengths = new Set(show.slides.filter(({ id }) => ids.has(id)).map((slide) => slide.length?.seconds ?? null));
  const common = lengths.size === 1 ? itemAt([...lengths], 0) : null;
  return (
    <Panel
      title={`${counted(count, "picture")} selected`}
      aside={
        <Button kind="quiet" className="-my-1" onClick={() => dispatch(selectionActions.cleared())}>
          Clear
        </Button>
      }
    >
      <p className="mb-2 text-[13px] text-soft" data-testid="selection-facts">
        {shown.length} of them in the film, {seconds.toFixed(1)} s together.
      </p>
      <SelectionActions count={count} landed={landed} isLocked={isLocked} />
      <div className="mt-3 flex flex-col gap-1">
        <LineField
          label={`Set a length for ${count}, in seconds`}
          type="number"
          min={0.04}
          max={3600}
          step={0.1}
          className="w-28"
          value={common ?? ""}
          placeholder={lengths.size > 1 ? "differ" : "as the pace"}
          onChange={(event) => {
            const wished = event.target.valueAsNumber;
            if (wished >= 0.04 && wished <= 3600)
              edit((document) => changeSlides(document, ids, { length: { seconds: wished, locked: false } }), "length");
          }}
        />
        {(common !== null || lengths.size > 1) && (
          <Button
            kind="quiet"
            className="self-end"
            onClick={() => edit((document) => changeSlides(document, ids, { length: null }))}
          >
            Back to the pace
          </Button>
        )}
      </div>
      <ClipSoundFields slides={show.slides.filter(({ id }) => ids.has(id))} />
    </Panel>
  );
}

interface SelectionActionsProps {
  count: number;
  landed: readonly FilmSlot[];
  isLocked: boolean;
}

/** What can be done with them; each button says with how many. */
function SelectionActions({ count, landed, isLocked }: SelectionActionsProps): ReactNode {
  const ids = useAppSelector((state) => state.selection.ids);
  const show = useOpenShow();
  return (
    <div role="toolbar" aria-label={`Change ${count} selected`} className="flex flex-wrap gap-1.5">
      <Button onClick={() => rate(ids, "keep")}>Keep {count}</Button>
      <Button onClick={() => rate(ids, "maybe")}>Maybe {count}</Button>
      <Button onClick={() => rate(ids, "out")}>Leave out {count}</Button>
      <Button onClick={() => toggleHero(ids)}>{allHeroes(show, ids) ? `No hero: ${count}` : `Hero ${count}`}</Button>
      <Button disabled={landed.length === 0} onClick={() => toggleLocks(ids)}>
        {isLocked ? `Set ${landed.length} free` : `Lock ${landed.length} here`}
      </Button>
      <Button onClick={fitAgain}>Fit {count} again</Button>
      <Button onClick={() => edit((document) => gatherPassage(document, ids, ""))}>Passage of their own</Button>
      <Button onClick={() => beginPassageAt(present(show.slides.find(({ id }) => ids.has(id))).id)}>
        Begin a passage at the first
      </Button>
      <Button kind="quiet" onClick={() => takeOut(ids)}>
        Take {count} out of the show
      </Button>
    </div>
  );
}
