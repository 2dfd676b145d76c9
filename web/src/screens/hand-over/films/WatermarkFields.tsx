import type { FilmOutput, Watermark } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { Field } from "../../../ui/Field.tsx";
import { PlaceField } from "../../../ui/PlaceField.tsx";
import { ShareSlider } from "../../../ui/ShareSlider.tsx";
import { Tick } from "../../../ui/Tick.tsx";

interface WatermarkFieldsProps {
  output: FilmOutput;
  onChange: (change: { watermark: Watermark | null }, tag?: string) => void;
}

/** Words over the whole film. */
export function WatermarkFields({ output, onChange }: WatermarkFieldsProps): ReactNode {
  const { id, watermark } = output;
  return (
    <>
      <Tick
        label="Watermark"
        checked={watermark !== null}
        onChange={(next) =>
          onChange({ watermark: next ? { text: "Proof", place: "bottom-right", strength: 0.5 } : null })
        }
      />
      {watermark && (
        <div className="ml-6 flex flex-col gap-2.5">
          <Field
            label="What it says"
            value={watermark.text}
            maxLength={120}
            onChange={({ target }) =>
              target.value.trim() !== "" &&
              onChange({ watermark: { ...watermark, text: target.value } }, `watermark ${id}`)
            }
          />
          <div className="flex items-center justify-between gap-3 text-[13px] text-quiet">
            Where
            <PlaceField
              label="Where the watermark stands"
              value={watermark.place}
              onChange={(place) => onChange({ watermark: { ...watermark, place } })}
            />
          </div>
          <ShareSlider
            label="Strength"
            min={0.05}
            value={watermark.strength}
            onChange={(strength) => onChange({ watermark: { ...watermark, strength } }, `watermark ${id}`)}
          />
        </div>
      )}
    </>
  );
}
