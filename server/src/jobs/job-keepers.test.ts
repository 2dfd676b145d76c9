import path from "node:path";
import type { JobStatus } from "@humming-tide/contract";
import { present } from "@humming-tide/core/presence";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { openDatabase, type StudioDatabase } from "../store/database.ts";
import { JobTable } from "../store/job-table.ts";
import { temporaryFolder } from "../testing/index.ts";
import { type JobKeeper, MOST_TRIES } from "./job-keeper.ts";
import { MemoryJobs } from "./memory-jobs.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let database: StudioDatabase;

beforeAll(async () => {
  place = await temporaryFolder();
  database = await opened("jobs.sqlite");
});
afterAll(async () => {
  await database.sequelize.close();
  await place.remove();
});

type Shown = Pick<JobStatus, "step" | "error" | "tries"> & { readonly state: string };

interface Kept {
  readonly keeper: JobKeeper;
  readonly add: (id: string) => Promise<void> | void;
  readonly status: (id: string) => Promise<Shown> | Shown;
}

/** A database whose jobs need no clip behind them. */
async function opened(name: string): Promise<StudioDatabase> {
  const fresh = await openDatabase(path.join(place.folder, name));
  await fresh.sequelize.query("PRAGMA foreign_keys = OFF");
  return fresh;
}

const inMemory = (): Kept => {
  const keeper = new MemoryJobs();
  return { keeper, add: (id) => keeper.add(id), status: (id) => keeper.status(id) };
};

const inTable = async (): Promise<Kept> => {
  await database.proxies.destroy({ where: {} });
  let age = 0;
  return {
    keeper: new JobTable(database.sequelize, "proxies"),
    add: async (id) => {
      const createdAt = new Date(1_700_000_000_000 + 1000 * age++);
      await database.proxies.create({ id, state: "queued", error: null, createdAt });
    },
    status: async (id) => {
      const row = await database.proxies.findByPk(id);
      return {
        state: present(row).state,
        step: present(row).step,
        error: present(row).error,
        tries: present(row).tries,
      };
    },
  };
};

/** Both keepers do the same. */
describe.each([
  ["in memory", inMemory],
  ["in a table", inTable],
])("jobs that are kept %s", (_, open) => {
  let kept: Kept;
  let keeper: JobKeeper;
  beforeEach(async () => {
    kept = await open();
    keeper = kept.keeper;
    for (const id of ["a", "b", "c"]) await kept.add(id);
  });

  it("are claimed once each, the oldest first, however many ask", async () => {
    const claimed = await Promise.all(Array.from({ length: 5 }, async () => keeper.claimNext(1)));
    expect(claimed.filter((id) => id !== null).sort()).toEqual(["a", "b", "c"]);
    expect(await kept.status("a")).toMatchObject({ state: "running", tries: 1 });
  });

  it("can be put before all others, and again before that one", async () => {
    expect(await keeper.moveToFront("c")).toBe(true);
    expect(await keeper.moveToFront("b")).toBe(true);
    const order = [await keeper.claimNext(1), await keeper.claimNext(1), await keeper.claimNext(1)];
    expect(order).toEqual(["b", "c", "a"]);
    expect(await keeper.moveToFront("b")).toBe(false);
  });

  it("are abandoned when nobody renews their lease, and fail at the last try", async () => {
    for (let tries = 1; tries <= MOST_TRIES; tries++) {
      expect(await keeper.claimNext(100 * tries)).toBe("a");
      await keeper.renew("a", 100 * tries + 50);
      expect(await keeper.requeueAbandoned(100 * tries + 49, "gave up")).toEqual([]);
      expect(await keeper.requeueAbandoned(100 * tries + 50, "gave up")).toEqual(["a"]);
      const isLast = tries === MOST_TRIES;
      expect(await kept.status("a")).toMatchObject({
        ...{ state: isLast ? "failed" : "queued", tries, error: isLast ? "gave up" : null },
      });
    }
    expect(await keeper.claimNext(1)).toBe("b");
  });

  it("are given back without a try, and only while they run", async () => {
    await keeper.claimNext(1);
    await keeper.putBack("a");
    expect(await kept.status("a")).toMatchObject({ state: "queued", tries: 0 });
    await keeper.cancelWaiting("a", "Stopped");
    await keeper.putBack("a");
    expect(await kept.status("a")).toMatchObject({ state: "cancelled", step: "Stopped" });
  });

  it("are cancelled while they wait or are paused, and resumed after a pause or a failure", async () => {
    await keeper.claimNext(1);
    expect(await keeper.cancelWaiting("a", "Stopped")).toBe(false);
    await keeper.end("a", { state: "paused", step: "Paused", error: "signed out" });
    expect(await kept.status("a")).toMatchObject({ state: "paused", error: "signed out" });
    expect(await keeper.resume("a")).toBe(true);
    expect(await kept.status("a")).toMatchObject({ state: "queued", error: null, tries: 0 });
    expect(await keeper.resume("a")).toBe(false);
    expect(await keeper.cancelWaiting("a", "Stopped")).toBe(true);
    expect(await keeper.resume("a")).toBe(false);
  });

  it("take progress only while they run: what comes late changes nothing", async () => {
    await keeper.claimNext(1);
    await keeper.progress("a", "Drawing", 0.4);
    await keeper.end("a", { state: "done", step: "Done", error: null, progress: 1 });
    await keeper.progress("a", "Drawing", 0.5);
    expect(await kept.status("a")).toMatchObject({ state: "done", step: "Done" });
  });
});

it("two databases in one process keep their jobs apart", async () => {
  const other = await opened("other.sqlite");
  try {
    await database.proxies.destroy({ where: {} });
    await other.proxies.create({ id: "there", state: "queued", error: null });
    expect(await new JobTable(database.sequelize, "proxies").claimNext(1)).toBeNull();
    expect(await new JobTable(other.sequelize, "proxies").claimNext(1)).toBe("there");
  } finally {
    await other.sequelize.close();
  }
});
