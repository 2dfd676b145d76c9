import { createCanvas, loadImage } from "@napi-rs/canvas";

/**
 * Drawn portraits as PNG, a few lines each, and yet faces to a finder of real ones. A place is the
 * middle of a face, `radius` half its height, in pixels.
 */
export async function drawnFaces(
  { width, height }: { width: number; height: number },
  faces: readonly { x: number; y: number; radius: number }[],
): Promise<Buffer> {
  const drawing = Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">
      <defs><radialGradient id="skin" cx=".45" cy=".4" r=".7">
        <stop offset="0" stop-color="#e8bfa0"/><stop offset=".7" stop-color="#c98f6c"/><stop offset="1" stop-color="#7a4c34"/>
      </radialGradient></defs>
      <rect width="${width}" height="${height}" fill="#35505a"/>${faces.map(portrait).join("")}</svg>`,
  );
  const canvas = createCanvas(width, height);
  const context = canvas.getContext("2d");
  context.filter = "blur(1px)";
  context.drawImage(await loadImage(drawing), 0, 0);
  return canvas.toBuffer("image/png");
}

/** Drawn in hundredths of the radius around the middle of the face. */
function portrait({ x, y, radius }: { x: number; y: number; radius: number }): string {
  const eye = (side: number): string => `
    <path d="M${15 * side} -24 Q${33 * side} -36 ${52 * side} -22" stroke="#3a2418" stroke-width="6" fill="none"/>
    <ellipse cx="${33 * side}" cy="-8" rx="15" ry="7.5" fill="#f4efe9"/>
    <circle cx="${33 * side}" cy="-8" r="7" fill="#2a1c14"/>
    <ellipse cx="${33 * side}" cy="-2" rx="19" ry="12" fill="#5a3522" opacity=".18"/>`;
  return `<g transform="translate(${x} ${y}) scale(${radius / 100})">
    <path d="M-200 330 Q0 20 200 330Z" fill="#223a66"/>
    <ellipse cx="0" cy="-25" rx="98" ry="115" fill="#2b1a12"/>
    <rect x="-35" y="70" width="70" height="100" fill="#a87254"/>
    <ellipse cx="0" cy="0" rx="76" ry="100" fill="url(#skin)"/>
    <path d="M-78 -30 Q0 -130 78 -30 L70 -75 Q0 -140 -70 -75Z" fill="#2b1a12"/>
    ${eye(-1)}${eye(1)}
    <path d="M-4 -5 Q-16 25 -12 30 Q0 38 12 30" stroke="#8a5a40" stroke-width="5" fill="none"/>
    <ellipse cx="-7" cy="31" rx="3.5" ry="2" fill="#5a3020"/><ellipse cx="7" cy="31" rx="3.5" ry="2" fill="#5a3020"/>
    <path d="M-28 55 Q0 50 28 55 Q0 72 -28 55Z" fill="#a04a46"/>
    <path d="M-26 56 Q0 60 26 56" stroke="#5a2422" stroke-width="3" fill="none"/>
  </g>`;
}
