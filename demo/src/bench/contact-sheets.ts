import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import type { PlannedPicture } from "@humming-tide/core/film";
import { areaOf, type Rectangle, type Size } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import { createCanvas, type Image, loadImage, type SKRSContext2D } from "@napi-rs/canvas";
import sharp from "sharp";
import { FRAMES, type FramedPhotograph, framed, indexOfPicture } from "./framed-heads.ts";

const COLUMNS = 6;
const CELL_PIXELS = 210;
const MARGIN = 6;
const WORKING_PIXELS = 640;

/**
 * Draws every photograph as each shape of film shows it by default, at the end of its move, a PNG a
 * shape. What stands beside a picture is grey here.
 */
export async function writeContactSheets(
  photographs: readonly FramedPhotograph[],
  from: string,
  to: string,
): Promise<void> {
  await mkdir(to, { recursive: true });
  const images = await Promise.all(photographs.map(({ name }) => image(path.join(from, name))));
  for (const [shape, size] of Object.entries(FRAMES)) {
    const scale = CELL_PIXELS / Math.max(size.width, size.height);
    const [width, height] = [size.width * scale + MARGIN, size.height * scale + MARGIN];
    const slots = framed(photographs, size, null);
    const sheet = createCanvas(COLUMNS * width, Math.ceil(slots.length / COLUMNS) * height);
    const context = sheet.getContext("2d");
    for (const [i, slot] of slots.entries()) {
      context.setTransform(scale, 0, 0, scale, (i % COLUMNS) * width, Math.floor(i / COLUMNS) * height);
      drawSlot(context, slot, size, images);
    }
    const place = path.join(to, `${shape.replace(":", "x")}.png`);
    await writeFile(place, await sheet.encode("png"));
    console.log(`  ${place}`);
  }
}

async function image(file: string): Promise<Image> {
  const upright = sharp(file).autoOrient().resize(WORKING_PIXELS, WORKING_PIXELS, { fit: "inside" });
  return loadImage(await upright.jpeg().toBuffer());
}

function drawSlot(context: SKRSContext2D, slot: PlannedPicture, size: Size, images: readonly Image[]): void {
  context.fillStyle = "#777777";
  context.fillRect(0, 0, size.width, size.height);
  const draw = (picture: string, placed: Rectangle, area: Rectangle): void => {
    context.save();
    context.beginPath();
    context.rect(area.x, area.y, area.width, area.height);
    context.clip();
    context.drawImage(itemAt(images, indexOfPicture(picture)), placed.x, placed.y, placed.width, placed.height);
    context.restore();
  };
  if (slot.picture) draw(slot.picture, slot.move.end, areaOf(slot, size));
  for (const { picture, move, cell } of slot.beside) draw(picture, move.end, cell);
}
