import { type FilmPlan, type FilmSlot, gapOffers, takeGapOffer } from "@humming-tide/core/film";
import { landingText, unmetWishText } from "@humming-tide/core/fit";
import { counted } from "@humming-tide/core/language";
import { present } from "@humming-tide/core/presence";
import { changeSlides, type Slide } from "@humming-tide/core/show";
import { frameStart, timecode } from "@humming-tide/core/time";
import { Lock, LockOpen } from "lucide-react";
import type { ReactNode } from "react";
import { CardMenu } from "../../../cards/CardMenu.tsx";
import { ReplaceButton } from "../../../replace/ReplaceButton.tsx";
import { edit } from "../../../store/edit.ts";
import { lockedAt } from "../../../store/locks.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import { currentSlot, selectionActions } from "../../../store/selection-slice.ts";
import { showActions } from "../../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { Term } from "../../../terms/Term.tsx";
import { Button, IconButton } from "../../../ui/Button.tsx";
import { Fact, Panel } from "../../../ui/Panel.tsx";
import { ClipSoundFields } from "../sound/ClipSoundFields.tsx";
import { ClipFields } from "./ClipFields.tsx";
import { SlotComments } from "./SlotComments.tsx";
import { SlotFindings } from "./SlotFindings.tsx";

/** The selected slide: its slot, its landing and the error, and in words why it lies there. */
export function SlotPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const dispatch = useAppDispatch();
  const document = useOpenShow();
  const selection = useAppSelector((state) => state.selection);
  const slot = currentSlot(plan, selection);
  if (!slot) {
    return (
      <Panel title="Slide">
        <p className="text-[13px] text-soft">
          Select a picture in the rows, or drag the drop between two of them to another beat. Shift and Ctrl select more
          than one.
        </p>
      </Panel>
    );
  }
  const length = slot.endFrame - slot.startFrame;
  const slide = document.slides[slot.slideIndex];
  return (
    <Panel title={`Slide ${slot.slideIndex + 1} of ${document.slides.length}`}>
      <SlotFacts slot={slot} plan={plan} length={length} />
      <p className="mt-1 text-[13px] text-soft" data-testid="why">
        {whyText(plan, slot, frameStart(length, plan.rate))}
      </p>
      <GapOffers plan={plan} slot={slot} />
      <SlotFindings slotIndex={slot.index} />
      <SlotComments slideId={slot.slideId} />
      {slide && <OwnLength slide={slide} shownSeconds={frameStart(length, plan.rate)} />}
      {slide && (
        <div className="-mx-3 flex items-center justify-between">
          <ReplaceButton slide={slide} />
          <CardMenu
            slide={slide}
            onAdded={(slideId) => dispatch(selectionActions.picked({ slideId, round: 0 }))}
            className="ml-auto"
          />
        </div>
      )}
      {slide && <ClipFields slide={slide} />}
      {slide && <ClipSoundFields slides={[slide]} />}
      {slot.landing && slot.round === 0 && (
        <Button
          className="mt-2"
          onClick={() =>
            dispatch(
              showActions.edited(lockedAt(document, slot.slideId, slot.locked ? null : present(slot.landing).seconds)),
            )
          }
        >
          {slot.locked ? <LockOpen size={14} /> : <Lock size={14} className="text-heather" />}
          {slot.locked ? "Set free" : "Lock here"}
        </Button>
      )}
    </Panel>
  );
}

interface SlotFactsProps {
  slot: FilmSlot;
  plan: FilmPlan;
  length: number;
}

/** Its picture, its slot, and where it lands. */
function SlotFacts({ slot, plan, length }: SlotFactsProps): ReactNode {
  return (
    <dl>
      <Fact label="Picture">
        <span className="line-clamp-2 break-all" title={slot.name}>
          {slot.name}
        </span>
      </Fact>
      <Fact label={<Term name="slot">Slot</Term>}>
        {beatsIn(plan, slot)}
        {frameStart(length, plan.rate).toFixed(2)} s, {counted(length, "frame")}
      </Fact>
      <Fact label="Begins at">{timecode(slot.startFrame, plan.rate)}</Fact>
      <Fact label={<Term name="landing">Lands on</Term>}>{whereItLands(slot)}</Fact>
      {slot.landingErrorMs !== null && (
        <Fact label="Off by">
          {signed(slot.landingErrorMs)} ms, {signed((slot.landingErrorMs * plan.rate.num) / (1000 * plan.rate.den))}{" "}
          frames
        </Fact>
      )}
    </dl>
  );
}

/** What can be done about a slot that is much too long or too short. */
function GapOffers({ plan, slot }: { plan: FilmPlan; slot: FilmSlot }): ReactNode {
  const show = useOpenShow();
  // The plan may be a moment behind the document: what is no longer there is offered nothing.
  const offers = show.slides[slot.slideIndex]?.id === slot.slideId ? gapOffers(show, plan, slot) : [];
  if (offers.length === 0) return null;
  return (
    <div className="mt-2 flex flex-col gap-1.5" role="group" aria-label="How to fix it">
      {offers.map(({ kind, text }) => (
        <Button
          key={kind}
          className="justify-start text-left"
          onClick={() => edit((document) => takeGapOffer(document, plan, slot, kind))}
        >
          {text}
        </Button>
      ))}
    </div>
  );
}

/** A wish or a lock for how long the slide stands, and whether it may be left out. */
function OwnLength({ slide, shownSeconds }: { slide: Slide; shownSeconds: number }): ReactNode {
  const dispatch = useAppDispatch();
  const document = useOpenShow();
  const change = (wish: Parameters<typeof changeSlides>[2], tag: string | null = null): void =>
    void dispatch(showActions.edited(changeSlides(document, new Set([slide.id]), wish), tag));
  const { length } = slide;
  return (
    <div className="mt-2 flex flex-col gap-2 text-[13px] text-soft">
      <div className="flex items-center gap-2">
        <span className="flex-1 text-quiet">Length</span>
        {length ? (
          <>
            <input
              type="number"
              aria-label="Length in seconds"
              min={0.04}
              max={3600}
              step={0.1}
              value={length.seconds}
              className="w-20 rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-right text-ink"
              onChange={(event) => {
                const seconds = event.target.valueAsNumber;
                if (seconds >= 0.04 && seconds <= 3600) change({ length: { ...length, seconds } }, "length");
              }}
            />
            s
            <IconButton
              label={length.locked ? "Only wish for this length" : "Lock this length"}
              aria-pressed={length.locked}
              onClick={() => change({ length: { ...length, locked: !length.locked } })}
            >
              {length.locked ? <Lock size={14} className="text-heather" /> : <LockOpen size={14} />}
            </IconButton>
            <Button kind="quiet" onClick={() => change({ length: null })}>
              Back to the pace
            </Button>
          </>
        ) : (
          <Button
            kind="quiet"
            onClick={() => change({ length: { seconds: Math.round(shownSeconds * 10) / 10, locked: false } })}
          >
            Set a length …
          </Button>
        )}
      </div>
      <label className="flex items-center justify-between gap-3 text-quiet">
        Always keep
        <input
          type="checkbox"
          checked={slide.stays}
          className="size-4 accent-[var(--heather)]"
          onChange={(event) => change({ stays: event.target.checked })}
        />
      </label>
    </div>
  );
}

function beatsIn(plan: FilmPlan, slot: FilmSlot): string {
  const from = slot.landing?.beatIndex ?? null;
  const to = plan.slots[slot.index + 1]?.landing?.beatIndex ?? null;
  if (from === null || to === null) return "";
  return `${counted(to - from, "beat")}, `;
}

function whereItLands(slot: FilmSlot): string {
  if (!slot.landing) return "the beginning of the film";
  const locked = slot.locked && slot.landing.kind !== "free" ? ", locked by you" : "";
  return `${landingText(slot.landing)} at ${slot.landing.seconds.toFixed(3)} s${locked}`;
}

/** In words why the slot is as long as it is. */
function whyText(plan: FilmPlan, slot: FilmSlot, seconds: number): string {
  const unmet = plan.unmetWishes.filter((wish) => wish.slot === slot.index).map(unmetWishText);
  if (unmet.length > 0) return unmet.join(" ");
  const off = Math.abs(seconds - slot.wishedSeconds);
  if (off < 0.06) return `Wished ${slot.wishedSeconds.toFixed(1)} s, and has them.`;
  return `Wished ${slot.wishedSeconds.toFixed(1)} s; ${seconds.toFixed(1)} s bring it from one good landing to the next.`;
}

const signed = (value: number): string => `${value > 0 ? "+" : ""}${value.toFixed(Math.abs(value) < 10 ? 2 : 1)}`;
