// npm start: serves the user's own data folder. Options after "--": --data FOLDER --port NUMBER
// --host ADDRESS.
import { serve } from "./serve.mjs";
import { checkNode, ensureBuilt, ensurePackages } from "./setup.mjs";

checkNode();
ensurePackages();
await ensureBuilt();
serve(process.argv.slice(2));
