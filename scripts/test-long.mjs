// npm run test:long: the seeded properties 10,000 times each instead of 500, and 100 kills of the server instead of 10.
import { checkNode, ensurePackages, ensurePrograms, run } from "./setup.mjs";

checkNode();
ensurePackages();
ensurePrograms({ ffmpeg: "ffmpeg" });
const files = ["core/src/show", "core/src/interchange/slide-list", "web/src/store", "server/src/jobs/kill"];
run("npx", ["--no-install", "vitest", "run", "--testTimeout", "1200000", ...files], {
  env: { ...process.env, HUMMING_TIDE_LONG: "1" },
});
