// Every thread that listens starts here: tsx translates the TypeScript.
import { register } from "tsx/esm/api";

register();
const loading = import("./listen-task.ts");
export default async (audio) => (await loading).default(audio);
