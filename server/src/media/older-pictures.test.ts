import path from "node:path";
import { Readable } from "node:stream";
import { isSeen, type PictureFacts } from "@humming-tide/contract";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openStudio, type Studio } from "../start-server.ts";
import { drawnFaces } from "../testing/drawn-faces.ts";
import { temporaryFolder } from "../testing/index.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let studio: Studio;
beforeAll(async () => {
  place = await temporaryFolder();
  studio = await openStudio(path.join(place.folder, "data"));
});
afterAll(async () => {
  await studio.close();
  await place.remove();
});

async function takenIn(faces: number): Promise<PictureFacts> {
  const where = Array.from({ length: faces }, (_, i) => ({ x: 200 + 400 * i, y: 300, radius: 130 }));
  const drawing = await drawnFaces({ width: 900, height: 600 }, where);
  const facts = await studio.library.takeIn(Readable.from([drawing]), `${faces}.png`);
  if (facts.kind !== "picture") throw new Error(`a ${facts.kind} came in`);
  return facts;
}
const headsOf = async (sha256: string): Promise<number | undefined> => {
  const facts = (await studio.library.facts([sha256])).get(sha256);
  return isSeen(facts) ? facts.subject?.heads?.length : undefined;
};

describe("pictures of an older version", () => {
  it("get their heads later, and nobody waits for them", async () => {
    const { subject, ...facts } = await takenIn(2);
    expect(subject?.heads).toHaveLength(2);
    const old = { point: { x: 0.1, y: 0.1 }, region: { x: 0, y: 0, width: 0.2, height: 0.2 } };
    await studio.stores.media.put({ ...facts, subject: old });
    expect(await headsOf(facts.sha256)).toBeUndefined();
    await expect.poll(() => headsOf(facts.sha256), { timeout: 20_000 }).toBe(2);
  });

  it("get a subject at once where they have none", async () => {
    const facts = await takenIn(1);
    await studio.stores.media.put({ ...facts, subject: null });
    expect(await headsOf(facts.sha256)).toBe(1);
  });
});
