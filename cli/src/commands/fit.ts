import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { filmFacts, fitShow, planFilm, waysOut } from "@humming-tide/core/film";
import { conflictText, fitMessageText, namedLocks } from "@humming-tide/core/fit";
import { fitPlanJson, type MusicJson, musicAnalysisOf } from "@humming-tide/core/interchange";
import type { MusicAnalysis } from "@humming-tide/core/music";
import { readShowDocument, type ShowDocument } from "@humming-tide/core/show";
import { readPackedShow } from "@humming-tide/server";
import { filesOf, required, splitArguments } from "../arguments.ts";
import { commandError } from "../command-errors.ts";
import type { Terminal } from "../terminal.ts";

export const FIT_HELP = `humming-tide fit SHOW --music ANALYSIS.json --out PLAN.json

Lays the slides of a show on its music and writes down where each lands, without pictures or sound.

  SHOW                   a show document (show.json) or a package (.tide.zip)
  --music ANALYSIS.json  what "humming-tide analyze --json-dir" wrote of the show's song; for
                         several songs one file each, with commas between
  --out PLAN.json        the plan

Wishes that were not met are in the plan, with what they cost. Formats: docs/formats.md.
Exit codes:
0 laid, 1 failed or locks that cannot hold together (PLAN.json is not written), 2 wrong arguments.`;

export async function fit(args: readonly string[], terminal: Terminal): Promise<number> {
  const parsed = splitArguments(args, ["music", "out"]);
  const [file] = filesOf("fit", parsed, ["SHOW"]);
  const out = required(parsed, "out");
  const analyses = await Promise.all(required(parsed, "music").split(",").map(readMusic));
  const show = await readShow(file);
  const byStem = new Map(analyses.map((music) => [path.parse(music.file).name, music]));
  const bySong = new Map(
    show.songs.map((song) => {
      const music = byStem.get(path.parse(song.fileName).name) ?? (analyses.length === 1 ? analyses[0] : undefined);
      if (!music) throw commandError("song-without-analysis", { fileName: song.fileName });
      return [song.sha256, musicAnalysisOf(music)] as const;
    }),
  );
  const analysis = (sha256: string): MusicAnalysis | undefined => bySong.get(sha256);
  // Slots do not depend on what the pictures look like.
  const facts = filmFacts(analysis, () => ({ width: 1, height: 1 }));
  const laid = fitShow(show, facts);
  const { request, result } = laid;
  if (result.conflict.length > 0) {
    terminal.complain(`${conflictText(namedLocks(request, result.conflict))} Nothing was written.`);
    return 1;
  }
  const plan = planFilm(show, facts);
  const ways = waysOut(show, laid, facts);
  await writeFile(out, `${JSON.stringify(fitPlanJson(show, plan, ways), null, 1)}\n`);
  for (const message of plan.messages) terminal.print(fitMessageText(message));
  return 0;
}

async function readShow(file: string): Promise<ShowDocument> {
  const content = await read(file);
  if (content.subarray(0, 2).toString("latin1") === "PK") return readPackedShow(file);
  try {
    return readShowDocument(parsedJson(content, file));
  } catch (error) {
    // What Zod finds wrong, by its first place.
    const issue = (error as { issues?: readonly { path: readonly PropertyKey[]; message: string }[] }).issues?.[0];
    if (!issue) throw error;
    throw commandError("not-a-show", {
      file,
      place: issue.path.map(String).join(".") || "top level",
      why: issue.message,
    });
  }
}

async function readMusic(file: string): Promise<MusicJson> {
  const music = parsedJson(await read(file), file) as Partial<MusicJson>;
  if (typeof music.durationSeconds !== "number" || !Array.isArray(music.beats))
    throw commandError("not-an-analysis", { file });
  return music as MusicJson;
}

async function read(file: string): Promise<Buffer> {
  try {
    return await readFile(file);
  } catch (cause) {
    throw commandError("cannot-read", { file, why: (cause as Error).message });
  }
}

function parsedJson(content: Buffer, file: string): unknown {
  try {
    return JSON.parse(content.toString("utf8"));
  } catch (cause) {
    throw commandError("no-json", { file, why: (cause as Error).message });
  }
}
