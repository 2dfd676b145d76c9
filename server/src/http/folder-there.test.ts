import { rename } from "node:fs/promises";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { openStudio } from "../start-server.ts";
import { createShow, temporaryFolder } from "../testing/index.ts";
import { outsideOf } from "../testing/outside-of.ts";
import { openTestServer } from "../testing/test-server.ts";
import { createApp } from "./app.ts";

describe("a data folder that goes away", () => {
  it("is noticed before anything is changed, and said in a sentence", async () => {
    const place = await temporaryFolder();
    const data = path.join(place.folder, "data");
    const studio = await openStudio(data);
    const services = { ...studio, ...outsideOf(studio), hostNames: new Set(["127.0.0.1"]), version: "test" };
    const { address, close } = await openTestServer(createApp(services));
    const create = async (): Promise<{ status: number; body: object }> => {
      const answer = await fetch(`${address}/api/shows`, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ title: "Lost" }),
      });
      return { status: answer.status, body: (await answer.json()) as object };
    };
    try {
      await createShow(address);
      await rename(data, path.join(place.folder, "away"));
      expect(await create()).toMatchObject({ status: 503, body: { code: "folder-gone" } });
      await rename(path.join(place.folder, "away"), data);
      expect(await create()).toMatchObject({ status: 201 });
    } finally {
      await close();
      await studio.close();
      await place.remove();
    }
  });
});
