import { counted } from "@humming-tide/core/language";
import {
  changeSlides,
  LAYOUT_KINDS,
  type Layout,
  type ShowDocument,
  type Slide,
  takeFromSlide,
} from "@humming-tide/core/show";
import { Undo2 } from "lucide-react";
import type { ReactNode } from "react";
import { edit } from "../../store/edit.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { PlaceField } from "../../ui/PlaceField.tsx";
import { ShareSlider } from "../../ui/ShareSlider.tsx";
import { Slider } from "../../ui/Slider.tsx";

const NAMES: Readonly<Record<Layout["kind"], string>> = {
  row: "Side by side",
  column: "One above the other",
  grid: "Grid",
  "large-left": "Large at the left",
  "large-top": "Large at the top",
  over: "Over the picture",
};

/**
 * Several pictures on one slide: how they stand, how they come in, and how one becomes a slide
 * again.
 */
export function LayoutPanel({ show, slide }: { show: ShowDocument; slide: Slide }): ReactNode {
  const { layout, more } = slide;
  const change = (next: Partial<Layout>, tag: string | null = null): void =>
    edit((document) => changeSlides(document, new Set([slide.id]), { layout: { ...layout, ...next } }), tag);
  return (
    <Panel title={`${counted(more.length + 1, "picture")} on this slide`}>
      <Choice
        label="Layout"
        value={layout.kind}
        options={LAYOUT_KINDS.map((kind) => ({ value: kind, label: NAMES[kind] }))}
        onChange={(kind) => change({ kind })}
      />
      <div className="mt-3">
        <Slider
          label="Gap between them"
          text={`${(100 * layout.gap).toFixed(1)} %`}
          value={layout.gap}
          min={0}
          max={0.08}
          step={0.002}
          onChange={(gap) => change({ gap }, `gap of ${slide.id}`)}
        />
      </div>
      {layout.kind === "over" && (
        <div className="mt-3 flex items-center gap-4">
          <PlaceField label="Place of the pictures" value={layout.place} onChange={(place) => change({ place })} />
          <div className="flex-1">
            <ShareSlider
              label="Size"
              value={layout.size}
              min={0.15}
              max={0.7}
              onChange={(size) => change({ size }, `inset size of ${slide.id}`)}
            />
          </div>
        </div>
      )}
      <label className="mt-2 flex items-center gap-2 text-[13px] text-soft">
        <input
          type="checkbox"
          checked={layout.onBeats}
          onChange={(event) => change({ onBeats: event.target.checked })}
        />
        Show them one after the other, on beats
      </label>
      <ul className="mt-2 border-t border-line pt-1">
        {more.map(({ fileName }, index) => (
          <li
            // biome-ignore lint/suspicious/noArrayIndexKey: the same picture may stand there twice
            key={index}
            className="flex items-center justify-between gap-2 text-[13px]"
          >
            <bdi className="min-w-0 truncate text-soft">{fileName}</bdi>
            <Button
              kind="quiet"
              className="-mr-3 shrink-0"
              title="Makes it a slide of its own again, behind this one"
              onClick={() => edit((document) => takeFromSlide(document, slide.id, index, freeId(show, slide.id)))}
            >
              <Undo2 size={13} aria-hidden /> Own slide
            </Button>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** An id that no slide has. */
function freeId(show: ShowDocument, stem: string): string {
  const taken = new Set(show.slides.map(({ id }) => id));
  let count = 2;
  while (taken.has(`${stem.slice(0, 56)} ${count}`)) count++;
  return `${stem.slice(0, 56)} ${count}`;
}
