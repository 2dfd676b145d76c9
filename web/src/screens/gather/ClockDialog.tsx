import { counted } from "@humming-tide/core/language";
import { present } from "@humming-tide/core/presence";
import { shiftClock } from "@humming-tide/core/show";
import { type ReactNode, useState } from "react";
import { edit } from "../../store/edit.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { offsetText, parseOffset } from "./clock-offset.ts";
import { momentText, seenFacts, slideSeconds } from "./slide-facts.ts";

interface Camera {
  readonly name: string;
  readonly count: number;
  /** First and last picture, on the common clock. */
  readonly first: number;
  readonly last: number;
}

/**
 * Cameras with wrong clocks: one camera's times are shifted, so that all pictures fall into one
 * order.
 */
export function ClockDialog({ onClose }: { onClose: () => void }): ReactNode {
  const cameras = useCameras();
  return (
    <DialogBox open onClose={onClose} title="Camera clocks" width={640}>
      {cameras.length === 0 ? (
        <p className="text-soft">None of these pictures says when it was taken, so there are no clocks to put right.</p>
      ) : (
        <>
          <p className="mb-3 text-[13px] text-soft">
            Add to a camera’s times what its clock is slow by; a minus where it is fast. Then order by capture time.
          </p>
          <table className="w-full text-left text-[13px]">
            <thead className="text-xs text-quiet">
              <tr>
                <th className="pb-1 font-normal">Camera</th>
                <th className="pb-1 font-normal">First and last picture</th>
                <th className="pb-1 font-normal">Add (hours:minutes:seconds)</th>
              </tr>
            </thead>
            <tbody>
              {cameras.map((camera) => (
                <CameraRow key={camera.name} camera={camera} />
              ))}
            </tbody>
          </table>
        </>
      )}
    </DialogBox>
  );
}

function CameraRow({ camera }: { camera: Camera }): ReactNode {
  const offset = useAppSelector((state) => present(state.show.document).clockOffsets[camera.name] ?? 0);
  const [text, setText] = useState(() => offsetText(offset));
  const parsed = parseOffset(text);
  const set = (seconds: number): void => {
    setText(offsetText(seconds));
    edit((show) => shiftClock(show, camera.name, seconds));
  };
  return (
    <tr className="border-t border-line align-top">
      <td className="max-w-[190px] py-2 pr-3">
        <span className="block truncate" title={camera.name}>
          {camera.name || "No camera named"}
        </span>
        <span className="text-xs text-quiet">{counted(camera.count, "picture")}</span>
      </td>
      <td className="py-2 pr-3 whitespace-nowrap text-soft">
        {momentText(camera.first)}
        <br />
        {momentText(camera.last)}
      </td>
      <td className="py-2">
        <div className="flex gap-1">
          <input
            aria-label={`Add to the times of ${camera.name || "files that name no camera"}`}
            aria-invalid={parsed === null}
            value={text}
            onChange={(event) => setText(event.target.value)}
            onBlur={() => parsed !== null && parsed !== offset && set(parsed)}
            onKeyDown={(event) => event.key === "Enter" && parsed !== null && set(parsed)}
            className={`w-[110px] rounded-md border bg-ground px-2 py-1 ${parsed === null ? "border-error" : "border-line-strong/60"}`}
          />
          <Button kind="quiet" onClick={() => set(offset - 3600)}>
            −1 h
          </Button>
          <Button kind="quiet" onClick={() => set(offset + 3600)}>
            +1 h
          </Button>
        </div>
        {parsed === null && <p className="mt-1 text-xs text-error">For example -1:00:00, or 0:02:30.</p>}
      </td>
    </tr>
  );
}

function useCameras(): Camera[] {
  const show = useOpenShow();
  const media = useAppSelector((state) => state.show.media);
  const cameras = new Map<string, number[]>();
  for (const slide of show.slides) {
    const seconds = slideSeconds(media, show, slide);
    const facts = seenFacts(media, slide);
    if (seconds === null || !facts) continue;
    const known = cameras.get(facts.camera);
    if (known) known.push(seconds);
    else cameras.set(facts.camera, [seconds]);
  }
  return [...cameras].map(([name, times]) => ({
    name,
    count: times.length,
    first: Math.min(...times),
    last: Math.max(...times),
  }));
}
