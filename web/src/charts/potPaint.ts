// What changes on a pot from look to look, painted above its leaves: they stay as they are drawn,
// and two hundred pots take the next look in one picture.
import type { PotDrawing } from "./pot";

/** The hand that paints: colours and letters of the theme in force, and how fine the screen is. */
export interface PotInk {
  outline: string;
  vein: string;
  paleVein: string;
  ill: string;
  soil: string;
  dust: string;
  drop: string;
  pest: string;
  words: string;
  softWords: string;
  font: string;
  /** Pixels of the screen to one of the page. */
  fine: number;
  /** Height of the line below a plant, and of the whole pot, in pixels of the page. */
  line: number;
  height: number;
}

/** A pot of a row, and where its plant begins, in pixels of the page. */
export interface PaintedPot {
  x: number;
  drawing: PotDrawing;
  figure: string;
  /** A tag stands in the soil. */
  tagged: boolean;
  /** Set aside: its words are written in the softer ink. */
  soft: boolean;
  /** Nothing is counted on it. */
  pale: boolean;
}

/** In pixels of the page. */
export interface Size {
  width: number;
  height: number;
}

/** A plant is drawn in a picture of 100 by 84, and shown in so many pixels of the page. */
const WIDTH = 88;
const HEIGHT = 74;
const SCALE = WIDTH / 100;
const TOP = 4.5;
const BELOW = 1;
const LINE_REM = 1.2;
const FIGURE_END = 3;
const MOST_OUTLINES = 4000;
/** Browsers paint nothing on what is wider, in pixels of the screen. */
const WIDEST = 16_000;

const outlines = new Map<string, Path2D>();

/** Colours and letters as they are at an element. */
export function inkAt(element: Element): PotInk {
  const style = getComputedStyle(element);
  const colour = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  return {
    outline: colour("outline"),
    vein: colour("leaf-vein"),
    paleVein: colour("hair"),
    ill: colour("leaf-ill"),
    soil: colour("soil"),
    dust: colour("dust"),
    drop: colour("drop"),
    pest: colour("pest"),
    words: colour("ink"),
    softWords: colour("ink-soft"),
    font: `500 ${style.fontSize} ${style.fontFamily}`,
    fine: window.devicePixelRatio || 1,
    line: LINE_REM * parseFloat(getComputedStyle(document.documentElement).fontSize),
    height: parseFloat(style.height),
  };
}

/** Paints a row of pots, all of it anew. */
export function paintPots(canvas: HTMLCanvasElement, size: Size, pots: readonly PaintedPot[], ink: PotInk): void {
  const brush = canvas.getContext("2d");
  if (!brush) return;
  const fine = Math.min(ink.fine, WIDEST / size.width);
  const [width, height] = [Math.round(size.width * fine), Math.round(size.height * fine)];
  if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
  brush.setTransform(1, 0, 0, 1, 0, 0);
  brush.clearRect(0, 0, width, height);
  for (const pot of pots) {
    brush.setTransform(fine * SCALE, 0, 0, fine * SCALE, fine * pot.x, fine * TOP);
    paintPlant(brush, pot.drawing, ink, pot.pale);
    // The tag stands before the plant.
    if (pot.tagged) brush.clearRect(2, 3, 20, 34);
  }
  brush.setTransform(fine, 0, 0, fine, 0, 0);
  brush.font = ink.font;
  brush.textAlign = "right";
  brush.textBaseline = "middle";
  for (const pot of pots) {
    brush.fillStyle = pot.soft ? ink.softWords : ink.words;
    brush.fillText(pot.figure, pot.x + WIDTH - FIGURE_END, TOP + HEIGHT + BELOW + ink.line / 2);
  }
}

/** From below to the top, as the drawing on paper has it. */
function paintPlant(brush: CanvasRenderingContext2D, drawing: PotDrawing, ink: PotInk, pale: boolean): void {
  brush.lineJoin = "round";
  if (drawing.ill) {
    shape(brush, drawing.ill, ink.ill, ink.outline, 1.2);
    shape(brush, drawing.veins, null, pale ? ink.paleVein : ink.vein, 1.1);
  }
  shape(brush, drawing.bites, ink.soil, ink.outline, 1.2);
  if (drawing.dust) {
    brush.globalAlpha = 0.92;
    shape(brush, drawing.dust, ink.dust, null, 0);
    brush.globalAlpha = 1;
    brush.setLineDash([1.6, 1.8]);
    shape(brush, drawing.dust, null, ink.outline, 0.7);
    brush.setLineDash([]);
  }
  shape(brush, drawing.drops, ink.drop, ink.outline, 1.2);
  shape(brush, drawing.pestRims, ink.outline, null, 0);
  shape(brush, drawing.pests, ink.pest, null, 0);
}

function shape(brush: CanvasRenderingContext2D, path: string, fill: string | null, line: string | null, width: number): void {
  if (!path) return;
  const outline = outlineOf(path);
  if (fill !== null) {
    brush.fillStyle = fill;
    brush.fill(outline);
  }
  if (line !== null) {
    brush.strokeStyle = line;
    brush.lineWidth = width;
    brush.stroke(outline);
  }
}

/** Read once: the same few outlines come back with every look. */
function outlineOf(path: string): Path2D {
  const known = outlines.get(path);
  if (known) return known;
  if (outlines.size >= MOST_OUTLINES) outlines.clear();
  const outline = new Path2D(path);
  outlines.set(path, outline);
  return outline;
}
