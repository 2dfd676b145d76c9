/** The song as numbers: samples, spectra, chroma, loudness. */
export { ANALYSIS_SAMPLE_RATE, FRAME_HOPS, FRAME_SECONDS, HOP_SECONDS, type MonoAudio } from "./audio.ts";
export { type Chroma, chroma, PITCH_CLASSES } from "./chroma.ts";
export { convolve, halfPrecisionNumbers, type NetworkLayer, rectify } from "./convolution.ts";
export { type EnergyCurve, energyCurve, SILENT_LEVEL } from "./energy.ts";
export { hannWindow, MagnitudeSpectrum } from "./magnitude-spectrum.ts";
export { ONSET_RANGES, type OnsetStrength, onsetStrength } from "./onset-strength.ts";
export { decimate } from "./resample.ts";
export { type Spectrogram, spectrogram } from "./spectrogram.ts";
export { extremesBetween, packPeaks, unpackPeaks, type WaveformPeaks, waveformPeaks } from "./waveform-peaks.ts";
