import { readdir, readFile } from "node:fs/promises";

/** Megabytes that a process holds now, or held at most; 0 for one that has ended. Linux alone. */
export async function memoryOf(processId: number, what: "VmRSS" | "VmHWM" = "VmRSS"): Promise<number> {
  const status = await readFile(`/proc/${processId}/status`, "utf8").catch(() => "");
  return Math.round(Number(new RegExp(`${what}:\\s+(\\d+)`).exec(status)?.[1] ?? 0) / 1024);
}

/** The same of a process and all that it has started. */
export async function memoryOfTree(processId: number): Promise<number> {
  const parents = new Map<number, number>();
  for (const name of await readdir("/proc")) {
    if (!/^\d+$/.test(name)) continue;
    const stat = await readFile(`/proc/${name}/stat`, "utf8").catch(() => "");
    // The second field is a name in brackets that may hold anything.
    parents.set(Number(name), Number(stat.slice(stat.lastIndexOf(")") + 2).split(" ")[1]));
  }
  let sum = 0;
  for (const id of parents.keys()) {
    let at: number | undefined = id;
    while (at && at !== processId) at = parents.get(at);
    if (at === processId) sum += await memoryOf(id);
  }
  return sum;
}
