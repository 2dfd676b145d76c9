import { execFileSync } from "node:child_process";
import { createReadStream } from "node:fs";
import { chmod, rename, writeFile } from "node:fs/promises";
import path from "node:path";
import { type Finding, findingText } from "@humming-tide/core/check";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { mainOutput, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type FilmStudio, openFilmStudio } from "../testing/film-studio.ts";
import { type CheckedShow, checkShow } from "./check-show.ts";
import { FilmChecks } from "./film-checks.ts";
import { StoredMedia } from "./stored-media.ts";

let studio: FilmStudio;
beforeAll(async () => {
  studio = await openFilmStudio(6, 16);
});
afterAll(() => studio.close());

const NEVER = new AbortController().signal;
const checked = (document: ShowDocument, signal = NEVER): Promise<CheckedShow> =>
  checkShow({
    folder: studio.studio.folder,
    library: studio.studio.library,
    planner: studio.studio.planner,
    stored: new StoredMedia(studio.studio.library.store),
    document,
    signal,
    onProgress: () => undefined,
  });
const kinds = (findings: readonly Finding[]): string[] => findings.map(({ kind }) => kind);

/** A show of the studio's with a clip that ffmpeg makes in the middle of it. */
async function withClip(name: string, filter: string): Promise<ShowDocument> {
  const file = path.join(studio.folder, `${name}.mp4`);
  execFileSync("ffmpeg", [
    ...["-v", "error", "-f", "lavfi", "-i", "color=black:size=320x180:rate=25:duration=8"],
    ...["-vf", filter, "-c:v", "libx264", "-crf", "10", "-y", file],
  ]);
  const { sha256 } = await studio.studio.library.takeIn(createReadStream(file), `${name}.mp4`);
  const [first, ...others] = studio.document.slides;
  return {
    ...studio.document,
    style: { ...studio.document.style, transition: { kind: "cut" } },
    // In shorter films too, which leave others out.
    slides: [present(first), { ...newSlide({ id: name, sha256, fileName: `${name}.mp4` }), stays: true }, ...others],
  };
}

/** White for a part of every period, in seconds. */
const blink = (period: number): string => `drawbox=c=white:t=fill:enable='lt(mod(t,${period}),${period / 2})'`;

describe("a thorough check", () => {
  it("draws all frames, hears all sound, looks at all files and finds nothing in a film that is well", async () => {
    const { findings, facts } = await checked(studio.document);
    expect(kinds(findings).filter((kind) => kind !== "enlarged")).toEqual([]);
    expect(facts.files).toBe(7);
    expect(facts.frames).toBeGreaterThan(15 * 25);
    expect(present(facts.landings).largestErrorFrames).toBeLessThanOrEqual(0.5);
    expect(Math.abs(present(present(facts.levels).integratedLufs) + 14)).toBeLessThan(0.5);
    expect(present(facts.levels).truePeakDbtp).toBeLessThanOrEqual(-1);
  });

  it("finds a clip that flashes five times a second where it is shown, and not one that does so three times", async () => {
    const quick = await checked(await withClip("strobe", blink(0.2)));
    const flashes = quick.findings.filter(({ kind }) => kind === "flashes");
    expect(flashes.length).toBeGreaterThan(0);
    expect(flashes[0]).toMatchObject({ severity: "error", place: { slideId: "strobe" } });
    expect(findingText(itemAt(flashes, 0))).toMatch(/strobe\.mp4/);
    const calm = await checked(await withClip("lamp", blink(1 / 2.5)));
    expect(kinds(calm.findings)).not.toContain("flashes");
  });

  it("looks at every shape and part: a light that is small in a wide film and large in an upright one", async () => {
    // 30 x 60 of 320 x 180 pixels: 21 % of a field of 341 x 256 in the wide film, 37 % where the
    // picture is cut to 9:16.
    const box = `drawbox=x=145:y=60:w=30:h=60:c=white:t=fill:enable='lt(mod(t,0.2),0.1)'`;
    const lamp = await withClip("small-lamp", box);
    const wide = mainOutput(lamp);
    const upright = { ...wide, id: "upright", name: "Upright", size: { width: 180, height: 320 } };
    const song = itemAt(lamp.songs, 0).id;
    const part = { songId: song, startSeconds: 0, endSeconds: 12, barsPerSlide: null };
    const document: ShowDocument = {
      ...lamp,
      style: { ...lamp.style, fill: { kind: "crop" } },
      outputs: [
        wide,
        { ...wide, id: "small", name: "Small", size: { width: 160, height: 90 } },
        upright,
        { ...upright, id: "teaser", name: "Teaser", part },
      ],
    };
    const { findings, facts } = await checked(document);
    const flashes = findings.filter(({ kind }) => kind === "flashes");
    const named = flashes.map(({ place }) => place.outputs.join());
    expect(new Set(named)).toEqual(new Set(["Upright", "Teaser"]));
    for (const finding of flashes) {
      const { place } = finding;
      expect(findingText(finding)).toContain(`In ${place.outputs[0]}: `);
      // The second in which it flashes may begin with the slide before.
      expect(["s0", "small-lamp"]).toContain(place.slideId);
      expect(place.seconds === null).toBe(place.outputs[0] === "Teaser");
    }
    // The wide film once, the upright one once, and the part.
    expect(facts.frames).toBeGreaterThan(2.5 * 25 * 12);
  });

  it("finds bars that are in a clip itself, and offers to cut them off", async () => {
    const document = await withClip(
      "letterbox",
      "drawbox=y=20:h=140:c=orange:t=fill,drawbox=x=60:y=60:w=80:h=60:c=teal:t=fill",
    );
    const bars = (await checked(document)).findings.filter((finding) => finding.kind === "bars");
    expect(bars).toMatchObject([{ place: { slideId: "letterbox" }, fixes: [{ kind: "view" }] }]);
    expect(itemAt(bars, 0).values.share).toBeCloseTo(20 / 180, 1);
  });

  it("names files that are gone, and those that have changed on the disk", async () => {
    const { store } = studio.studio.library;
    const [first, second] = studio.document.slides.map(({ sha256 }) => present(sha256)) as [string, string];
    const [gone, changed] = [store.originalPath(first), store.originalPath(second)];
    await rename(gone, `${gone}.away`);
    const bytes = execFileSync("cat", [changed]);
    await chmod(changed, 0o644);
    await writeFile(changed, Buffer.concat([bytes.subarray(0, -1), Buffer.from([lastOf(bytes) ^ 1])]));
    try {
      const { findings, facts } = await checked(studio.document);
      const files = findings.filter(({ kind }) => kind.startsWith("media-"));
      expect(files.map(({ kind, severity, place }) => [kind, severity, place.slideId])).toEqual([
        ["media-missing", "error", "s0"],
        ["media-changed", "error", "s1"],
      ]);
      // The rest was looked at all the same, by what was made of the files when they came in.
      expect(facts.frames).toBeGreaterThan(100);
      expect(facts.levels).not.toBeNull();
    } finally {
      await rename(`${gone}.away`, gone);
      await writeFile(changed, bytes);
    }
    expect(kinds((await checked(studio.document)).findings)).not.toContain("media-changed");
  });

  it("can be stopped, and a newer revision stops the check of an older one", async () => {
    const checks = new FilmChecks(studio.studio.folder, studio.studio.library, studio.studio.planner);
    const show = { id: "show", revision: 1, document: studio.document };
    await checks.start(show);
    await checks.cancel("show");
    expect(checks.get("show")).toMatchObject({ state: "cancelled", revision: 1 });
    const begun = await checks.start(show);
    expect(begun).toMatchObject({ revision: 1, state: "queued" });
    // The same again is the same run.
    expect(await checks.start(show)).toEqual(checks.get("show"));
    await expect.poll(() => checks.get("show")).toMatchObject({ revision: 1, state: "running", tries: 1 });
    await checks.start({ ...show, revision: 2 });
    const ended = new Promise<void>((resolve) => {
      checks.on("change", ({ state }) => {
        if (state === "done") resolve();
      });
    });
    await ended;
    expect(checks.get("show")).toMatchObject({ state: "done", revision: 2, progress: 1 });
    expect(checks.get("other")).toBeNull();
    await checks.close();
  });
});
