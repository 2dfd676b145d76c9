import type { FilmPlan } from "../film/index.ts";
import type { ShowDocument } from "../show/index.ts";
import type { SoundLevels } from "../sound/index.ts";
import type { Finding } from "./finding.ts";

/**
 * How near a film has to come to its loudness: EBU R 128 allows 0.5 LU for what is made with care.
 */
const LOUDNESS_TOLERANCE_LU = 0.5;
/**
 * What is left as it was mixed is expected between these; common practice for films on screens at
 * home and on the web.
 */
const DEFAULT_LUFS = { softest: -24, loudest: -9, offered: -14 };
/** Highest true peak of a file: EBU R 128. */
const HIGHEST_TRUE_PEAK_DBTP = -1;

const EVERYWHERE: Finding["place"] = { slotIndex: null, slideId: null, seconds: null, outputs: [] };

/** Loudness and true peak of the whole mix, as it is after its master. */
export function checkLevels({ mix }: Pick<ShowDocument, "mix">, levels: SoundLevels): Finding[] {
  const { integratedLufs, truePeakDbtp } = levels;
  const wishedLufs = mix.targetLufs;
  const findings: Finding[] = [];
  const bringTo: Finding["fixes"] = [{ kind: "loudness", lufs: DEFAULT_LUFS.offered }];
  const isMissed =
    integratedLufs === null ||
    (wishedLufs === null
      ? integratedLufs > DEFAULT_LUFS.loudest || integratedLufs < DEFAULT_LUFS.softest
      : Math.abs(integratedLufs - wishedLufs) > LOUDNESS_TOLERANCE_LU);
  if (isMissed)
    findings.push({
      kind: "loudness",
      severity: "warning",
      place: EVERYWHERE,
      values: {
        lufs: integratedLufs,
        wishedLufs,
        softestLufs: DEFAULT_LUFS.softest,
        loudestLufs: DEFAULT_LUFS.loudest,
      },
      fixes: integratedLufs !== null && wishedLufs === null ? bringTo : [],
    });
  if (truePeakDbtp !== null && truePeakDbtp > HIGHEST_TRUE_PEAK_DBTP + 0.05)
    findings.push({
      kind: "true-peak",
      severity: "error",
      place: EVERYWHERE,
      values: { dbtp: truePeakDbtp, highestDbtp: HIGHEST_TRUE_PEAK_DBTP },
      fixes: bringTo,
    });
  return findings;
}

/** What planning had to say about voices and clips. */
export function soundRemarksAsFindings({ soundRemarks }: Pick<FilmPlan, "soundRemarks">): Finding[] {
  return soundRemarks.map(({ text }) => ({
    kind: "sound",
    severity: "hint",
    place: EVERYWHERE,
    values: { remark: text },
    fixes: [],
  }));
}
