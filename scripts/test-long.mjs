// npm run test:long: the seeded properties 10,000 times each instead of 500, and 100 kills of the server instead of 10.
import { checkNode, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
const files = [
  "core/src/fit",
  "core/src/show",
  "core/src/interchange/slide-list",
  "web/src/store",
  "server/src/jobs/kill",
];
const seed = process.env.HUMMING_TIDE_SEED ?? String(Math.floor(Math.random() * 2 ** 31));
console.log(`Seed of the properties: HUMMING_TIDE_SEED=${seed}`);
run("npx", ["--no-install", "vitest", "run", "--testTimeout", "1200000", ...files], {
  env: { ...process.env, HUMMING_TIDE_LONG: "1", HUMMING_TIDE_SEED: seed },
});
