import { MOVE_KINDS, type MoveWish, type ShowDocument } from "@humming-tide/core/show";
import { Dices } from "lucide-react";
import type { ReactNode } from "react";
import { edit } from "../../store/edit.ts";
import type { StylePart } from "../../style/style-part.ts";
import { MOVE_NAMES } from "../../style/style-words.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { ShareSlider } from "../../ui/ShareSlider.tsx";
import { StylePanel } from "./StylePanel.tsx";

const KINDS = MOVE_KINDS.map((value) => ({ value, label: MOVE_NAMES[value] }));

/** Slow motion on pictures: which way, how strongly, and whether it follows the music. */
export function MovePanel({ part, show }: { part: StylePart<MoveWish>; show: ShowDocument }): ReactNode {
  const { value, set, slide } = part;
  return (
    <StylePanel title="Move" part={part}>
      <Choice label="Move" value={value.kind} options={KINDS} onChange={(kind) => set({ ...value, kind })} />
      {value.kind !== "still" && (
        <>
          <div className="mt-3">
            <ShareSlider
              label="Strength"
              value={value.strength}
              onChange={(strength) => slide({ ...value, strength })}
            />
          </div>
          <label className="mt-2 flex items-start gap-2 text-[13px] text-soft">
            <input
              type="checkbox"
              className="mt-0.5"
              checked={value.withMusic}
              onChange={(event) => set({ ...value, withMusic: event.target.checked })}
            />
            Starts with the music and arrives on an accent
          </label>
        </>
      )}
      <div className="mt-3 flex flex-col items-start gap-2 border-t border-line pt-3">
        <label className="flex items-center gap-2 text-[13px] text-soft">
          <input
            type="checkbox"
            checked={show.standsStill}
            onChange={(event) => {
              const standsStill = event.target.checked;
              edit((document) => ({ ...document, standsStill }));
            }}
          />
          No moves in the whole show
        </label>
        <Button
          kind="quiet"
          title="Picks other moves and varied transitions, in the whole show"
          onClick={() => edit((document) => ({ ...document, seed: (document.seed + 1) % 0x1_0000_0000 }))}
        >
          <Dices size={15} aria-hidden /> Shuffle moves
        </Button>
      </div>
    </StylePanel>
  );
}
