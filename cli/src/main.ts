import { HummingTideError } from "@humming-tide/core";
import { ANALYZE_HELP, analyze } from "./commands/analyze.ts";
import { CHECK_HELP, check } from "./commands/check.ts";
import { FIT_HELP, fit } from "./commands/fit.ts";
import { GATHER_HELP, gather } from "./commands/gather.ts";
import { MAKE_HELP, make } from "./commands/make.ts";
import { MARKS_HELP, marks } from "./commands/marks.ts";
import { PACK_HELP, pack, UNPACK_HELP, unpack } from "./commands/package.ts";
import { PLAYER_HELP, player } from "./commands/player.ts";
import { TIMELINE_HELP, timeline } from "./commands/timeline.ts";
import { VERIFY_HELP, verify } from "./commands/verify.ts";
import { processTerminal, type Terminal } from "./terminal.ts";
import { isUsageError } from "./usage-errors.ts";

const HELP = `humming-tide COMMAND ...

  analyze   find the beats of songs
  marks     beats and markers from one format to another
  fit       lay the slides of a show on its music
  make      make a film from a folder of pictures and a song
  verify    measure a film against its report
  check     look for what should not be handed over
  timeline  write the film for other tools, or compare what they made of it
  player    write the film as a folder that plays in any browser
  gather    bring a folder of pictures and clips into a show
  pack      write a show with all its media into one file
  unpack    open such a file as a new show

"humming-tide COMMAND --help" explains each. For the app in the browser: npm start.`;

const COMMANDS: Readonly<
  Record<string, { help: string; run: (args: readonly string[], terminal: Terminal) => Promise<number> }>
> = {
  analyze: { help: ANALYZE_HELP, run: analyze },
  marks: { help: MARKS_HELP, run: marks },
  fit: { help: FIT_HELP, run: fit },
  make: { help: MAKE_HELP, run: make },
  verify: { help: VERIFY_HELP, run: verify },
  check: { help: CHECK_HELP, run: check },
  timeline: { help: TIMELINE_HELP, run: timeline },
  player: { help: PLAYER_HELP, run: player },
  gather: { help: GATHER_HELP, run: gather },
  pack: { help: PACK_HELP, run: pack },
  unpack: { help: UNPACK_HELP, run: unpack },
};

/** Runs a command and returns its exit code: 0 done, 1 failed, 2 wrong arguments. */
export async function main(args: readonly string[], terminal: Terminal = processTerminal()): Promise<number> {
  const [name, ...rest] = args;
  const wantsHelp = args.some((arg) => arg === "--help" || arg === "-h");
  const command = name === undefined ? undefined : Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (wantsHelp) {
    terminal.print(command?.help ?? HELP);
    return 0;
  }
  if (!command) {
    terminal.complain(
      `${name === undefined ? "A command is missing" : `There is no command "${name}"`}. Commands: ${Object.keys(COMMANDS).join(", ")}. See humming-tide --help.`,
    );
    return 2;
  }
  try {
    return await command.run(rest, terminal);
  } catch (error) {
    terminal.endProgress();
    if (error instanceof HummingTideError && isUsageError(error.code)) {
      terminal.complain(`humming-tide ${name}: ${error.message} See humming-tide ${name} --help.`);
      return 2;
    }
    if (!(error instanceof HummingTideError)) throw error;
    terminal.complain(`humming-tide ${name}: ${error.message}`);
    return 1;
  }
}
