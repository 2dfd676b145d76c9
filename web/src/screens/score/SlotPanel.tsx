import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { lockLanding } from "@humming-tide/core/show";
import { frameStart, frames, timecode } from "@humming-tide/core/time";
import { Lock, LockOpen } from "lucide-react";
import type { ReactNode } from "react";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Fact, Panel } from "../../ui/Panel.tsx";

/** The selected slide: its slot, its landing and the error, and in words why it lies there. */
export function SlotPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.show.document)!;
  const selected = useAppSelector((state) => state.view.selectedSlot);
  const slot = selected === null ? undefined : plan.slots[selected];
  if (!slot) {
    return (
      <Panel title="Slide">
        <p className="text-[13px] text-soft">
          Select a picture in the rows, or drag the drop between two of them to another beat.
        </p>
      </Panel>
    );
  }
  const length = slot.endFrame - slot.startFrame;
  return (
    <Panel title={`Slide ${slot.slideIndex + 1} of ${document.slides.length}`}>
      <dl>
        <Fact label="Picture">
          <span className="line-clamp-2 break-all" title={slot.fileName}>
            {slot.fileName}
          </span>
        </Fact>
        <Fact label="Slot">
          {beatsIn(plan, slot)}
          {frameStart(frames(length), plan.rate).toFixed(2)} s, {length} frames
        </Fact>
        <Fact label="Begins at">{timecode(frames(slot.startFrame), plan.rate)}</Fact>
        <Fact label="Lands on">{landingText(slot)}</Fact>
        {slot.landingErrorMs !== null && (
          <Fact label="Off by">
            {signed(slot.landingErrorMs)} ms, {signed((slot.landingErrorMs * plan.rate.num) / (1000 * plan.rate.den))}{" "}
            frames
          </Fact>
        )}
      </dl>
      {slot.landing && slot.round === 0 && (
        <Button
          className="mt-2"
          onClick={() =>
            dispatch(
              showActions.edited(lockLanding(document, slot.slideId, slot.locked ? null : slot.landing!.seconds)),
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

function beatsIn(plan: FilmPlan, slot: FilmSlot): string {
  const end = plan.slots[slot.index + 1]?.landing;
  if (slot.landing?.kind === "even" || !slot.landing || !end) return "";
  const beats = end.beatIndex - slot.landing.beatIndex;
  return `${beats} ${beats === 1 ? "beat" : "beats"}, `;
}

function landingText(slot: FilmSlot): string {
  if (!slot.landing) return "the beginning of the film";
  const place =
    slot.landing.kind === "bar" ? "a bar start" : slot.landing.kind === "beat" ? "a beat" : "an even half second";
  return `${place} at ${slot.landing.seconds.toFixed(3)} s${slot.locked ? ", locked by you" : ""}`;
}

const signed = (value: number): string => `${value > 0 ? "+" : ""}${value.toFixed(Math.abs(value) < 10 ? 2 : 1)}`;
