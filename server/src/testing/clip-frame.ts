import { type ClipInstant, drawnPicture, type FramePlan } from "@humming-tide/core/picture";
import type { Turn } from "@humming-tide/core/show";

/** A frame of a film that shows one instant of a clip and nothing else, as large as the clip. */
export const clipFrame = (sha256: string, clip: ClipInstant, turn: Turn = 0): FramePlan => ({
  size: clip.size,
  layers: [
    {
      kind: "scene",
      ground: null,
      parts: [
        {
          kind: "picture",
          image: { picture: drawnPicture(sha256, turn), of: "picture", look: null },
          clip,
          target: { x: 0, y: 0, ...clip.size },
          cell: null,
          alpha: 1,
        },
      ],
      alpha: 1,
      bounds: null,
      mask: null,
    },
  ],
  veils: [],
});
