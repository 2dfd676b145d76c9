import { parseArgs } from "node:util";
import { HummingTideError } from "@humming-tide/core";
import { BAD } from "@humming-tide/core/errors";
import { itemAt } from "@humming-tide/core/presence";

/** Wrong arguments: one clear line, exit code 2. */
export class UsageError extends HummingTideError {
  constructor(message: string) {
    super({ code: "usage", values: {}, message, meaning: BAD });
  }
}

export interface ParsedArguments<Option extends string> {
  readonly files: readonly string[];
  readonly options: Readonly<Partial<Record<Option, string>>>;
}

/** Splits a command's arguments into files and text options. Every option takes a value and may be given once. */
export function splitArguments<Option extends string>(
  args: readonly string[],
  known: readonly Option[],
): ParsedArguments<Option> {
  let parsed: { values: Record<string, unknown>; positionals: string[] };
  try {
    parsed = parseArgs({
      args: [...args],
      options: Object.fromEntries(known.map((name) => [name, { type: "string" as const, multiple: true as const }])),
      allowPositionals: true,
    });
  } catch (cause) {
    throw new UsageError(itemAt((cause as Error).message.split("\n"), 0));
  }
  const options: Partial<Record<Option, string>> = {};
  for (const name of known) {
    const values = parsed.values[name] as string[] | undefined;
    if (!values) continue;
    if (values.length > 1) throw new UsageError(`--${name} is given ${values.length} times, but once is enough.`);
    if (values[0] === "") throw new UsageError(`--${name} needs a value.`);
    options[name] = itemAt(values, 0);
  }
  return { files: parsed.positionals, options };
}

export function required<Option extends string>({ options }: ParsedArguments<Option>, name: Option): string {
  const value = options[name];
  if (value === undefined) throw new UsageError(`--${name} is missing.`);
  return value;
}
