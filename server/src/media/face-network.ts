import { createRequire } from "node:module";
import { type FoundFace, sharedShare } from "@humming-tide/core/picture";
import type { Point } from "@humming-tide/core/values";
import type { InferenceSession, Tensor } from "onnxruntime-node";
import { type FaceRaster, facesInPart, turnedParts } from "./turned-parts.ts";

/** The network looks at a square of this side; smaller pictures fill its upper left part. */
export const FACE_PIXELS = 640;
/** Less sure than this, as many finds are not faces. Measured by `npm run bench:faces`. */
const LEAST_CONFIDENCE = 0.8;
const LEAST_TURNED_CONFIDENCE = 0.9;
/** Finds that share more of their area than this are one face. */
const SAME_FACE = 0.4;
/** Pixels between the places of a level, with the sides of its two squares, in `SQUARE` pixels. */
const LEVELS = [
  { stride: 32, sides: [32, 16] },
  { stride: 16, sides: [8, 4] },
  { stride: 8, sides: [2, 1] },
] as const;
const SQUARE = 16;
/** The eyes, the tip of the nose and the corners of the mouth, each as x and y. */
const LANDMARKS = 5;
/** Their distances are told in this share of the square's side. */
const LANDMARK_UNIT = 0.2;

type Outputs = Readonly<Record<string, Pick<Tensor, "dims" | "data">>>;
type Session = Pick<InferenceSession, "run">;

/**
 * The face finder that ships with the package `retinaface` (MIT): RetinaFace (Deng et al. 2020) on
 * a quarter MobileNet, some 50 ms of one processor a picture. Throws where the runtime does not
 * know this machine.
 */
export async function openFaceNetwork(): Promise<Session> {
  const { InferenceSession } = await import("onnxruntime-node");
  const model = createRequire(import.meta.url).resolve("retinaface/mnet.25_v2.onnx");
  // One thread: several pictures come in at once.
  return InferenceSession.create(model, { intraOpNumThreads: 1, interOpNumThreads: 1 });
}

/** Whether a picture may lie on its side: cameras do not always write how they were held. */
export type FaceSides = "upright" | "any-side";

/**
 * All faces in a picture, the surest first. Where none is upright, the picture may be looked at
 * from its other sides.
 */
export async function findFaces(
  session: Session,
  raster: FaceRaster,
  sides: FaceSides = "any-side",
): Promise<FoundFace[]> {
  const upright = facesOf(await outputsFor(session, raster), raster, LEAST_CONFIDENCE);
  if (upright.length > 0 || sides === "upright") return upright;
  const { sheet, parts } = turnedParts(raster);
  const faces = facesOf(await outputsFor(session, sheet), sheet, LEAST_TURNED_CONFIDENCE);
  return parts.flatMap((part) => facesInPart(faces, sheet, part));
}

async function outputsFor(session: Session, raster: FaceRaster): Promise<Outputs> {
  const { Tensor } = await import("onnxruntime-node");
  const shape = [1, 3, FACE_PIXELS, FACE_PIXELS];
  return session.run({ data: new Tensor("float32", asInput(raster), shape) });
}

/** Three planes, red, green and blue, with levels of 0 to 255; black where there is no picture. */
function asInput({ width, height, pixels }: FaceRaster): Float32Array {
  const plane = FACE_PIXELS ** 2;
  const input = new Float32Array(3 * plane);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = 3 * (y * width + x);
      const to = y * FACE_PIXELS + x;
      input[to] = pixels[from]!;
      input[to + plane] = pixels[from + 1]!;
      input[to + 2 * plane] = pixels[from + 2]!;
    }
  return input;
}

/**
 * What the network says, as faces in shares of the picture. At every place of a level stand two
 * squares. For each the network says how sure it is of a face in it. It says how far the face is
 * moved against the square (in its sides), and how much larger it is (as a logarithm). It also says
 * where the eyes lie.
 */
export function facesOf(
  outputs: Outputs,
  { width, height }: Pick<FaceRaster, "width" | "height">,
  leastConfidence: number,
): FoundFace[] {
  const found: FoundFace[] = [];
  for (const { stride, sides } of LEVELS) {
    const confidences = outputs[`face_rpn_cls_prob_reshape_stride${stride}`];
    const changes = outputs[`face_rpn_bbox_pred_stride${stride}`];
    const landmarks = outputs[`face_rpn_landmark_pred_stride${stride}`];
    if (!confidences || !changes || !landmarks) continue;
    const [rows, columns] = [Number(confidences.dims[2]), Number(confidences.dims[3])];
    const places = rows * columns;
    const [sure, change] = [confidences.data as Float32Array, changes.data as Float32Array];
    const marks = landmarks.data as Float32Array;
    for (const [kind, times] of sides.entries()) {
      const side = SQUARE * times;
      for (let place = 0; place < places; place++) {
        // The first half tells how sure it is of no face.
        const confidence = sure[(sides.length + kind) * places + place]!;
        if (confidence < leastConfidence) continue;
        const by = (which: number): number => change[(4 * kind + which) * places + place]!;
        const mark = (which: number): number => marks[(2 * LANDMARKS * kind + which) * places + place]!;
        const squareX = SQUARE / 2 + stride * (place % columns);
        const squareY = SQUARE / 2 + stride * Math.floor(place / columns);
        const [middleX, middleY] = [squareX + side * by(0), squareY + side * by(1)];
        const [wide, high] = [side * Math.exp(by(2)), side * Math.exp(by(3))];
        const box = {
          x: (middleX - wide / 2) / width,
          y: (middleY - high / 2) / height,
          width: wide / width,
          height: high / height,
        };
        const landmark = (which: number): Point => ({
          x: (squareX + side * LANDMARK_UNIT * mark(2 * which)) / width,
          y: (squareY + side * LANDMARK_UNIT * mark(2 * which + 1)) / height,
        });
        const eyes = [landmark(0), landmark(1)] as const;
        if ([box, ...eyes].flatMap(Object.values).every(Number.isFinite))
          found.push({ box, confidence, turn: 0, eyes });
      }
    }
  }
  return withoutRepeats(found.sort((a, b) => b.confidence - a.confidence));
}

/** The surest of finds that are one face. O(finds x faces). */
function withoutRepeats(sorted: readonly FoundFace[]): FoundFace[] {
  const faces: FoundFace[] = [];
  for (const find of sorted) if (faces.every((face) => sharedShare(face.box, find.box) <= SAME_FACE)) faces.push(find);
  return faces;
}
