// Opens the data folder that is named and holds it until it is killed; for tests of kills and
// locks.
import { present } from "@humming-tide/core/presence";
import { openStudio } from "../start-server.ts";

const [dataFolder] = process.argv.slice(2);
console.log("begins");
try {
  await openStudio(present(dataFolder));
  console.log("open");
  setTimeout(() => process.exit(0), 60_000);
} catch (error) {
  console.error((error as Error).message);
  process.exit(1);
}
