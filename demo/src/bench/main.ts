import { cpus } from "node:os";
import { benchAnalysis } from "./bench-analysis.ts";
import { benchExport } from "./bench-export.ts";
import { benchFaces } from "./bench-faces.ts";
import { benchFit } from "./bench-fit.ts";
import { benchFormats } from "./bench-formats.ts";
import { benchIntake } from "./bench-intake.ts";
import { benchMemory } from "./bench-memory.ts";
import { benchMoments } from "./bench-moments.ts";
import { benchSound } from "./bench-sound.ts";
import { benchThumbnails } from "./bench-thumbnails.ts";

const BENCHES: Readonly<Record<string, (...folders: string[]) => Promise<void> | void>> = {
  analysis: benchAnalysis,
  faces: benchFaces,
  fit: benchFit,
  export: benchExport,
  formats: benchFormats,
  memory: benchMemory,
  moments: benchMoments,
  intake: benchIntake,
  thumbnails: benchThumbnails,
  sound: benchSound,
};

// Names of benches, and folders for those that measure a corpus.
const asked = process.argv.slice(2).filter((name) => name in BENCHES);
const folders = process.argv.slice(2).filter((name) => !(name in BENCHES));
console.log(
  `${new Date().toISOString().slice(0, 10)}, Node ${process.versions.node}, ${cpus().length} x ${cpus()[0]?.model.trim()}`,
);
for (const [name, bench] of Object.entries(BENCHES)) {
  if (asked.length > 0 && !asked.includes(name)) continue;
  console.log(`\n${name}`);
  await bench(...folders);
}
