import { type ErrorData, HummingTideError } from "@humming-tide/core";
import { ZodError } from "zod";
import { tasks } from "./tasks.ts";

/**
 * What comes back from a background thread. Errors lose their class on the way, so they are told
 * apart here.
 */
export type TaskAnswer =
  | { readonly result: unknown }
  | { readonly issues: ZodError["issues"] }
  | { readonly error: ErrorData };

interface TaskCall {
  readonly name: keyof typeof tasks;
  readonly data: never;
}

export default async function runTask({ name, data }: TaskCall): Promise<TaskAnswer> {
  try {
    return { result: await tasks[name](data) };
  } catch (error) {
    if (error instanceof ZodError) return { issues: error.issues };
    if (error instanceof HummingTideError) return { error: error.data };
    throw error;
  }
}
