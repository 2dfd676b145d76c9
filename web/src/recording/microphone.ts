import workletUrl from "./capture-worklet.ts?worker&url";

/** Of the films' sound: nothing has to be converted later. */
const SAMPLE_RATE = 48_000;

/** An open microphone: what it hears comes piece by piece, whether it is recorded or only shown. */
export class Microphone {
  readonly sampleRate: number;
  readonly #stream: MediaStream;
  readonly #context: AudioContext;

  private constructor(stream: MediaStream, context: AudioContext) {
    this.#stream = stream;
    this.#context = context;
    this.sampleRate = context.sampleRate;
  }

  /**
   * Asks for a microphone (`deviceId` "": the usual one), as it is: nothing is filtered or
   * levelled. Throws an Error whose text says what to do.
   */
  static async open(deviceId: string, onPiece: (samples: Float32Array) => void): Promise<Microphone> {
    if (!navigator.mediaDevices)
      throw new Error(
        "This browser lets no page record here. Open Humming Tide at its own address (127.0.0.1), or over https.",
      );
    const stream = await navigator.mediaDevices
      .getUserMedia({
        audio: {
          ...(deviceId ? { deviceId: { exact: deviceId } } : {}),
          echoCancellation: false,
          noiseSuppression: false,
          autoGainControl: false,
        },
      })
      .catch((error: DOMException) => {
        throw new Error(refusalText(error), { cause: error });
      });
    const context = new AudioContext({ sampleRate: SAMPLE_RATE });
    const microphone = new Microphone(stream, context);
    try {
      await context.audioWorklet.addModule(workletUrl);
      const capture = new AudioWorkletNode(context, "capture", {
        numberOfOutputs: 0,
        channelCount: 1,
        channelCountMode: "explicit",
      });
      capture.port.onmessage = ({ data }: MessageEvent<Float32Array>) => onPiece(data);
      context.createMediaStreamSource(stream).connect(capture);
      await context.resume();
      return microphone;
    } catch (error) {
      microphone.close();
      throw error;
    }
  }

  /** The microphones there are; their names are known once one was allowed. */
  static async devices(): Promise<{ id: string; name: string }[]> {
    const all = (await navigator.mediaDevices?.enumerateDevices()) ?? [];
    return all
      .filter(({ kind }) => kind === "audioinput")
      .map(({ deviceId, label }, i) => ({ id: deviceId, name: label || `Microphone ${i + 1}` }));
  }

  close(): void {
    for (const track of this.#stream.getTracks()) track.stop();
    void this.#context.close();
  }
}

function refusalText({ name, message }: DOMException): string {
  if (name === "NotAllowedError")
    return "The browser does not allow this page to record. Allow the microphone in the address line, then try again.";
  if (name === "NotFoundError" || name === "OverconstrainedError")
    return "There is no such microphone. Connect one, or choose another.";
  if (name === "NotReadableError") return "The microphone is in use by another program. Close that, then try again.";
  return `The microphone cannot be opened: ${message}`;
}
