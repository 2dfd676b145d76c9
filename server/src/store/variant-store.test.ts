import { MOST_VARIANTS, type SavedShow, type Variant } from "@humming-tide/contract";
import { itemAt } from "@humming-tide/core/presence";
import request from "supertest";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestApp, type TestApp } from "../testing/test-app.ts";

let opened: TestApp;
let studio: TestApp["studio"];
let app: TestApp["app"];

beforeAll(async () => {
  opened = await openTestApp();
  ({ studio, app } = opened);
});
afterAll(() => opened.close());

const newShow = async (): Promise<SavedShow> =>
  (await request(app).post("/api/shows").send({ title: "Regatta" })).body as SavedShow;
const keep = (id: string, name: string, revision: number) =>
  request(app).post(`/api/shows/${id}/variants`).send({ name, revision });
const listed = async (id: string): Promise<Variant[]> =>
  (await request(app).get(`/api/shows/${id}/variants`).expect(200)).body as Variant[];

describe("variants of a show", () => {
  it("hold the film of their revision whatever is saved behind it, and lose only their name", async () => {
    const { id, document } = await newShow();
    const variant = (await keep(id, "Calm", 1).expect(201)).body as Variant;
    await studio.shows.save(id, 1, { ...document, pace: { kind: "bars", count: 2 } });
    await keep(id, "Quick", 2).expect(201);
    expect((await listed(id)).map(({ name, revision }) => [name, revision])).toEqual([
      ["Quick", 2],
      ["Calm", 1],
    ]);
    const kept = (await request(app).get(`/api/shows/${id}/variants/${variant.id}`).expect(200)).body as SavedShow;
    expect(kept.document).toEqual(document);
    expect(kept.revision).toBe(1);

    const renamed = await request(app).patch(`/api/shows/${id}/variants/${variant.id}`).send({ name: "Very calm" });
    expect(renamed.body).toMatchObject({ id: variant.id, name: "Very calm", revision: 1 });
    await request(app).delete(`/api/shows/${id}/variants/${variant.id}`).expect(204);
    expect((await listed(id)).map(({ name }) => name)).toEqual(["Quick"]);
    await request(app).get(`/api/shows/${id}/variants/${variant.id}`).expect(404);
    expect((await request(app).get(`/api/shows/${id}/revisions/1`).expect(200)).body).toEqual(document);
  });

  it("are of one show: another show's address does not reach them", async () => {
    const [one, other] = [await newShow(), await newShow()];
    const { id } = (await keep(one.id, "Calm", 1)).body as Variant;
    await request(app).get(`/api/shows/${other.id}/variants/${id}`).expect(404);
    await request(app).patch(`/api/shows/${other.id}/variants/${id}`).send({ name: "Taken" }).expect(404);
    await request(app).delete(`/api/shows/${other.id}/variants/${id}`);
    expect((await listed(one.id)).map(({ name }) => name)).toEqual(["Calm"]);
  });

  it("are refused without a name or a revision that is there, and beyond the most", async () => {
    const { id } = await newShow();
    for (const [name, revision] of [
      ["", 1],
      ["   ", 1],
      ["x".repeat(300), 1],
      ["Calm", 0],
    ] as const)
      await keep(id, name, revision).expect(400);
    expect((await keep(id, "Calm", 7).expect(404)).body).toMatchObject({ code: "revision-unknown" });
    // All at once, so that a count before another's write would let one more in.
    const answers = await Promise.all(Array.from({ length: MOST_VARIANTS + 3 }, (_, i) => keep(id, `Film ${i}`, 1)));
    expect(answers.filter(({ status }) => status === 201)).toHaveLength(MOST_VARIANTS);
    expect(answers.filter(({ status }) => status === 409)).toHaveLength(3);
    expect(await listed(id)).toHaveLength(MOST_VARIANTS);
  });

  it("go with a show that is taken away for good, and wait with one that is deleted", async () => {
    const { id } = await newShow();
    await keep(id, "Calm", 1).expect(201);
    await studio.shows.put(id, "deleted");
    await request(app).get(`/api/shows/${id}/variants`).expect(410);
    const [waiting] = await studio.stores.variants.list(id);
    await request(app).delete(`/api/shows/${id}/variants/${waiting?.id}`).expect(410);
    await studio.shows.put(id, "shelf");
    expect((await listed(id)).map(({ name }) => name)).toEqual(["Calm"]);
    await studio.shows.put(id, "deleted");
    await studio.shows.purgeDeleted(new Date(Date.now() + 400 * 86_400_000));
    expect(await studio.stores.variants.list(id)).toEqual([]);
    expect(itemAt([await request(app).get(`/api/shows/${id}/variants`)], 0).status).toBe(404);
  });
});
