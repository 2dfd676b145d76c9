import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { createWriteStream } from "node:fs";
import { readdir, readFile, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { pipeline } from "node:stream/promises";
import { itemAt, present } from "@humming-tide/core/presence";
import { newPassage, type ShowDocument, type Slide } from "@humming-tide/core/show";
import { parseMidi } from "midi-file";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { WebVTTParser } from "webvtt-parser";
import { type FilmStudio, openFilmStudio } from "../testing/film-studio.ts";
import { FILM_FILES, type FilmFileFormat } from "./film-files.ts";
import { timelineFolder } from "./timeline-folder.ts";

let studio: FilmStudio;
let show: ShowDocument;
beforeAll(async () => {
  studio = await openFilmStudio(20, 40);
  show = {
    ...studio.document,
    title: "Closing night: ąę Ночь",
    passages: [newPassage("p1", "The quay"), newPassage("p2", "Ночь")],
    slides: studio.document.slides.map((slide, i) => ({
      ...slide,
      passageId: i < 8 ? "p1" : "p2",
      caption: i === 2 ? "The last coat of paint before the lanterns are lit and the crews go down to the boats" : "",
    })),
  };
});
afterAll(() => studio.close());

const fileOf = (format: FilmFileFormat, document = show) => studio.studio.planner.filmFile(document, format);

describe("files for other tools", () => {
  it("have clear names that every file system takes", async () => {
    for (const format of Object.keys(FILM_FILES) as FilmFileFormat[]) {
      const { name, bytes } = await fileOf(format);
      expect(name).toBe(`Closing night ąę Ночь, ${FILM_FILES[format].what}.${format}`);
      expect(bytes.length).toBeGreaterThan(50);
    }
  });

  it("come in one folder with all media, under the names that the timeline gives them", async () => {
    const [first, second] = show.slides;
    const camera = (slide: Slide): Slide => ({ ...slide, fileName: "IMG_0001.jpg" });
    const slides = [camera(present(first)), camera(present(second)), ...show.slides.slice(2)];
    const { planner, library } = studio.studio;
    const { name, content } = await timelineFolder({ ...show, slides }, planner, library);
    expect(name).toBe("Closing night ąę Ночь, for other tools.zip");
    const place = path.join(studio.folder, name);
    await pipeline(content, createWriteStream(place));
    const unpacked = path.join(studio.folder, "unpacked");
    // Another program's view of it.
    execFileSync("python3", ["-m", "zipfile", "-e", place, unpacked]);
    const folder = path.join(unpacked, "Closing night ąę Ночь");
    expect(await readdir(folder)).toHaveLength(Object.keys(FILM_FILES).length + 1);
    const timeline = JSON.parse(
      await readFile(path.join(folder, "Closing night ąę Ночь, timeline.otio"), "utf8"),
    ) as unknown;
    const urls = [...JSON.stringify(timeline).matchAll(/"target_url":"([^"]*)"/g)].map(([, url]) =>
      decodeURIComponent(url ?? ""),
    );
    expect(new Set(urls).size).toBe(21);
    for (const url of urls) expect((await stat(path.join(folder, url))).size).toBeGreaterThan(0);
    const hashes = await Promise.all(
      [...new Set(urls)].map(async (url) =>
        createHash("sha256")
          .update(await readFile(path.join(folder, url)))
          .digest("hex"),
      ),
    );
    expect(new Set(hashes)).toEqual(new Set([...slides, ...show.songs].map(({ sha256 }) => sha256)));
  });

  it("hold chapters and grid as other readers read them", async () => {
    const vtt = new TextDecoder().decode((await fileOf("vtt")).bytes);
    const { cues, errors } = new WebVTTParser().parse(vtt, "chapters");
    expect(errors).toEqual([]);
    expect(cues.map(({ text }) => text)).toEqual(["The quay", "Ночь"]);
    expect(itemAt(cues, 0).startTime).toBe(0);
    expect(itemAt(cues, 1).startTime).toBe(itemAt(cues, 0).endTime);
    const midi = parseMidi((await fileOf("mid")).bytes);
    expect(midi.tracks.flat().some(({ type }) => type === "setTempo")).toBe(true);
    const undivided = {
      ...show,
      passages: [newPassage("p1", "")],
      slides: show.slides.map((slide) => ({ ...slide, passageId: "p1" })),
    };
    await expect(fileOf("vtt", undivided)).rejects.toMatchObject({ code: "no-chapters" });
  });

  it("hold a cue sheet of A4 pages with every slide in order, in real letters of any script, and a picture each", async () => {
    const place = path.join(studio.folder, "cue.pdf");
    await writeFile(place, (await fileOf("pdf")).bytes);
    const text = (await readFile(place)).toString("latin1");
    const pages = [...text.matchAll(/\/Type\s*\/Page\b/g)].length;
    // 14 rows on the first page at most, 16 on others.
    expect(pages).toBe(2);
    expect(text).toMatch(/\/MediaBox\s*\[0 0 595 842\]/);
    expect([...text.matchAll(/\/Subtype\s*\/Image/g)].length).toBeGreaterThanOrEqual(20);
    expect(text).toMatch(/NotoSans/);
    // As another program reads it.
    const said = execFileSync("pdftotext", ["-layout", place, "-"], { encoding: "utf8" });
    expect(said).toContain("Closing night: ąę Ночь");
    const at = show.slides.map(({ fileName }) => said.indexOf(` ${fileName}`));
    expect(at.every((position, i) => position > (at[i - 1] ?? -1))).toBe(true);
    expect(said).toContain("The last coat of paint before the");
  });
});
