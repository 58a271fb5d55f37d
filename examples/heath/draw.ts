import { type Body, type FieldScene, field } from 'jocus/world';

const bodyColours: { readonly [piece: string]: string } = {
  blossom: '#f2a7c3',
  foxglove: '#b98be0',
  royalJelly: '#ffd98a',
};

/** The heath by the light that is left: 1 at the start of the day, 0 at dusk. */
export function draw(context: CanvasRenderingContext2D, scene: FieldScene, light: number, now: number): void {
  const { width, height } = field;
  const sky = context.createLinearGradient(0, 0, 0, height);
  sky.addColorStop(0, mix([44, 36, 74], [122, 104, 150], light));
  sky.addColorStop(1, mix([38, 42, 52], [104, 122, 84], light));
  context.fillStyle = sky;
  context.fillRect(0, 0, width, height);
  tufts(context, light);
  for (const body of scene.bodies) drawBody(context, body, now);
  drawBee(context, scene.player.x, scene.player.y, now);
}

const mix = (dark: readonly number[], bright: readonly number[], light: number): string =>
  `rgb(${dark.map((part, index) => Math.round(part + (bright[index]! - part) * light)).join(' ')})`;

/** Heather in rows, always in the same places. */
function tufts(context: CanvasRenderingContext2D, light: number): void {
  context.fillStyle = mix([58, 48, 78], [132, 112, 146], light);
  for (let tuft = 0; tuft < 90; tuft++) {
    const x = (tuft * 197) % field.width;
    const y = (tuft * 89 + Math.floor(tuft / 7) * 31) % field.height;
    context.beginPath();
    context.ellipse(x, y, 9, 4, 0, 0, 2 * Math.PI);
    context.fill();
  }
}

function drawBody(context: CanvasRenderingContext2D, { piece, x, y, left, speedX }: Body, now: number): void {
  if (piece.role === 'hazard') {
    drawFlier(context, x, y, speedX < 0, '#e2572b', '#2a1210', now);
    drawSting(context, x, y, speedX < 0);
    return;
  }
  // What is about to wither fades.
  context.globalAlpha = Math.min(1, 0.35 + left / 1500);
  context.fillStyle = bodyColours[piece.name] ?? '#9fd39b';
  for (let petal = 0; petal < 5; petal++) {
    const angle = (petal / 5) * 2 * Math.PI - Math.PI / 2;
    context.beginPath();
    context.ellipse(x + Math.cos(angle) * 8, y + Math.sin(angle) * 8, 7, 5, angle, 0, 2 * Math.PI);
    context.fill();
  }
  context.fillStyle = '#fff3c9';
  context.beginPath();
  context.arc(x, y, 5, 0, 2 * Math.PI);
  context.fill();
  context.globalAlpha = 1;
}

/** So that a wasp is told from the bee by its shape as well. */
function drawSting(context: CanvasRenderingContext2D, x: number, y: number, isMirrored: boolean): void {
  const back = isMirrored ? 1 : -1;
  context.fillStyle = '#2a1210';
  context.beginPath();
  context.moveTo(x + back * 12, y - 5);
  context.lineTo(x + back * 26, y);
  context.lineTo(x + back * 12, y + 5);
  context.fill();
}

const drawBee = (context: CanvasRenderingContext2D, x: number, y: number, now: number): void =>
  drawFlier(context, x, y, false, '#ffd24a', '#3a2c1a', now, 1.15);

function drawFlier(
  context: CanvasRenderingContext2D,
  x: number,
  y: number,
  isMirrored: boolean,
  colour: string,
  stripe: string,
  now: number,
  size = 1,
): void {
  context.save();
  context.translate(x, y);
  context.scale(isMirrored ? -size : size, size);
  context.fillStyle = '#eef4ffb0';
  for (const side of [-1, 1]) {
    context.beginPath();
    context.ellipse(-2, -9, 5, 9 + 2 * Math.sin(now / 25), side * 0.5, 0, 2 * Math.PI);
    context.fill();
  }
  context.fillStyle = colour;
  context.beginPath();
  context.ellipse(0, 0, 15, 10, 0, 0, 2 * Math.PI);
  context.fill();
  context.fillStyle = stripe;
  for (const at of [-7, 0, 7]) context.fillRect(at - 1.5, -8, 3, 16);
  context.beginPath();
  context.arc(13, -2, 3, 0, 2 * Math.PI);
  context.fill();
  context.restore();
}
