import type { Watermark } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { Field } from "../../../ui/Field.tsx";
import { PlaceField } from "../../../ui/PlaceField.tsx";
import { ShareSlider } from "../../../ui/ShareSlider.tsx";
import { Tick } from "../../../ui/Tick.tsx";

export const FIRST_WATERMARK: Watermark = { text: "Proof", place: "bottom-right", strength: 0.5 };

interface WatermarkFieldsProps<Mark extends Watermark> {
  watermark: Mark | null;
  /** What one is at first. */
  first: Mark;
  /** Edits of the same one are one step of undoing. */
  tag: string;
  onChange: (watermark: Mark | null, tag?: string) => void;
}

/** Words over the whole film. */
export function WatermarkFields<Mark extends Watermark>({
  watermark,
  first,
  tag,
  onChange,
}: WatermarkFieldsProps<Mark>): ReactNode {
  return (
    <>
      <Tick label="Watermark" checked={watermark !== null} onChange={(next) => onChange(next ? first : null)} />
      {watermark && (
        <div className="ml-6 flex flex-col gap-2.5">
          <Field
            label="Text of the watermark"
            value={watermark.text}
            maxLength={120}
            onChange={({ target }) => target.value.trim() !== "" && onChange({ ...watermark, text: target.value }, tag)}
          />
          <div className="flex items-center justify-between gap-3 text-[13px] text-quiet">
            Where
            <PlaceField
              label="Position of the watermark"
              value={watermark.place}
              onChange={(place) => onChange({ ...watermark, place })}
            />
          </div>
          <ShareSlider
            label="Strength"
            min={0.05}
            value={watermark.strength}
            onChange={(strength) => onChange({ ...watermark, strength }, tag)}
          />
        </div>
      )}
    </>
  );
}
