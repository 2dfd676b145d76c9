import { once } from "node:events";
import { writeFile } from "node:fs/promises";
import { writeWav } from "@humming-tide/core/sound";
import { startFfmpeg } from "@humming-tide/server";
import { drawnFaces } from "@humming-tide/server/testing";
import { type Canvas, createCanvas, type Image, loadImage, type SKRSContext2D } from "@napi-rs/canvas";
import { SAMPLE_RATE } from "../music/instruments.ts";
import { Painter } from "../pictures/painter.ts";
import { AFTERNOON, DUSK, GOLDEN } from "../pictures/palette.ts";
import { crews, lanterns, painting, race } from "../pictures/scenes.ts";
import { Random } from "../random.ts";
import { speakGreeting } from "../voice/greeting.ts";

/** What happens once in a made-up clip. */
export type EventKind = "crowd" | "movement" | "face";

/** What is true of a made-up clip, because it was made so. */
export interface EventfulClip {
  readonly kind: EventKind;
  readonly eventSeconds: number;
  readonly seconds: number;
  /** For so long it shakes at its beginning and its end, as the camera is raised and lowered. */
  readonly shakyStartSeconds: number;
  readonly shakyEndSeconds: number;
  /** For so long nothing moves at its beginning. */
  readonly deadStartSeconds: number;
}

const [WIDTH, HEIGHT] = [640, 360];
/** The scene is larger than the frame by this, so that the camera can go. */
const ROOM = 1.5;
const RATES = [25, 30000 / 1001, 50, 24] as const;
const SCENES = [
  { scene: painting, hour: AFTERNOON },
  { scene: crews, hour: GOLDEN },
  { scene: lanterns, hour: DUSK },
  { scene: race, hour: DUSK },
] as const;

/**
 * Writes a clip as somebody would film it by hand: the camera trembles, pans or is raised; light
 * changes; others pass by; the sensor is noisy. Somewhere in it the event happens. The same seed
 * gives the same clip.
 */
export async function makeEventfulClip(kind: EventKind, seed: number, file: string): Promise<EventfulClip> {
  const random = new Random(7919 * seed + { crowd: 1, movement: 2, face: 3 }[kind]);
  const seconds = random.between(7, 13);
  const shakyStartSeconds = random.next() < 0.4 ? random.between(0.6, 1.6) : 0;
  const shakyEndSeconds = random.next() < 0.4 ? random.between(0.5, 1.2) : 0;
  const deadStartSeconds = shakyStartSeconds === 0 && random.next() < 0.3 ? random.between(2.8, 3.6) : 0;
  const firstSeconds = Math.max(shakyStartSeconds, deadStartSeconds);
  const eventSeconds = random.between(firstSeconds + 1.5, seconds - shakyEndSeconds - 1.5);
  const clip = { kind, eventSeconds, seconds, shakyStartSeconds, shakyEndSeconds, deadStartSeconds };
  const sound = `${file}.wav`;
  await writeFile(sound, writeWav(soundOf(clip, random), SAMPLE_RATE, 16));
  const rate = random.pick(RATES);
  const { child, finished } = await startFfmpeg([
    ...["-f", "rawvideo", "-pix_fmt", "rgba", "-video_size", `${WIDTH}x${HEIGHT}`, "-framerate", rate.toFixed(5)],
    ...["-i", "pipe:0", "-protocol_whitelist", "file,pipe", "-i", sound, "-shortest"],
    ...["-c:v", "libx264", "-preset", "veryfast", "-crf", String(random.whole(20, 28)), "-pix_fmt", "yuv420p"],
    ...["-c:a", "aac", "-b:a", "96k", "-y", "-f", "mp4", file],
  ]);
  const frames = await framesOf(clip, random);
  for (let k = 0; k < seconds * rate; k++) {
    if (!child.stdin.write(frames(k / rate))) await once(child.stdin, "drain");
  }
  child.stdin.end();
  await finished;
  return clip;
}

/** The camera's place, as a share of the frame's width. */
type CameraPath = (time: number) => readonly [x: number, y: number];

function cameraPath(clip: EventfulClip, random: Random): CameraPath {
  const waves = Array.from({ length: 6 }, () => ({
    hertz: random.between(0.2, 3),
    phase: random.between(0, 2 * Math.PI),
    size: random.between(0.2, 1),
    turn: random.between(0, 2 * Math.PI),
  }));
  const steadiness = random.between(0.001, 0.006);
  const pan = random.next() < 0.3 ? random.between(-0.2, 0.2) : 0;
  const panAt = random.between(0.2, 0.8) * clip.seconds;
  const shakes = Array.from({ length: 5 }, () => ({
    hertz: random.between(2, 7),
    phase: random.between(0, 6),
    turn: random.between(0, 6),
  }));
  return (time) => {
    let [x, y] = [pan / (1 + Math.exp(-(time - panAt) / 0.4)), 0];
    for (const { hertz, phase, size, turn } of waves) {
      const swing = ((steadiness * size) / hertz ** 0.7) * Math.sin(2 * Math.PI * hertz * time + phase);
      x += swing * Math.cos(turn);
      y += swing * Math.sin(turn);
    }
    const wild = time < clip.shakyStartSeconds || time > clip.seconds - clip.shakyEndSeconds ? 0.018 : 0;
    if (wild)
      for (const { hertz, phase, turn } of shakes) {
        const swing = wild * Math.sin(2 * Math.PI * hertz * time + phase);
        x += swing * Math.cos(turn);
        y += swing * Math.sin(turn);
      }
    return [x, y];
  };
}

type Mover = (context: SKRSContext2D, time: number) => void;

/** The drawing of each frame, whose bytes are valid until the next is drawn. */
async function framesOf(clip: EventfulClip, random: Random): Promise<(time: number) => Buffer> {
  const behind = scenery(random);
  const camera = cameraPath(clip, random);
  const movers: Mover[] = [swaying(random), swaying(random)];
  // After a dead start somebody walks in; else somebody is on the way from the beginning.
  movers.push(passingBy(clip.deadStartSeconds || random.between(-1.5, 0), random));
  if (random.next() < 0.4) movers.push(passingBy(random.between(clip.deadStartSeconds, clip.seconds - 3), random));
  if (clip.kind === "movement") movers.push(leaping(clip, random));
  if (clip.kind === "face") movers.push(await comingNear(clip, random));
  const flashAt = random.next() < 0.3 ? random.between(0.1, 0.9) * clip.seconds : -1;
  const lightSwing = random.next() < 0.4 ? random.between(0.1, 0.35) : 0;
  const grain = grainSheets(random, random.between(3, 9));
  const canvas = createCanvas(WIDTH, HEIGHT);
  const context = canvas.getContext("2d");
  let frame = 0;
  return (time) => {
    const [x, y] = camera(time);
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalAlpha = 1;
    context.translate((-(ROOM - 1) / 2 - x) * WIDTH, (-(ROOM - 1) / 2) * HEIGHT - y * WIDTH);
    context.drawImage(behind, 0, 0);
    context.translate(((ROOM - 1) / 2) * WIDTH, ((ROOM - 1) / 2) * HEIGHT);
    for (const mover of movers) mover(context, Math.max(time, clip.deadStartSeconds));
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = "#000";
    context.globalAlpha = lightSwing * (0.5 + 0.5 * Math.sin(0.9 * time + frame / 1e6));
    if (lightSwing > 0) context.fillRect(0, 0, WIDTH, HEIGHT);
    if (Math.abs(time - flashAt) < 0.02) {
      context.globalAlpha = 0.6;
      context.fillStyle = "#fff";
      context.fillRect(0, 0, WIDTH, HEIGHT);
    }
    context.globalAlpha = 0.5;
    context.globalCompositeOperation = "overlay";
    context.drawImage(grain[frame++ % grain.length] as Canvas, 0, 0);
    context.globalCompositeOperation = "source-over";
    return canvas.data();
  };
}

function scenery(random: Random): Canvas {
  const { scene, hour } = random.pick(SCENES);
  const painter = new Painter(WIDTH * ROOM, HEIGHT * ROOM, hour, random);
  scene(painter, random.whole(0, 7));
  return painter.canvas;
}

/** Noise as a sensor makes it, a few sheets in turn. */
function grainSheets(random: Random, strength: number): Canvas[] {
  return Array.from({ length: 7 }, () => {
    const sheet = createCanvas(WIDTH, HEIGHT);
    const context = sheet.getContext("2d");
    const image = context.createImageData(WIDTH, HEIGHT);
    for (let i = 0; i < image.data.length; i += 4) {
      const level = 128 + 4 * strength * (random.next() + random.next() - 1);
      image.data.set([level, level, level, 255], i);
    }
    context.putImageData(image, 0, 0);
    return sheet;
  });
}

const CLOTHES = ["#22395c", "#7a2f35", "#8a8578", "#2d2a26", "#55703f"] as const;
const LIGHT_CLOTHES = ["#f2efe6", "#f0d9c0", "#ffe9a8"] as const;

function figure(context: SKRSContext2D, x: number, y: number, height: number, lean: number, colour: string): void {
  context.save();
  context.translate(x, y);
  context.rotate(lean);
  context.fillStyle = colour;
  context.beginPath();
  context.roundRect(-0.14 * height, -0.75 * height, 0.28 * height, 0.75 * height, 0.1 * height);
  context.fill();
  context.fillStyle = "#c99a7a";
  context.beginPath();
  context.arc(0, -0.86 * height, 0.1 * height, 0, 2 * Math.PI);
  context.fill();
  context.restore();
}

/** Somebody who stands and moves a little all the time. */
function swaying(random: Random): Mover {
  const [x, height] = [random.between(0.1, 0.9) * WIDTH, random.between(0.35, 0.6) * HEIGHT];
  const [hertz, phase] = [random.between(0.3, 0.8), random.between(0, 6)];
  const [size, colour] = [random.between(0.03, 0.08), random.pick(CLOTHES)];
  return (context, time) =>
    figure(context, x, 0.98 * HEIGHT, height, size * Math.sin(2 * Math.PI * hertz * time + phase), colour);
}

/** Somebody who walks through at an even pace. */
function passingBy(fromSeconds: number, random: Random): Mover {
  const [speed, height] = [random.between(0.12, 0.25), random.between(0.3, 0.5) * HEIGHT];
  const colour = random.pick(CLOTHES);
  return (context, time) => {
    const x = (-0.02 + speed * (time - fromSeconds)) * WIDTH;
    if (x < 1.1 * WIDTH) figure(context, x, 0.95 * HEIGHT, height, 0, colour);
  };
}

/**
 * The event: somebody in light clothes leaps, fastest at its time, aslant. It is the clearest
 * movement of the clip, or nothing could be called right.
 */
function leaping({ eventSeconds }: EventfulClip, random: Random): Mover {
  const [x, way] = [random.between(0.2, 0.6), random.between(0.22, 0.4)];
  const [duration, height] = [random.between(0.1, 0.22), random.between(0.4, 0.7) * HEIGHT];
  const [up, colour] = [random.between(0.1, 0.3), random.pick(LIGHT_CLOTHES)];
  return (context, time) => {
    const done = 1 / (1 + Math.exp((-1.7 * (time - eventSeconds)) / duration));
    const lean = 0.02 * Math.sin(2 * time);
    const place = { x: (x + way * done) * WIDTH, y: (0.97 - up * done) * HEIGHT };
    figure(context, place.x, place.y, height, lean, colour);
  };
}

/** The event: somebody comes up to the camera, is nearest at its time, and goes again. */
async function comingNear({ eventSeconds }: EventfulClip, random: Random): Promise<Mover> {
  const side = 900;
  const portrait: Image = await loadImage(
    await drawnFaces({ width: side, height: side }, [{ x: side / 2, y: side / 2, radius: side / 4 }]),
  );
  const [least, growth] = [random.between(0.06, 0.09) * HEIGHT, random.between(0.1, 0.17) * HEIGHT];
  const duration = random.between(0.7, 1.4);
  const x = random.between(0.35, 0.65);
  return (context, time) => {
    const radius = least + growth * Math.exp(-0.5 * ((time - eventSeconds) / duration) ** 2);
    const size = 4 * radius;
    context.save();
    context.translate(x * WIDTH, 0.55 * HEIGHT);
    context.beginPath();
    context.ellipse(0, -0.2 * radius, 0.98 * radius, 1.25 * radius, 0, 0, 2 * Math.PI);
    context.rect(-0.4 * radius, 0.5 * radius, 0.8 * radius, 1.2 * radius);
    context.ellipse(0, 2.4 * radius, 1.3 * radius, 1.1 * radius, 0, 0, 2 * Math.PI);
    context.clip();
    context.drawImage(portrait, -size / 2, -size / 2, size, size);
    context.restore();
  };
}

/** A room, talk or music, bumps against the camera; and where it is the event, the cheer. */
function soundOf(clip: EventfulClip, random: Random): [Float32Array, Float32Array] {
  const samples = new Float32Array(Math.round(clip.seconds * SAMPLE_RATE));
  const room = random.between(0.001, 0.006);
  let low = 0;
  for (let i = 0; i < samples.length; i++) {
    low += 0.02 * (random.bell() - low);
    samples[i] = room * (4 * low + 0.3 * random.bell());
  }
  const behind = random.pick(["talk", "music", "nothing"] as const);
  const loudness = random.between(0.05, 0.25);
  if (behind === "talk") addTalk(samples, loudness, random);
  if (behind === "music") addMusic(samples, loudness, random);
  for (let i = random.whole(0, 3); i > 0; i--) addBump(samples, random);
  if (clip.kind === "crowd") addCheer(samples, clip.eventSeconds, loudness, random);
  for (const [i, value] of samples.entries()) samples[i] = Math.tanh(value);
  return [samples, samples.slice()];
}

function addTalk(samples: Float32Array, loudness: number, random: Random): void {
  const greeting = speakGreeting();
  const peak = greeting.samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  const from = random.whole(0, samples.length >> 2);
  for (let i = 0; i < greeting.samples.length && from + i < samples.length; i++)
    samples[from + i]! += (2 * loudness * (greeting.samples[i] ?? 0)) / peak;
}

/** Chords and a beat: something that goes on loudly all the time. */
function addMusic(samples: Float32Array, loudness: number, random: Random): void {
  const beat = SAMPLE_RATE * random.between(0.42, 0.6);
  const roots = Array.from({ length: 8 }, () => 110 * 2 ** (random.whole(0, 12) / 12));
  for (let i = 0; i < samples.length; i++) {
    const root = roots[Math.floor(i / (4 * beat)) % roots.length] ?? 110;
    let sum = 0;
    for (const [k, ratio] of [1, 1.25, 1.5, 2, 3, 4].entries())
      sum += Math.sin((2 * Math.PI * root * ratio * i) / SAMPLE_RATE) / (k + 1);
    const struck = Math.exp((-12 * (i % beat)) / SAMPLE_RATE);
    samples[i]! += loudness * (0.3 * sum + 0.5 * struck * random.bell() * 0.3);
  }
}

function addBump(samples: Float32Array, random: Random): void {
  const from = random.whole(0, samples.length - SAMPLE_RATE);
  const strength = random.between(0.2, 0.6);
  for (let i = 0; i < 0.15 * SAMPLE_RATE; i++)
    samples[from + i]! += strength * Math.exp((-30 * i) / SAMPLE_RATE) * Math.sin((2 * Math.PI * 90 * i) / SAMPLE_RATE);
}

/** Hands of a few or many, and voices; it swells quickly, stays and dies down. */
function addCheer(samples: Float32Array, atSeconds: number, background: number, random: Random): void {
  const [swell, stay] = [random.between(0.08, 0.4), random.between(1.2, 3)];
  const loudness = Math.max(0.15, background) * random.between(1.2, 3);
  const from = Math.round(atSeconds * SAMPLE_RATE);
  const [people, hasVoices] = [random.whole(12, 60), random.next() < 0.7];
  const envelope = (time: number): number => {
    if (time < swell) return 0.25 + (0.75 * time) / swell;
    return time < stay ? 1 : Math.exp(-(time - stay) / 0.8);
  };
  for (let person = 0; person < people; person++) {
    const every = random.between(0.2, 0.32);
    for (let time = random.between(0, every); ; time += every * random.between(0.85, 1.15)) {
      const start = from + Math.round(time * SAMPLE_RATE);
      if (start + 2400 >= samples.length) break;
      const gain = (loudness * envelope(time) * random.between(0.5, 1)) / Math.sqrt(people / 8);
      for (let i = 0; i < 1200; i++) samples[start + i]! += gain * Math.exp(-i / 180) * random.bell() * 0.4;
    }
  }
  if (!hasVoices) return;
  const voices = Array.from({ length: 10 }, () => random.between(250, 700));
  let breath = 0;
  for (let i = 0; from + i < samples.length; i++) {
    const time = i / SAMPLE_RATE;
    breath += 0.35 * (random.bell() - breath);
    let sum = 0;
    for (const hertz of voices) {
      const phase = 2 * Math.PI * hertz * time * (1 + 0.1 * Math.min(1, time));
      sum += Math.sin(phase) + 0.6 * Math.sin(3 * phase) + 0.4 * Math.sin(5 * phase);
    }
    samples[from + i]! += loudness * envelope(time) * (0.06 * sum + 0.25 * breath);
  }
}
