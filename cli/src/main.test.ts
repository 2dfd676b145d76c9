import { spawn, spawnSync } from "node:child_process";
import { once } from "node:events";
import { copyFile, mkdir, readdir, readFile, rename, writeFile } from "node:fs/promises";
import path from "node:path";
import { type FilmReport, fitPlanSchema, type MusicJson, readMarks } from "@humming-tide/core/interchange";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { newShowDocument, newShowSong, newSlide } from "@humming-tide/core/show";
import { clickSong, ffmpeg, monoWav, stripedJpeg, temporaryFolder, writePictures } from "@humming-tide/server/testing";
import { afterAll, beforeAll, describe, expect, it } from "vitest";

import { main } from "./main.ts";

const COMMAND = new URL("../bin/humming-tide.mjs", import.meta.url).pathname;
const HERE = process.cwd();
const { wav, beatSeconds } = clickSong(12, 120, 0.55);

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let at: (...names: string[]) => string;

beforeAll(async () => {
  place = await temporaryFolder();
  at = (...names) => path.join(place.folder, ...names);
  await writeFile(at("song.wav"), wav);
  await writePictures(at("photos"), 11);
  process.chdir(place.folder);
});
afterAll(async () => {
  process.chdir(HERE);
  await place.remove();
});

/** Runs the command as a script would: no terminal, output in pipes. */
function run(...args: string[]): { status: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [COMMAND, ...args], {
    encoding: "utf8",
    cwd: place.folder,
  });
  return { status, out: stdout, err: stderr };
}

/** The same in this process: starting another takes two to four seconds. */
async function runHere(...args: string[]): Promise<{ status: number; out: string; err: string }> {
  const [out, err]: [string[], string[]] = [[], []];
  const status = await main(args, {
    print: (line) => void out.push(line),
    complain: (line) => void err.push(line),
    progressLine: () => undefined,
    endProgress: () => undefined,
  });
  return { status, out: out.join("\n"), err: err.join("\n") };
}

describe("help and wrong arguments", () => {
  it("come through a process of its own as they are", () => {
    const help = run("--help");
    expect([help.status, help.err]).toEqual([0, ""]);
    expect(help.out).toContain("humming-tide");
    const wrong = run("mix");
    expect([wrong.status, wrong.out]).toEqual([2, ""]);
    expect(wrong.err).toMatch(/no command "mix"/);
  });

  it.each(
    [
      ["--help"],
      ...["analyze", "marks", "fit", "make", "verify", "check", "timeline", "player", "gather", "pack", "unpack"].map(
        (name) => [name, "--help"],
      ),
    ].map((args) => [args]),
  )("explains %j", async (args) => {
    const { status, out, err } = await runHere(...args);
    expect([status, err]).toEqual([0, ""]);
    expect(out).toContain("humming-tide");
    expect(out.split("\n").filter((line) => line.length > 110)).toEqual([]);
    // No name of the code, but names of formats.
    const names = out.match(/\b[A-Z]?[a-z]+[A-Z]\w+/g) ?? [];
    expect(names.filter((name) => !["WebM", "WebVTT", "WebP", "OpenTimelineIO"].includes(name))).toEqual([]);
  });

  it.each([
    [[], /command is missing/],
    [["mix"], /no command "mix"/],
    [["toString"], /no command "toString"/],
    [["analyze"], /at least one FILE/],
    [["analyze", "--beats", "x"], /--beats/],
    [["make", "--music", "song.wav", "--photos", "photos"], /--out is missing/],
    [["make", "--music", "song.wav", "--photos", "photos", "--out", "f.mp4", "--fps", "fast"], /--fps/],
    [["make", "--music", "song.wav", "--photos", "photos", "--out", "f.mp4", "--size", "1921x1080"], /even numbers/],
    [["make", "--music", "song.wav", "--photos", "photos", "--out", "f.mp4", "--every", "0-beats"], /--every/],
    [["make", "--music", "song.wav", "--photos", "photos", "--out", "f.mp4", "--every", "1.5-beats"], /--every/],
    [["make", "song.wav", "--out", "f.mp4"], /takes no FILE \(use --music and --photos\), but 1 was given/],
    [["verify", "--report", "r.json"], /one FILM/],
    [["verify", "f.mp4"], /--report is missing/],
    [["check"], /check takes one SHOW, but none were given/],
    [["check", "Regatta", "Another"], /one SHOW, but 2 were given/],
    [["timeline", "Regatta"], /either --to or --compare/],
    [["timeline", "Regatta", "--to", "film.doc"], /--to is a file ending in .otio/],
    [["player", "Regatta"], /--to is missing: a folder or a .zip file/],
    [["timeline", "Regatta", "--compare", "film.mov"], /an .otio or an .edl/],
    [["gather", "Regatta"], /a SHOW and a DIR/],
    [["pack", "Regatta"], /a SHOW and a FILE/],
    [["unpack"], /one FILE/],
    [["fit", "show.json", "--music", "json/song.json"], /--out is missing/],
  ])("says in one line what is wrong with %j and ends with 2", async (args, message) => {
    const { status, out, err } = await runHere(...args);
    expect([status, out]).toEqual([2, ""]);
    expect(err.trim().split("\n")).toHaveLength(1);
    expect(err).toMatch(message);
  });
});

describe("analyze", () => {
  it("writes beats and everything else for every song, and goes on past a bad one", async () => {
    await writeFile(at("broken.mp3"), "no music");
    await writeFile(at("silent.wav"), monoWav(new Float32Array(44_100 * 3), 44_100));
    const { status, err } = await runHere(
      "analyze",
      "song.wav",
      "broken.mp3",
      "silent.wav",
      "--json-dir",
      "json",
      "--beats-dir",
      "beats",
      "--marks-dir",
      "marks",
    );
    expect(status).toBe(1);
    expect(err.trim().split("\n")).toHaveLength(1);
    expect(err).toContain("broken.mp3");

    const lines = (await readFile(at("beats", "song.beats"), "utf8")).trimEnd().split("\n");
    expect(lines).toHaveLength(beatSeconds.length);
    lines.forEach((line, i) => {
      expect(line).toMatch(/^\d+\.\d{6}\t[1-4]$/);
      expect(Math.abs(Number(line.split("\t")[0]) - itemAt(beatSeconds, i))).toBeLessThan(0.01);
    });
    expect(await readFile(at("beats", "silent.beats"), "utf8")).toBe("");
    const midi = readMarks(await readFile(at("marks", "song.mid")), "song.mid");
    expect(midi.markers[0]).toMatchObject({ name: "A", kind: "section" });
    expect(midi.beats.length).toBeGreaterThanOrEqual(beatSeconds.length);
    expect(await readFile(at("marks", "song.vtt"), "utf8")).toMatch(/^WEBVTT\n\nsection\n/);

    const json = JSON.parse(await readFile(at("json", "song.json"), "utf8")) as MusicJson;
    expect(Object.keys(json).sort()).toEqual(
      (
        "accents bars beats doubts durationSeconds ending energy file freeTime levelDoubt meter model musicEndSeconds onsets phraseBars phrases " +
        "sections steady tempoBpm version"
      ).split(" "),
    );
    expect(json).toMatchObject({
      file: "song.wav",
      version: 5,
      model: "2026-11-30",
      durationSeconds: 12,
      steady: true,
    });
    expect(json.sections[0]).toMatchObject({ startSeconds: json.bars[0], label: "A" });
    expect(json.tempoBpm).toBeCloseTo(120, 0);
    expect(json.energy.values.length).toBe(Math.ceil(12 / json.energy.stepSeconds));
    const silent = JSON.parse(await readFile(at("json", "silent.json"), "utf8")) as MusicJson;
    expect(silent).toMatchObject({
      steady: false,
      tempoBpm: null,
      meter: null,
      beats: [],
      bars: [],
      musicEndSeconds: 0,
    });
  });

  it("gives what fit lays slides on: a plan with the keys of the report, and the reason where locks cannot hold together", async () => {
    const slides = Array.from({ length: 5 }, (_, i) =>
      newSlide({ id: `s${i}`, sha256: "a".repeat(64), fileName: `${i}.jpg` }),
    );
    const song = newShowSong({ id: "song 1", sha256: "b".repeat(64), fileName: "song.wav" });
    const show = { ...newShowDocument("Regatta"), slides, songs: [song] };
    await writeFile(at("show.json"), JSON.stringify(show));
    const asked = (file: string): string[] => ["fit", file, "--music", "json/song.json", "--out", "plan.json"];
    expect(await runHere(...asked("show.json"))).toMatchObject({ status: 0, err: "" });
    const plan = fitPlanSchema.parse(JSON.parse(await readFile(at("plan.json"), "utf8")));
    expect(plan.slots.map(({ source }) => source)).toEqual(slides.map(({ fileName }) => fileName));
    expect(lastOf(plan.slots).endFrame).toBe(Math.round(plan.durationSeconds * 25));
    for (const { landingSeconds, landingErrorMs } of plan.slots.slice(1)) {
      expect(Math.min(...beatSeconds.map((beat) => Math.abs(beat - present(landingSeconds))))).toBeLessThan(0.01);
      expect(Math.abs(present(landingErrorMs))).toBeLessThanOrEqual(20.001);
    }
    const lockAt = (seconds: number) => ({ landingLock: { songId: "song 1", seconds, turn: 0, exact: false } });
    const locked = {
      ...show,
      slides: slides.map((slide, i) =>
        i === 1 ? { ...slide, ...lockAt(7) } : i === 3 ? { ...slide, ...lockAt(4) } : slide,
      ),
    };
    await writeFile(at("locked.json"), JSON.stringify(locked));
    const refused = await runHere(...asked("locked.json"));
    expect(refused.status).toBe(1);
    expect(refused.err).toMatch(/The landing of slide 2 and the landing of slide 4 cannot hold together/);
    await writeFile(at("wrong.json"), JSON.stringify({ ...show, lead: { kind: "nobody" } }));
    expect(
      await runHere("fit", at("wrong.json"), "--music", at("json", "song.json"), "--out", at("no.json")),
    ).toMatchObject({
      status: 1,
      err: expect.stringMatching(/is no show document: lead/) as string,
    });
    expect((await runHere("fit", "song.wav", "--music", "json/song.json", "--out", "plan.json")).err).toMatch(
      /is no JSON/,
    );
  });

  it("hears the same beats at other rates and in more channels, and answers on whatever can be decoded", async () => {
    await writeFile(at("telephone.wav"), ffmpeg(["-i", "-", "-ar", "8000", "-ac", "1", "-f", "wav", "-"], wav));
    await writeFile(
      at("cinema.flac"),
      ffmpeg(["-i", "-", "-af", "pan=5.1|FC=c0|FL=c0", "-ar", "96000", "-f", "flac", "-"], wav),
    );
    const noise = Float32Array.from({ length: 44_100 * 8 }, (_, i) => Math.sin(i * i * 0.37) * 0.3);
    await writeFile(at("noise.wav"), monoWav(noise, 44_100));
    await writeFile(at("second.wav"), monoWav(noise.subarray(0, 44_100), 44_100));
    const files = ["telephone.wav", "cinema.flac", "noise.wav", "second.wav"];
    const { status, out, err } = await runHere("analyze", ...files, "--beats-dir", "odd");
    expect([status, err]).toEqual([0, ""]);
    for (const name of ["telephone", "cinema"]) {
      const lines = (await readFile(at("odd", `${name}.beats`), "utf8")).trimEnd().split("\n");
      expect(lines).toHaveLength(beatSeconds.length);
      lines.forEach((line, i) =>
        expect(Math.abs(Number(line.split("\t")[0]) - itemAt(beatSeconds, i))).toBeLessThan(0.015),
      );
    }
    expect(out).toMatch(/noise\.wav: 0:08, no steady beat found/);
    expect(out).toMatch(/second\.wav: 0:01, no steady beat found/);
  });

  it("refuses the second of two files with the same stem", async () => {
    await mkdir(at("other"), { recursive: true });
    await copyFile(at("song.wav"), at("other", "song.wav"));
    const { status, out, err } = await runHere("analyze", "song.wav", "other/song.wav", "--beats-dir", "beats2");
    expect(status).toBe(1);
    expect(out).toContain("song.wav: 0:12");
    expect(err).toMatch(/other\/song\.wav: another file is also called "song"/);
  });
});

describe("marks", () => {
  it("goes from one format to the next and says what has no place there", async () => {
    await writeFile(
      at("marks.csv"),
      "seconds,type,position,name\r\n0,beat,1,\r\n0.5,beat,2,\r\n0.5,accent,,Lanterns\r\n",
    );
    const midi = await runHere("marks", "marks.csv", "--to", "marks.mid");
    expect([midi.status, midi.out.trim()]).toEqual([0, "marks.mid: 2 beats, 1 markers"]);
    const text = await runHere("marks", "marks.mid", "--to", "marks.beats");
    expect(text.out).toContain("2 beats; 1 markers have no place in this format");
    expect(await readFile(at("marks.beats"), "utf8")).toBe("0.000000\t1\n0.500000\t2\n");
    const cues = await runHere("marks", "marks.csv", "--to", "cues.wav", "--sound", "song.wav");
    expect([cues.status, cues.err]).toEqual([0, ""]);
    expect(readMarks(await readFile(at("cues.wav")), "cues.wav").markers).toEqual([
      { seconds: 0.5, name: "Lanterns", kind: "accent" },
    ]);
    const bad = await runHere("marks", "photos/1.jpg", "--to", "bad.csv");
    expect([bad.status, bad.out]).toEqual([1, ""]);
    expect(bad.err).toMatch(/humming-tide marks: Line 1: /);
    expect((await runHere("marks", "marks.csv", "--to", "marks.doc")).status).toBe(2);
  });
});

describe("make and verify", () => {
  const MAKE = ["make", "--music", "song.wav", "--photos", "photos", "--size", "160x90"];
  const make = (...more: string[]) => runHere(...MAKE, ...more);

  it.each(["24", "30000/1001"])("does the whole job at %s and measures it", async (rate) => {
    const args = ["--out", "film.mp4", "--report", "report.json", "--fps", rate];
    const made = rate === "29.97" ? run(...MAKE, ...args) : await make(...args);
    expect([made.status, made.err]).toEqual([0, ""]);
    expect(made.out).not.toContain("\r");
    const report = JSON.parse(await readFile(at("report.json"), "utf8")) as FilmReport;
    expect(report.fps).toEqual(rate === "24" ? { num: 24, den: 1 } : { num: 30_000, den: 1001 });
    // Eleven pictures would have a second each: best fit leaves some out, and says which.
    const shown = report.slots.map((slot) => slot.source);
    const leftOut = [...made.out.matchAll(/^left out: (\d+\.jpg)$/gm)].map((match) => match[1]);
    expect([...shown, ...leftOut].sort()).toEqual(Array.from({ length: 11 }, (_, i) => `${i + 1}.jpg`).sort());
    expect([shown[0], shown.at(-1), shown.length > 4]).toEqual(["1.jpg", "11.jpg", true]);
    expect(report.slots[0]).toMatchObject({ index: 0, startFrame: 0, landingSeconds: null, landingErrorMs: null });
    for (const slot of report.slots.slice(1)) {
      expect(Math.min(...beatSeconds.map((beat) => Math.abs(beat - present(slot.landingSeconds))))).toBeLessThan(0.01);
      const frameMs = (1000 * slot.startFrame * report.fps.den) / report.fps.num;
      expect(slot.landingErrorMs).toBeCloseTo(frameMs - 1000 * present(slot.landingSeconds), 6);
    }
    const measured = await runHere("verify", "film.mp4", "--report", "report.json");
    expect([measured.status, measured.err]).toEqual([0, ""]);
    const changes = shown.length - 1;
    expect(measured.out).toContain(`${changes} of ${changes} changes\nOK`);
  });

  it("changes every two beats, and prints what was repeated", async () => {
    const { status, out } = await make("--out", "two.mp4", "--report", "two.json", "--every", "2-beats");
    expect(status).toBe(0);
    const { slots } = JSON.parse(await readFile(at("two.json"), "utf8")) as FilmReport;
    for (let i = 2; i < slots.length; i++) {
      expect(present(itemAt(slots, i).landingSeconds) - present(itemAt(slots, i - 1).landingSeconds)).toBeCloseTo(1, 1);
    }
    expect(slots.length > 11 ? out : "repeated: 1.jpg").toContain("repeated: 1.jpg");
  });

  it("leaves pictures out where there are too many, prints which, and makes the film all the same", async () => {
    const { status, out } = await make("--out", "bars.mp4", "--report", "bars.json", "--every", "bar");
    expect(status).toBe(0);
    const { slots } = JSON.parse(await readFile(at("bars.json"), "utf8")) as FilmReport;
    expect(out.match(/^left out: \d+\.jpg$/gm)).toHaveLength(11 - slots.length);
  });

  it("verify ends with 1 where film and report do not agree, and where the song has changed", async () => {
    await make("--out", "a.mp4", "--report", "a.json");
    const report = JSON.parse(await readFile(at("a.json"), "utf8")) as FilmReport;
    const shifted = {
      ...report,
      slots: report.slots.map((slot) =>
        slot.landingSeconds === null ? slot : { ...slot, landingSeconds: slot.landingSeconds + 0.08 },
      ),
    };
    await writeFile(at("shifted.json"), JSON.stringify(shifted));
    const wrong = await runHere("verify", "a.mp4", "--report", "shifted.json");
    expect(wrong.status).toBe(1);
    expect(wrong.out).toMatch(/NOT OK$/m);
    expect(wrong.err).toMatch(/off its landing/);
    await writeFile(
      at("changed.json"),
      JSON.stringify({ ...report, music: { ...report.music, sha256: "0".repeat(64) } }),
    );
    expect(await runHere("verify", "a.mp4", "--report", "changed.json")).toMatchObject({
      status: 1,
      err: expect.stringContaining("content has changed") as string,
    });
  });

  it("makes a film of one picture, and of a folder with things in it that are no pictures", async () => {
    await mkdir(at("mixed", "deeper"), { recursive: true });
    await writeFile(at("mixed", "one.jpg"), await stripedJpeg(1));
    await writeFile(at("mixed", "notes.jpg"), "Bring rope.");
    await writeFile(at("mixed", "short.jpg"), (await stripedJpeg(2, 1600, 1200)).subarray(0, 30_000));
    const { status, out } = await runHere(
      "make",
      "--music",
      "song.wav",
      "--photos",
      "mixed",
      "--out",
      "one.mp4",
      "--size",
      "160x90",
      "--report",
      "one.json",
    );
    expect(status).toBe(0);
    expect(out).toMatch(/not used: notes\.jpg: .*neither a picture/);
    expect(out).toMatch(/not used: short\.jpg: .*cut short/);
    expect((await runHere("verify", "one.mp4", "--report", "one.json")).status).toBe(0);
  });

  it("makes a film to a silent song, and to one of a second", async () => {
    await writeFile(at("second.wav"), clickSong(1).wav);
    for (const song of ["silent.wav", "second.wav"]) {
      const made = await runHere(
        "make",
        "--music",
        song,
        "--photos",
        "photos",
        "--out",
        "quiet.mp4",
        "--size",
        "160x90",
        "--report",
        "quiet.json",
      );
      expect([song, made.status, made.err]).toEqual([song, 0, ""]);
      expect(made.out).toMatch(/No steady beat/);
      expect(await runHere("verify", "quiet.mp4", "--report", "quiet.json")).toMatchObject({ status: 0 });
    }
  });

  it.each([
    [["--music", "nothing.wav", "--photos", "photos", "--out", "x.mp4"], /no song at/],
    [["--music", "song.wav", "--photos", "nowhere", "--out", "x.mp4"], /no folder of pictures/],
    [["--music", "song.wav", "--photos", "beats", "--out", "x.mp4"], /No picture in/],
    [["--music", "photos/1.jpg", "--photos", "photos", "--out", "x.mp4"], /is a picture, not a song/],
    [["--music", "broken.mp3", "--photos", "photos", "--out", "x.mp4"], /neither a picture nor a clip nor a song/],
    [["--music", "song.wav", "--photos", "photos", "--out", "nowhere/x.mp4"], /does not exist/],
  ])("fails clearly with %j", async (args, message) => {
    const { status, err } = await runHere("make", ...args);
    expect(status).toBe(1);
    expect(err).toMatch(message);
    expect((await readdir(place.folder)).filter((name) => name === "x.mp4" || name.includes("unfinished"))).toEqual([]);
  });

  it("takes MP3 and M4A, whose decoders add silence, in time", async () => {
    for (const format of ["mp3", "m4a"]) {
      ffmpeg(["-i", at("song.wav"), "-t", "6", "-b:a", "160k", at(`coded.${format}`)]);
      const made = await runHere(
        "make",
        "--music",
        `coded.${format}`,
        "--photos",
        "photos",
        "--out",
        "coded.mp4",
        "--size",
        "160x90",
        "--report",
        "coded.json",
      );
      expect([made.status, made.err]).toEqual([0, ""]);
      const { status, out } = await runHere("verify", "coded.mp4", "--report", "coded.json");
      expect(status).toBe(0);
      expect(Number(present(/music: (-?[\d.]+) ms/.exec(out))[1])).toBeCloseTo(0, 0);
    }
  });
});

describe("gather, pack and unpack", () => {
  const gathered = (data: string, ...more: string[]) =>
    runHere("gather", "Regatta", at("cards"), "--data", data, ...more);

  beforeAll(async () => {
    await writePictures(at("cards", "card 2"), 12);
    await mkdir(at("cards", "card 1", ".hidden"), { recursive: true });
    await copyFile(at("cards", "card 2", "3.jpg"), at("cards", "card 1", "again.jpg"));
    await writeFile(at("cards", "card 1", "letter.jpg"), "Bring the lanterns.");
    await writeFile(at("cards", "card 1", ".hidden", "x.jpg"), "x");
    await writeFile(at("cards", "song.wav"), wav);
  });

  it("brings a folder in, says what did not come and why, and only looks the next time", async () => {
    const data = at("gather-data");
    const first = await gathered(data);
    expect([first.status, first.err]).toEqual([1, ""]);
    expect(first.out.trim().split("\n")).toEqual([
      'Began the show "Regatta"',
      expect.stringMatching(/^not taken in: card 1\/letter.jpg: .*neither a picture/),
      "13 came in, 1 were there already, 1 were not taken in",
    ]);
    const stored = (await readdir(path.join(data, "media"), { recursive: true, withFileTypes: true })).filter((entry) =>
      entry.isFile(),
    );
    expect(stored).toHaveLength(13);
    const again = await gathered(data);
    expect(again.out.trim().split("\n").at(-1)).toBe("0 came in, 14 were there already, 1 were not taken in");
  });

  it("leaves the song that is there, and says what another sound is", async () => {
    const data = at("gather-data");
    await mkdir(at("more"), { recursive: true });
    const hum = ["-f", "lavfi", "-i", "sine=frequency=100:duration=3", at("more", "hum.wav")];
    expect(spawnSync("ffmpeg", ["-v", "error", "-y", ...hum]).status).toBe(0);
    const { status, out } = await runHere("gather", "Regatta", at("more"), "--data", data);
    expect(status).toBe(0);
    expect(out.trim().split("\n")).toEqual([
      "hum.wav could be music or speech. It is in the song library and not in the film.",
      "1 came in, 0 were there already, 0 were not taken in",
    ]);
  });

  it("stops at Ctrl-C and goes on where it stopped", async () => {
    const data = at("stopped-data");
    const child = spawn(process.execPath, [COMMAND, "gather", "Regatta", at("cards"), "--data", data]);
    let text = "";
    child.stdout.on("data", (chunk) => (text += String(chunk)));
    // As soon as the first file is in.
    const media = path.join(data, "media");
    while ((await readdir(media).catch(() => [])).length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
    child.kill("SIGINT");
    const [code] = (await once(child, "exit")) as [number];
    expect([code, text]).toEqual([1, expect.stringMatching(/Stopped: \d+ of 15 files wait. Run it again to go on./)]);
    const came = Number(present(/(\d+) came in/.exec(text))[1]);
    const rest = await gathered(data);
    expect(rest.out).toContain(`${13 - came} came in, ${came + 1} were there already`);
  });

  it("goes on after a kill at any moment, with every file once", async () => {
    const data = at("killed-data");
    for (const wait of [900, 1300, 1700]) {
      const child = spawn(process.execPath, [COMMAND, "gather", "Regatta", at("cards"), "--data", data]);
      await new Promise((resolve) => setTimeout(resolve, wait));
      child.kill("SIGKILL");
      if (child.exitCode === null && child.signalCode === null) await once(child, "exit");
    }
    expect((await gathered(data)).out).toContain("1 were not taken in");
    expect((await runHere("pack", "Regatta", at("killed.zip"), "--data", data)).status).toBe(0);
    const list = spawnSync(
      "python3",
      ["-c", "import sys, zipfile; print(zipfile.ZipFile(sys.argv[1]).read('show.json').decode())", at("killed.zip")],
      { encoding: "utf8" },
    );
    const { slides, songs } = JSON.parse(list.stdout) as Record<"slides" | "songs", { fileName: string }[]>;
    expect(slides.map(({ fileName }) => fileName)).toEqual([
      "again.jpg",
      ...[1, 2, 4, 5, 6, 7, 8, 9, 10, 11, 12].map((n) => `${n}.jpg`),
    ]);
    expect(songs.map(({ fileName }) => fileName)).toEqual(["song.wav"]);
  });

  it("checks a show as the page does, and says with its exit code whether it may be handed over", async () => {
    const data = at("gather-data");
    const json = at("findings.json");
    const checked = await runHere("check", "Regatta", "--data", data, "--json", json);
    expect([checked.status, checked.err]).toEqual([0, ""]);
    expect(checked.out).toMatch(/^13 files, \d+ frames, \d+ landings within 0\.\d\d frames, -14\.\d LUFS/m);
    expect(checked.out.trim().split("\n").at(-1)).toBe("OK");
    const { findings } = JSON.parse(await readFile(json, "utf8")) as { findings: { kind: string; severity: string }[] };
    // Striped pictures of a few hundred pixels in a film of 1080p.
    expect(new Set(findings.map(({ kind }) => kind))).toContain("enlarged");
    const stored = present(
      (await readdir(path.join(data, "media"), { recursive: true, withFileTypes: true })).find((entry) =>
        entry.isFile(),
      ),
    );
    const place = path.join(stored.parentPath, stored.name);
    await rename(place, at("away"));
    const missing = await runHere("check", "Regatta", "--data", data);
    await rename(at("away"), place);
    expect(missing.status).toBe(1);
    expect(missing.out).toMatch(/^error .*media-missing: /m);
    expect(missing.out).toMatch(/^NOT OK: 1 error$/m);
  });

  it("writes the film for other tools, and finds what they moved", async () => {
    const data = at("gather-data");
    for (const format of ["otio", "edl", "csv", "mid", "pdf"]) {
      const written = await runHere("timeline", "Regatta", "--to", at(`film.${format}`), "--data", data);
      expect([format, written.status, written.err]).toEqual([format, 0, ""]);
    }
    const same = await runHere("timeline", "Regatta", "--compare", at("film.edl"), "--data", data);
    expect([same.status, same.out]).toEqual([0, "Every change lies where the film has it."]);
    const otio = await readFile(at("film.otio"), "utf8");
    const third = itemAt([...new Set(otio.match(/\d+\.jpg/g))], 2);
    const moved = otio.replace(third, "forty.jpg").replace(third, "forty.jpg");
    await writeFile(at("moved.otio"), moved);
    const other = await runHere("timeline", "Regatta", "--compare", at("moved.otio"), "--data", data);
    expect(other.status).toBe(1);
    expect(other.out).toContain(`${third}: only in the film`);
    expect(other.out).toMatch(/2 lie elsewhere$/);
    const chapters = await runHere("timeline", "Regatta", "--to", at("film.vtt"), "--data", data);
    expect([chapters.status, chapters.err]).toEqual([1, expect.stringContaining("Divide it on Gather")]);
  });

  it("writes a folder that plays by itself, and never over something else", async () => {
    const data = at("gather-data");
    const written = await runHere("player", "Regatta", "--to", at("player"), "--data", data);
    expect([written.status, written.err]).toEqual([0, ""]);
    expect(await readdir(at("player"))).toEqual(["film", "index.html"]);
    expect((await readdir(at("player/film/pictures"))).length).toBeGreaterThan(5);
    const again = await runHere("player", "Regatta", "--to", at("player"), "--data", data);
    expect([again.status, again.err]).toEqual([1, expect.stringContaining("Nothing was written")]);
    const unknown = await runHere("player", "Regatta", "--to", at("p2"), "--output", "Square", "--data", data);
    expect([unknown.status, unknown.err]).toEqual([1, expect.stringContaining('no output "Square"')]);
  });

  it("packs a show and opens it elsewhere, and refuses what is no package", async () => {
    const packed = await runHere("pack", "Regatta", at("regatta.zip"), "--data", at("gather-data"));
    expect([packed.status, packed.out]).toEqual([0, expect.stringMatching(/regatta.zip: "Regatta", \d+\.\d MB/)]);
    const opened = await runHere("unpack", at("regatta.zip"), "--data", at("elsewhere"));
    expect([opened.status, opened.out]).toEqual([0, expect.stringContaining('Opened "Regatta", 12 slides')]);
    const refused = await runHere("unpack", at("song.wav"), "--data", at("elsewhere"));
    expect([refused.status, refused.err]).toEqual([1, expect.stringContaining("not a whole zip file")]);
    expect((await runHere("pack", "Nobody", at("x.zip"), "--data", at("elsewhere"))).err).toContain(
      'no show named "Nobody"',
    );
    await runHere("unpack", at("regatta.zip"), "--data", at("elsewhere"));
    expect((await runHere("pack", "Regatta", at("x.zip"), "--data", at("elsewhere"))).err).toContain(
      "2 shows are named",
    );
  });
});
