import { timeLeftText } from "@humming-tide/core/time";

/** What a command prints to. `progressLine` appears on a terminal only; in a pipe there is none. */
export interface Terminal {
  print(line: string): void;
  complain(line: string): void;
  progressLine(text: string, share: number): void;
  endProgress(): void;
}

const REDRAW_MS = 200;

export function processTerminal(): Terminal {
  const stream = process.stderr;
  let shown = false;
  let drawnAt = 0;
  let startedAt = 0;
  const clear = (): void => {
    if (shown) stream.write("\r\x1b[K");
    shown = false;
  };
  return {
    print(line) {
      clear();
      process.stdout.write(`${line}\n`);
    },
    complain(line) {
      clear();
      process.stderr.write(`${line}\n`);
    },
    progressLine(text, share) {
      if (!stream.isTTY || Date.now() - drawnAt < REDRAW_MS) return;
      if (startedAt === 0) startedAt = Date.now();
      drawnAt = Date.now();
      const seconds = (Date.now() - startedAt) / 1000;
      const left = share > 0.02 && seconds > 2 ? `, ${timeLeftText((seconds / share) * (1 - share))} left` : "";
      stream.write(`\r\x1b[K${text} ${Math.floor(share * 100)} %${left}`);
      shown = true;
    },
    endProgress() {
      clear();
      startedAt = 0;
    },
  };
}
