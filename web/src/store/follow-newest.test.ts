import { present } from "@humming-tide/core/presence";
import { expect, it } from "vitest";
import { FollowNewest } from "./follow-newest.ts";

interface Saved {
  readonly revision: number;
  readonly document: string;
}

/** A server whose answers are given by hand, in any order, as it was when it was asked. */
function world() {
  let server: Saved = { revision: 1, document: "one" };
  let here: Saved | null = server;
  const answers: (() => void)[] = [];
  const follower = new FollowNewest<Saved>({
    here: () => here,
    ask: () => {
      const then = server;
      return new Promise((resolve) => answers.push(() => resolve(then)));
    },
    take: (newest) => {
      here = newest;
    },
  });
  const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));
  return {
    follower,
    here: () => here,
    edit: (edited: Saved | null) => {
      here = edited;
    },
    save: (document: string) => {
      server = { revision: server.revision + 1, document };
      return follower.hear(server.revision);
    },
    asked: () => answers.length,
    answer: async () => {
      present(answers.shift())();
      await settle();
    },
  };
}

it("takes over the newest of two that are saved while the first is on its way", async () => {
  const { save, answer, here, asked } = world();
  const first = save("two");
  const second = save("three");
  expect(asked()).toBe(1);
  await answer();
  await answer();
  await Promise.all([first, second]);
  expect(here()).toEqual({ revision: 3, document: "three" });
  expect(asked()).toBe(0);
});

it("asks once where nothing newer is heard of, and takes nothing older", async () => {
  const { follower, answer, here, asked } = world();
  const looked = follower.look();
  await answer();
  await looked;
  expect([present(here()).revision, asked()]).toEqual([1, 0]);
});

it("ends where more was heard of than there is, as of a show that was open before", async () => {
  const { follower, answer, asked } = world();
  const heard = follower.hear(500);
  await answer();
  await heard;
  expect(asked()).toBe(0);
});

it("takes nothing over what was edited meanwhile, and asks for nothing while that is unsaved", async () => {
  const { save, edit, answer, here, asked } = world();
  const heard = save("two");
  edit(null);
  await answer();
  await heard;
  expect(here()).toBeNull();
  await save("three");
  expect(asked()).toBe(0);
});

it("asks again where the answer came too late for what is here now", async () => {
  const { save, edit, answer, here } = world();
  const heard = save("two");
  // Saved by this window meanwhile.
  edit({ revision: 1, document: "one, edited" });
  const more = save("three");
  await answer();
  await answer();
  await Promise.all([heard, more]);
  expect(here()).toEqual({ revision: 3, document: "three" });
});
