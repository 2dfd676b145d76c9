import { describe, expect, it } from "vitest";
import type { Preparing } from "../../store/view-slice.ts";
import { preparingText } from "./SaveStatus.tsx";

const song: Preparing = {
  kind: "preparing",
  sha256: "a".repeat(64),
  fileName: "lanterns.flac",
  isDone: false,
  progress: null,
  secondsLeft: null,
};

describe("what the server makes ready", () => {
  it("is one medium with its share and the time left, or how many they are", () => {
    expect(preparingText([])).toBe("");
    expect(preparingText([song])).toBe("Preparing lanterns.flac …");
    expect(preparingText([{ ...song, progress: 0.456 }])).toBe("Preparing lanterns.flac: 45 %");
    expect(preparingText([{ ...song, progress: 0.5, secondsLeft: 21 }])).toBe(
      "Preparing lanterns.flac: 50 %, about 20 seconds left",
    );
    expect(preparingText([song, song])).toBe("Preparing 2 files …");
  });
});
