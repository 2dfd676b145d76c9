import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { once } from "node:events";
import { cpSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { isSeen, type SavedShow, type ShowSummary } from "@humming-tide/contract";
import { type FilmPlan, factsOf, planFilm, type SeenMedia, speechName } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import { itemAt } from "@humming-tide/core/presence";
import { heardSounds, type ShowDocument } from "@humming-tide/core/show";
import type { SpeechFacts } from "@humming-tide/core/sound";
import { nodeProgram } from "../scripts/node-programs.mjs";

export const ROOT = fileURLToPath(new URL("..", import.meta.url));

/**
 * The real server in a process of its own on a free port, over a data folder that goes away with
 * it.
 */
export interface RunningApp {
  readonly address: string;
  readonly folder: string;
  /** Ends the server; `restart` takes up the same data again at the same address. */
  kill(): Promise<void>;
  restart(): Promise<void>;
  close(): Promise<void>;
}

/** `more`: further options of the server. */
export async function startApp(fill?: (dataFolder: string) => void, more: readonly string[] = []): Promise<RunningApp> {
  const folder = await mkdtemp(path.join(tmpdir(), "humming-tide-e2e-"));
  const data = path.join(folder, "data");
  fill?.(data);
  let { child, address } = await startServer(data, "0", more);
  const kill = async (): Promise<void> => {
    if (child.exitCode !== null || child.signalCode !== null) return;
    child.kill("SIGKILL");
    await once(child, "exit");
  };
  return {
    address,
    folder,
    kill,
    async restart() {
      await kill();
      ({ child, address } = await startServer(data, new URL(address).port, more));
    },
    async close() {
      await kill();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

async function startServer(
  data: string,
  port: string,
  more: readonly string[],
): Promise<{ child: ChildProcess; address: string }> {
  const child = spawn(
    process.execPath,
    [nodeProgram("server/src/main.ts"), "--data", data, "--port", port, "--client-port", "0", ...more],
    {
      cwd: ROOT,
      stdio: ["ignore", "pipe", "inherit"],
    },
  );
  let text = "";
  for await (const chunk of child.stdout) {
    text += String(chunk);
    const match = /ready: (\S+)/.exec(text);
    if (match) return { child, address: itemAt(match, 1) };
  }
  throw new Error(`The server did not start: ${text}`);
}

/** Where make-demo.ts put the demo, with its files beside it. */
export const DEMO_FOLDER = "HUMMING_TIDE_E2E_DEMO";

/** A copy of the demo, to work on. */
export function copyDemo(data: string): void {
  const made = process.env[DEMO_FOLDER];
  if (!made) throw new Error("The demo was not made before the tests");
  cpSync(path.join(made, "data"), data, { recursive: true });
  cpSync(path.join(made, "demo-files"), path.join(path.dirname(data), "demo-files"), { recursive: true });
}

export async function showsOf(app: RunningApp): Promise<ShowSummary[]> {
  return (await (await fetch(`${app.address}/api/shows`)).json()) as ShowSummary[];
}

/** A show as the server has it, not as the page believes. */
export async function savedShow(app: RunningApp, id: string): Promise<SavedShow> {
  for (let attempt = 1; ; attempt++) {
    const answer = await fetch(`${app.address}/api/shows/${id}`);
    if (answer.ok) return (await answer.json()) as SavedShow;
    // A machine with much other work may leave the server no time to read it within its limit.
    if (attempt === 5) throw new Error(`The show was not given: ${answer.status} ${await answer.text()}`);
    await new Promise((resolve) => setTimeout(resolve, 2000));
  }
}

/** Saves an edit of a show as another window would. */
export async function editShow(app: RunningApp, id: string, edit: (show: ShowDocument) => ShowDocument): Promise<void> {
  const { document, revision } = await savedShow(app, id);
  const { status } = await fetch(`${app.address}/api/shows/${id}`, {
    method: "PUT",
    headers: { "Content-Type": "application/json", "If-Match": `"${revision}"` },
    body: JSON.stringify(edit(document)),
  });
  if (status !== 200) throw new Error(`The edit was refused: ${status}`);
}

/** The film that follows from the saved show, computed here. */
export async function plannedFilm(app: RunningApp, id: string): Promise<FilmPlan> {
  const { document, media } = await savedShow(app, id);
  const asked = async <T>(sha256: string, what: string): Promise<T> =>
    (await (await fetch(`${app.address}/api/media/${sha256}/${what}`)).json()) as T;
  const analyses: Record<string, MusicAnalysis> = {};
  for (const { sha256 } of document.songs) analyses[sha256] = await asked(sha256, "analysis");
  const speech: Record<string, SpeechFacts> = {};
  for (const sha256 of heardSounds(document)) speech[sha256] = await asked(speechName(document, sha256), "speech");
  const seen: Record<string, SeenMedia> = {};
  for (const facts of Object.values(media)) if (isSeen(facts)) seen[facts.sha256] = facts;
  const facts = factsOf({ analyses, seen, speech });
  return planFilm(document, facts);
}

/** Runs the command line of the project. */
export function hummingTide(...args: string[]): { status: number | null; out: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, ["cli/bin/humming-tide.mjs", ...args], {
    cwd: ROOT,
    encoding: "utf8",
  });
  return { status, out: stdout + stderr };
}
