import { type ChildProcess, spawn } from "node:child_process";
import { once } from "node:events";
import path from "node:path";
import type { SavedShow } from "@humming-tide/contract";
import { itemAt } from "@humming-tide/core/presence";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createShow, sendFile, stripedJpeg, temporaryFolder } from "../testing/index.ts";
import { builtProgram } from "../workers/built-program.ts";

const SERVER = builtProgram(new URL("../main.ts", import.meta.url));
/** 4 in `npm test`, 100 in `npm run test:long`. */
const KILLS = process.env["HUMMING_TIDE_LONG"] ? 100 : 3;
/**
 * As the page saves (web/src/store/saving.ts): this long after the first edit that is not on its
 * way, however many follow.
 */
const LATEST_MS = 600;
const EDIT_EVERY_MS = 20;
/** What the show may lose: what a page promises. */
const MAY_LOSE_MS = 1000;

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let running: ChildProcess | null = null;
beforeAll(async () => {
  place = await temporaryFolder();
});
afterAll(async () => {
  running?.kill("SIGKILL");
  await place.remove();
});

async function startServer(data: string): Promise<{ address: string; child: ChildProcess }> {
  const child = spawn(process.execPath, [SERVER, "--data", data, "--port", "0"], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  running = child;
  let text = "";
  for await (const chunk of child.stdout) {
    text += String(chunk);
    const match = /ready: (\S+)/.exec(text);
    if (match) return { address: itemAt(match, 1), child };
  }
  throw new Error(`The server did not start: ${text}`);
}

const load = async (address: string, id: string): Promise<SavedShow> =>
  (await (await fetch(`${address}/api/shows/${id}`)).json()) as SavedShow;

/** Random numbers that a failed run can be repeated with. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1_103_515_245 + 12_345) % 2 ** 31;
    return state / 2 ** 31;
  };
}

describe("a server killed at any moment under load", () => {
  it(`keeps everything that it confirmed and loses at most the last second of edits, ${KILLS} times`, async () => {
    const data = path.join(place.folder, "data");
    const random = seeded(20_310_621);
    let server = await startServer(data);
    const showId = await createShow(server.address);
    let worstLossMs = 0;
    // A machine that has no time for this process has none for the server either: on the way there,
    // at work, on the way back.
    let worstStallMs = 0;
    for (let round = 0; round < KILLS; round++) {
      let { document, revision } = await load(server.address, showId);
      /**
       * When each edit was made, by its number; the document's title is the number of the last edit
       * in it.
       */
      const madeAt = new Map<number, number>();
      let edits = Number(document.title.split(" ")[1] ?? 0);
      let confirmed = edits;
      let dead = false;
      let tickedAt = performance.now();
      const editing = setInterval(() => {
        worstStallMs = Math.max(worstStallMs, performance.now() - tickedAt - EDIT_EVERY_MS);
        tickedAt = performance.now();
        document = { ...document, title: `Edit ${++edits}` };
        madeAt.set(edits, performance.now());
      }, EDIT_EVERY_MS);
      const saving = (async () => {
        while (!dead) {
          await new Promise((resolve) => setTimeout(resolve, LATEST_MS));
          const sent = document;
          const answer = await fetch(`${server.address}/api/shows/${showId}`, {
            method: "PUT",
            headers: { "Content-Type": "application/json", "If-Match": `"${revision}"` },
            body: JSON.stringify(sent),
          }).catch(() => null);
          if (!answer?.ok) return;
          ({ revision } = (await answer.json().catch(() => ({ revision }))) as { revision: number });
          confirmed = Number(sent.title.split(" ")[1]);
        }
      })();
      // Load beside it: pictures come in all the time.
      const loading = (async () => {
        for (let i = 0; !dead; i++) {
          const picture = await stripedJpeg(round * 1000 + i, 900, 600);
          await sendFile(server.address, showId, picture, `${round} ${i}.jpg`).catch(() => null);
        }
      })();
      await new Promise((resolve) => setTimeout(resolve, 400 + random() * 2600));
      const killedAt = performance.now();
      server.child.kill("SIGKILL");
      clearInterval(editing);
      dead = true;
      await once(server.child, "exit");
      await Promise.all([saving, loading]);

      server = await startServer(data);
      const found = await load(server.address, showId);
      const kept = Number(found.document.title.split(" ")[1] ?? 0);
      // What was confirmed is there; what is there was really made; the revision counts what was
      // saved.
      expect(kept).toBeGreaterThanOrEqual(confirmed);
      expect(kept).toBeLessThanOrEqual(edits);
      const oldestLost = madeAt.get(kept + 1);
      if (oldestLost !== undefined) worstLossMs = Math.max(worstLossMs, killedAt - oldestLost);
      const history = (await (await fetch(`${server.address}/api/shows/${showId}/revisions`)).json()) as {
        revisions: { revision: number }[];
      };
      expect(itemAt(history.revisions, 0).revision).toBe(found.revision);
    }
    console.log(`${KILLS} kills: at most the last ${Math.round(worstLossMs)} ms of edits were lost.`);
    expect(worstLossMs).toBeLessThan(MAY_LOSE_MS + 3 * worstStallMs);
    server.child.kill("SIGKILL");
    await once(server.child, "exit");
  }, 900_000);
});
