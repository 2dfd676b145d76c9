import type { FilmPlan } from "../film/index.ts";
import type { ShowDocument } from "../show/index.ts";
import type { SoundLevels } from "../sound/index.ts";
import type { Finding } from "./finding.ts";

/** How near a film has to come to its loudness: EBU R 128 allows 0.5 LU for what is made with care. */
const LOUDNESS_TOLERANCE_LU = 0.5;
/** What is left as it was mixed is expected between these; common practice for films on screens at home and on the web. */
const DEFAULT_LUFS = { softest: -24, loudest: -9, offered: -14 };
/** Highest true peak of a file: EBU R 128. */
const HIGHEST_TRUE_PEAK_DBTP = -1;

const EVERYWHERE: Finding["place"] = { slotIndex: null, slideId: null, seconds: null, outputs: [] };

/** Loudness and true peak of the whole mix, as it is after its master. */
export function checkLevels({ mix }: Pick<ShowDocument, "mix">, levels: SoundLevels): Finding[] {
  const { integratedLufs, truePeakDbtp } = levels;
  const findings: Finding[] = [];
  const loud = (value: number): string => value.toFixed(1).replace("-", "−");
  if (integratedLufs === null) {
    findings.push({
      kind: "loudness",
      severity: "warning",
      place: EVERYWHERE,
      text: "The film is silent, or too short to be measured (0.4 s). Is every song muted?",
      value: 0,
      limit: 0,
      unit: "LUFS",
      fixes: [],
    });
  } else if (mix.targetLufs !== null && Math.abs(integratedLufs - mix.targetLufs) > LOUDNESS_TOLERANCE_LU) {
    findings.push({
      kind: "loudness",
      severity: "warning",
      place: EVERYWHERE,
      text: `The film comes to ${loud(integratedLufs)} LUFS (ITU-R BS.1770) where ${loud(mix.targetLufs)} are wished. Its peaks, or what is hardly there, leave no room for more.`,
      value: integratedLufs,
      limit: mix.targetLufs,
      unit: "LUFS",
      fixes: [],
    });
  } else if (
    mix.targetLufs === null &&
    (integratedLufs > DEFAULT_LUFS.loudest || integratedLufs < DEFAULT_LUFS.softest)
  ) {
    const isLoud = integratedLufs > DEFAULT_LUFS.loudest;
    findings.push({
      kind: "loudness",
      severity: "warning",
      place: EVERYWHERE,
      text: `The film comes to ${loud(integratedLufs)} LUFS (ITU-R BS.1770), ${isLoud ? "louder" : "softer"} than films usually are (${loud(DEFAULT_LUFS.softest)} to ${loud(DEFAULT_LUFS.loudest)}); no loudness is wished for it.`,
      value: integratedLufs,
      limit: isLoud ? DEFAULT_LUFS.loudest : DEFAULT_LUFS.softest,
      unit: "LUFS",
      fixes: [
        {
          label: `Bring it to ${loud(DEFAULT_LUFS.offered)} LUFS`,
          fix: { kind: "loudness", lufs: DEFAULT_LUFS.offered },
        },
      ],
    });
  }
  if (truePeakDbtp !== null && truePeakDbtp > HIGHEST_TRUE_PEAK_DBTP + 0.05)
    findings.push({
      kind: "true-peak",
      severity: "error",
      place: EVERYWHERE,
      text: `The sound peaks at ${loud(truePeakDbtp)} dBTP; above ${loud(HIGHEST_TRUE_PEAK_DBTP)} (EBU R 128) players may distort it.`,
      value: truePeakDbtp,
      limit: HIGHEST_TRUE_PEAK_DBTP,
      unit: "dBTP",
      fixes: [
        {
          label: `Bring it to ${loud(DEFAULT_LUFS.offered)} LUFS`,
          fix: { kind: "loudness", lufs: DEFAULT_LUFS.offered },
        },
      ],
    });
  return findings;
}

/** What planning had to say about voices and clips. */
export function soundRemarksAsFindings({ soundRemarks }: Pick<FilmPlan, "soundRemarks">): Finding[] {
  return soundRemarks.map(({ text }) => ({
    kind: "sound",
    severity: "hint",
    place: EVERYWHERE,
    text,
    value: 1,
    limit: 0,
    unit: "files",
    fixes: [],
  }));
}
