// Every background thread starts here: tsx translates the TypeScript of the tasks.
import { register } from "tsx/esm/api";

register();
const loading = import("./run-task.ts");
export default async (call) => (await loading).default(call);
