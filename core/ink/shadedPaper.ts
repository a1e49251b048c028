import type { Point } from '../placement/geometry.ts';
import { areaOf, hullOf, isWithin } from './outlineShape.ts';
import { median, quantile, type SheetSight, type Touch } from './sheetSight.ts';
import { closedPadded } from './slidingExtreme.ts';
import { around, maskOf, regionOf, type Surfaces } from './surfaces.ts';

/**
 * The sheet is its brightest surface and every other surface that is the same paper in shadow. Neither
 * brightness nor the sharpness of an edge tells a shadow from a table; what does is that a shadow keeps
 * the paper's hue and its smoothness, that the sheet's outline runs straight on past it, and that ink
 * runs through it.
 */

/** A surface smaller than this share of the picture is the edge of another, or grain. */
const LEAST_SURFACE = 0.012;
/** The edge of a shadow is at most this wide, as a share of the longer side. */
const WIDEST_EDGE = 0.15;
/** Shadows on one sheet. */
const MOST_SHADOWS = 8;
/** What is darker than this beside its neighbour is no paper any more, lit by what is left of the light. */
const DEEPEST = 0.1;
/**
 * Ratios of channels within this factor are one hue: what a shadow leaves is light of the room, a little
 * other than that of the lamp.
 */
const SAME_HUE = 0.16;
/** Where ink runs through, the light may be of quite another colour. */
const HUE_WITH_INK = 0.25;
/** Unevenness of a surface, as a standard deviation, over that of the paper in the light … */
const ROUGHER = 2.5;
/** … and this, which is grain in the dark. */
const SMOOTH = 0.012;
/** How far a contact may stray from a straight line, as a share of its length. */
const STRAIGHT = 0.12;
/** Share of its hull that a sheet fills. */
const NO_BAYS = 0.93;
/** Beyond its end by this, px, the edge of a shadow has left the sheet. */
const BEYOND_PX = 4;
/** An edge that falls over more than this, px of the small picture, is none of a sheet. */
const SOFT_EDGE_PX = 1.9;

/** @returns 1 where there is paper, in the light or in shadow */
export function shadedPaper(
  surfaces: Surfaces,
  sight: SheetSight,
  hasPlainCorners: (mask: Uint8Array) => boolean,
): Uint8Array {
  const { labels, areas, lights, width } = surfaces;
  const brightest = lights.reduce((best, light, label) => (light > lights[best] ? label : best), 0);
  let paper = maskOf(surfaces, brightest);
  const least = LEAST_SURFACE * labels.length;
  const candidates = new Set(
    areas.flatMap((area, label) => (area >= least && label !== brightest ? label : [])),
  );
  if (candidates.size === 0) return paper;
  const unevenness = sight.unevenness(paper);
  for (let joined = 0; joined < MOST_SHADOWS; joined++) {
    const contacts = contactsOf(paper, labels, candidates, width);
    const judged = [...contacts.values()].map((contact) => ({
      contact,
      evidence: evidenceOf(contact, paper, unevenness, surfaces, sight, hasPlainCorners),
    }));
    // The surest first: what is joined then shows where the sheet really ends.
    const [surest] = judged.sort(
      (a, b) => b.evidence - a.evidence || b.contact.length - a.contact.length,
    );
    const shaded = surest && surest.evidence > EVIDENCE.none ? surest.contact : null;
    if (!shaded) return paper;
    candidates.delete(shaded[0].label);
    paper = joinedBy(paper, shaded, labels, width);
  }
  return paper;
}

/** Where the paper touches other surfaces, across the narrow ones an edge consists of; by surface. */
function contactsOf(
  paper: Uint8Array,
  labels: Int32Array,
  candidates: ReadonlySet<number>,
  width: number,
): Map<number, Touch[]> {
  const height = paper.length / width;
  const reach = Math.round(WIDEST_EDGE * Math.max(width, height));
  const origin = new Int32Array(paper.length).fill(-1);
  const contacts = new Map<number, Touch[]>();
  let front: number[] = [];
  paper.forEach((flag, at) => {
    if (!flag) return;
    origin[at] = at;
    front.push(at);
  });
  for (let distance = 1; distance <= reach && front.length > 0; distance++) {
    const next: number[] = [];
    for (const at of front) {
      for (const to of around(at, width, paper.length)) {
        if (to < 0 || origin[to] >= 0) continue;
        const label = labels[to];
        origin[to] = origin[at];
        if (candidates.has(label)) {
          const touches = contacts.get(label) ?? [];
          touches.push({ label, from: origin[at], to, distance });
          contacts.set(label, touches);
        } else next.push(to);
      }
    }
    front = next;
  }
  return new Map([...contacts].map(([label, touches]) => [label, straightAcross(touches)]));
}

/** Where an edge ends, ways lead round its end, too. */
function straightAcross(touches: readonly Touch[]): Touch[] {
  const most = 2 * median(touches.map(({ distance }) => distance)) + 1;
  return touches.filter(({ distance }) => distance <= most);
}

/** How sure it is that a surface is the sheet in shadow. */
const EVIDENCE = { none: 0, softEdge: 1, outline: 2, within: 3, ink: 4 } as const;

function evidenceOf(
  contact: readonly Touch[],
  paper: Uint8Array,
  unevenness: number,
  surfaces: Surfaces,
  sight: SheetSight,
  hasPlainCorners: (mask: Uint8Array) => boolean,
): number {
  const { labels, width } = surfaces;
  const { step, hue } = sight.change(contact);
  if (Math.abs(step) > -Math.log(DEEPEST) || hue > HUE_WITH_INK) return EVIDENCE.none;
  const shade = maskOf(surfaces, contact[0].label);
  if (sight.isInkAcross(contact, paper, shade)) return EVIDENCE.ink;
  if (hue > SAME_HUE) return EVIDENCE.none;
  if (sight.unevenness(shade) > ROUGHER * unevenness + SMOOTH) return EVIDENCE.none;
  if (liesWithin(shade, paper, width)) return EVIDENCE.within;
  const line = lineOf(contact, width, paper.length / width);
  if (line.bend > STRAIGHT) return EVIDENCE.none;
  const whole = joinedBy(paper, contact, labels, width);
  if (line.hasFreeEnd && runsOn(line, whole, width) && hasPlainCorners(whole)) {
    return EVIDENCE.outline;
  }
  const isSoft = sight.edgeWidth(contact, line.along) > SOFT_EDGE_PX;
  return isSoft && bulges(whole, width) ? EVIDENCE.softEdge : EVIDENCE.none;
}

/** Whether the outline runs straight on past both ends of a shadow's edge: a table beside a part of it stands out. */
function runsOn({ ends, along }: ContactLine, whole: Uint8Array, width: number): boolean {
  const hull = hullOf(regionOf(whole, width));
  return ends.every((end, index) => {
    const way = index === 0 ? -BEYOND_PX : BEYOND_PX;
    const place = { x: end.x + along.x * way, y: end.y + along.y * way };
    return !isWithin(hull, place);
  });
}

/** Whether there are no bays in it, as there are none in a sheet. */
function bulges(mask: Uint8Array, width: number): boolean {
  const region = regionOf(mask, width);
  return region.area / areaOf(hullOf(region)) > NO_BAYS;
}

/** A shadow that reaches into the sheet, instead of a table that lies round it. */
function liesWithin(shade: Uint8Array, paper: Uint8Array, width: number): boolean {
  const hull = hullOf(regionOf(paper, width));
  let [all, within] = [0, 0];
  shade.forEach((flag, at) => {
    if (!flag) return;
    all++;
    const x = at % width;
    if (isWithin(hull, { x: x + 0.5, y: (at - x) / width + 0.5 })) within++;
  });
  return within > all / 2;
}

interface ContactLine {
  /** Against `along` and with it. */
  readonly ends: readonly Point[];
  /** Of length 1, along the contact. */
  readonly along: Point;
  /** How far it strays to both sides, as a share of its length. */
  readonly bend: number;
  /** Whether it ends within the picture at least on one side, so at the sheet's edge. */
  readonly hasFreeEnd: boolean;
}

/** The line through the middle of a contact, by the axis of most variance. */
function lineOf(contact: readonly Touch[], width: number, height: number): ContactLine {
  const points = contact.map(({ from, to }) => ({
    x: ((from % width) + (to % width)) / 2,
    y: (Math.floor(from / width) + Math.floor(to / width)) / 2,
  }));
  const middle = {
    x: points.reduce((sum, { x }) => sum + x, 0) / points.length,
    y: points.reduce((sum, { y }) => sum + y, 0) / points.length,
  };
  let [xx, xy, yy] = [0, 0, 0];
  for (const { x, y } of points) {
    xx += (x - middle.x) ** 2;
    xy += (x - middle.x) * (y - middle.y);
    yy += (y - middle.y) ** 2;
  }
  const angle = Math.atan2(2 * xy, xx - yy) / 2;
  const along = { x: Math.cos(angle), y: Math.sin(angle) };
  const lengthwise = points.map(({ x, y }) => (x - middle.x) * along.x + (y - middle.y) * along.y);
  const sideways = points.map(({ x, y }) => (y - middle.y) * along.x - (x - middle.x) * along.y);
  const [first, last] = [Math.min(...lengthwise), Math.max(...lengthwise)];
  const spread = quantile(sideways, 0.97) - quantile(sideways, 0.03);
  const ends = [first, last].map((at) => ({
    x: middle.x + along.x * at,
    y: middle.y + along.y * at,
  }));
  const isFree = ({ x, y }: Point): boolean => {
    return Math.min(x, y, width - x, height - y) > EDGE_OF_PICTURE_PX;
  };
  return {
    ends,
    along,
    bend: spread / Math.max(1, last - first),
    hasFreeEnd: ends.some(isFree),
  };
}

const EDGE_OF_PICTURE_PX = 4;

/** The paper with the surface of a contact, and the edge between the two. */
function joinedBy(
  paper: Uint8Array,
  contact: readonly Touch[],
  labels: Int32Array,
  width: number,
): Uint8Array {
  const { label } = contact[0];
  const both = new Float32Array(paper.length);
  for (let at = 0; at < both.length; at++) both[at] = paper[at] || labels[at] === label ? 1 : 0;
  const gap = median(contact.map(({ distance }) => distance));
  const whole = closedPadded(both, width, Math.ceil(gap / 2) + 1);
  const mask = new Uint8Array(whole.length);
  for (let at = 0; at < mask.length; at++) mask[at] = whole[at] > 0 ? 1 : 0;
  return mask;
}
