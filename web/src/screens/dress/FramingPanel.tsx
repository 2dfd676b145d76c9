import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { counted } from "@humming-tide/core/language";
import { areaOf, shapeOf, viewAround, viewIn } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import { changeSlides, type Fill, hasPicture, type ShowDocument, type Slide, setView } from "@humming-tide/core/show";
import type { View } from "@humming-tide/core/values";
import type { ReactNode } from "react";
import { edit } from "../../store/edit.ts";
import type { FillPart, StylePart } from "../../style/style-part.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { ColourField } from "../../ui/ColourField.tsx";
import { Slider } from "../../ui/Slider.tsx";
import { Tick } from "../../ui/Tick.tsx";
import { useHeads } from "./FoundHeads.tsx";
import { StylePanel } from "./StylePanel.tsx";
import { LEAST_ZOOM, MOST_ZOOM } from "./zoom-range.ts";

const FILLS = [
  {
    value: "auto",
    label: "Automatic",
    hint: "Wide films: a blurred copy. Upright films: full of picture, two above each other where a head would be cut",
  },
  { value: "blur", label: "Blurred copy", hint: "A soft, darker copy of the picture stands beside it" },
  { value: "colour", label: "Colour", hint: "A colour stands beside the picture" },
  {
    value: "neighbours",
    label: "Its neighbours",
    hint: "The pictures before and after it, side by side, where they have its shape",
  },
  { value: "picture", label: "A picture", hint: "One of the show's pictures stands beside it" },
  { value: "crop", label: "Crop to the subject", hint: "The picture covers the frame, unless that would cut a head" },
] as const;

/** The frame by hand: where it is held for setting, and how to leave that. */
export type HeldEnd = "start" | "end" | null;

interface FramingPanelProps {
  show: ShowDocument;
  plan: FilmPlan;
  slot: FilmSlot;
  part: FillPart;
  /** One slide is dressed, so its subject and its frames can be set. */
  single: boolean;
  held: HeldEnd;
  onHold: (end: HeldEnd) => void;
}

/** What stands beside pictures, what must stay in view, and the frame by hand. */
export function FramingPanel({ show, plan, slot, part, single, held, onHold }: FramingPanelProps): ReactNode {
  const slide = itemAt(show.slides, slot.slideIndex);
  return (
    <StylePanel title="Framing" part={part}>
      <p className="mb-2 text-[13px] text-soft">
        A picture covers the frame where its subject stays in view; else it is shown whole beside:
      </p>
      <FillField part={part} show={show} options={FILLS} slide={slide} />
      <div className="mt-2">
        <Tick
          label={`Only in ${shapeOf(plan.size)}: other shapes keep theirs`}
          checked={part.isForShape}
          onChange={part.setForShape}
        />
      </div>
      {single && <SubjectLine slide={slide} />}
      {single && slide.more.length === 0 && (
        <HandFrames plan={plan} slot={slot} slide={slide} held={held} onHold={onHold} />
      )}
    </StylePanel>
  );
}

/** What is behind the words of a card. */
export function GroundPanel({ show, part }: { show: ShowDocument; part: StylePart<Fill> }): ReactNode {
  return (
    <StylePanel title="Background of the card" part={part}>
      <FillField
        part={part}
        show={show}
        options={[
          { value: "colour", label: "Colour" },
          { value: "picture", label: "A picture" },
          { value: "blur", label: "Blurred neighbour", hint: "A soft copy of the picture that comes next" },
        ]}
      />
    </StylePanel>
  );
}

interface FillFieldProps {
  part: StylePart<Fill>;
  show: ShowDocument;
  options: readonly { value: Fill["kind"]; label: string; hint?: string }[];
  /** The picture that is chosen first, if it is one. */
  slide?: Slide;
}

function FillField({ part, show, options, slide }: FillFieldProps): ReactNode {
  const { value, set } = part;
  const pictures = show.slides.filter(hasPicture);
  const choose = (kind: Fill["kind"]): void => {
    if (kind === "colour") set({ kind, colour: "#0d1f26" });
    else if (kind === "picture") {
      const first = slide && hasPicture(slide) ? slide : pictures[0];
      if (first) set({ kind, sha256: first.sha256 });
    } else set({ kind });
  };
  return (
    <>
      <Choice label="What stands beside a picture" value={value.kind} options={options} onChange={choose} />
      {value.kind === "colour" && (
        <div className="mt-2">
          <ColourField
            label="Colour beside a picture"
            value={value.colour}
            onChange={(colour) => part.slide({ kind: "colour", colour })}
          />
        </div>
      )}
      {value.kind === "picture" && (
        <select
          aria-label="Picture that stands beside"
          value={value.sha256}
          className="mt-2 w-full min-w-0 rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-[13px] text-ink"
          onChange={(event) => set({ kind: "picture", sha256: event.target.value })}
        >
          {!pictures.some(({ sha256 }) => sha256 === value.sha256) && (
            <option value={value.sha256}>taken out of the show: a blurred copy stands in</option>
          )}
          {[...new Map(pictures.map(({ sha256, fileName }) => [sha256, fileName]))].map(([sha256, fileName]) => (
            <option key={sha256} value={sha256}>
              {fileName}
            </option>
          ))}
        </select>
      )}
    </>
  );
}

function SubjectLine({ slide }: { slide: Slide }): ReactNode {
  const heads = useHeads(slide).length;
  const found =
    heads > 0
      ? `${counted(heads, "head")} found${slide.views.length > 0 ? "" : ", kept whole"}; drag the ring to choose otherwise`
      : "Subject as it was found; drag its ring on the stage";
  return (
    <div className="mt-3 flex items-center justify-between gap-2 border-t border-line pt-2 text-[13px]">
      <span className="text-soft">
        {slide.subject
          ? `Subject set by hand: ${Math.round(100 * slide.subject.x)} % across, ${Math.round(100 * slide.subject.y)} % down`
          : found}
      </span>
      {slide.subject && (
        <Button
          kind="quiet"
          onClick={() => edit((document) => changeSlides(document, new Set([slide.id]), { subject: null }))}
        >
          As found
        </Button>
      )}
    </div>
  );
}

/**
 * The frame's start and end of one slide in the shape that the stage shows: dragged there, zoomed
 * here.
 */
function HandFrames({
  plan,
  slot,
  slide,
  held,
  onHold,
}: {
  plan: FilmPlan;
  slot: FilmSlot;
  slide: Slide;
  held: HeldEnd;
  onHold: (end: HeldEnd) => void;
}): ReactNode {
  const shape = shapeOf(plan.size);
  const own = slide.views.find((view) => view.shape === shape);
  const seen = (end: "start" | "end") =>
    own?.[end] ?? viewIn(slot.move[end], slot.pictureSize, areaOf(slot, plan.size));
  const set = (start: ReturnType<typeof seen>, end: ReturnType<typeof seen>): void =>
    edit((document) => setView(document, slide.id, shape, { start, end }), `view ${slide.id}`);
  /** A picture that others stand beside by rule fills the frame again. */
  const standAlone = (): void => {
    const covering = viewAround(slot.subject, 1, slot.pictureSize, plan.size);
    set(covering, covering);
  };
  return (
    <div className="mt-2 border-t border-line pt-2">
      <h3 className="mb-1 font-sans text-[13px] text-quiet">Frame by hand, in {shape}</h3>
      <Choice
        label="Frame by hand"
        value={held ?? "off"}
        options={[
          { value: "off", label: own ? "Play it" : "Automatic" },
          { value: "start", label: "Set its start" },
          { value: "end", label: "Set its end" },
        ]}
        onChange={(next) => {
          if (next !== "off" && slot.beside.length > 0) standAlone();
          onHold(next === "off" ? null : next);
        }}
      />
      {held && <ZoomField seen={seen} held={held} onChange={set} />}
      {(held || own) && (
        <div className="mt-2 flex flex-wrap gap-1">
          {held && (
            <Button kind="quiet" onClick={() => set(seen(held), seen(held))}>
              Stand still here
            </Button>
          )}
          {own && (
            <Button
              kind="quiet"
              onClick={() => {
                onHold(null);
                edit((document) => setView(document, slide.id, shape, null));
              }}
            >
              Back to automatic
            </Button>
          )}
        </div>
      )}
    </div>
  );
}

interface ZoomFieldProps {
  seen: (end: "end" | "start") => View;
  held: "end" | "start";
  onChange: (start: View, end: View) => void;
}

/** What to do on the stage, and the zoom of this end. */
function ZoomField({ seen, held, onChange }: ZoomFieldProps): ReactNode {
  return (
    <>
      <p className="my-2 text-[13px] text-soft">
        Drag the picture on the stage, or move it by arrow keys there. The wheel, two fingers, + and − make it larger
        and smaller. The other end stays.
      </p>
      <Slider
        label="Zoom"
        text={`${Math.round(100 * seen(held).zoom)} %`}
        value={seen(held).zoom}
        min={LEAST_ZOOM}
        max={MOST_ZOOM}
        step={0.01}
        onChange={(zoom) => {
          const next = { ...seen(held), zoom };
          onChange(held === "start" ? next : seen("start"), held === "end" ? next : seen("end"));
        }}
      />
    </>
  );
}
