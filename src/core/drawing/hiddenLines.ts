import { HIDDEN_BEHIND_MM, SEEN_PIECE_MM } from '../tolerances.ts';

/** Lines and what may stand before them, seen straight on: x to the right, y up, z towards the eye, mm. */
export interface SeenScene {
	/** Corners of triangles, stride 9. */
	readonly triangles: Float64Array;
	/** Nothing nearer to the eye than this is there: the place of a cut. */
	readonly nearest: number;
}

/** Boxes of the grid a triangle, about. */
const BOXES_PER_TRIANGLE = 1;
const MOST_BOXES = 1 << 20;

/**
 * Finds what can be seen of straight lines: what lies behind a triangle by more than a tolerance is taken out, exactly, since
 * depths change evenly along lines and over triangles. O(lines x triangles over them).
 */
export class HiddenLines {
	private readonly scene: SeenScene;
	private readonly count: number;
	private readonly x0: number;
	private readonly y0: number;
	private readonly size: number;
	private readonly across: number;
	private readonly up: number;
	private readonly start: Uint32Array;
	private readonly items: Uint32Array;
	/** By triangle: the last line that it was looked at for. */
	private readonly seenFor: Uint32Array;
	private lines = 0;

	constructor(scene: SeenScene) {
		const { triangles } = scene;
		this.scene = scene;
		this.count = triangles.length / 9;
		let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
		for (let k = 0; k < triangles.length; k += 3) {
			x0 = Math.min(x0, triangles[k]!);
			x1 = Math.max(x1, triangles[k]!);
			y0 = Math.min(y0, triangles[k + 1]!);
			y1 = Math.max(y1, triangles[k + 1]!);
		}
		const [width, height] = this.count ? [x1 - x0, y1 - y0] : [0, 0];
		const boxes = Math.min(MOST_BOXES, Math.max(1, this.count * BOXES_PER_TRIANGLE));
		this.size = Math.max(Math.sqrt((width * height) / boxes), Math.max(width, height) / boxes, 1);
		[this.x0, this.y0] = [x0, y0];
		this.across = Math.floor(width / this.size) + 1;
		this.up = Math.floor(height / this.size) + 1;
		this.start = new Uint32Array(this.across * this.up + 1);
		const eachBox = (visit: (box: number, triangle: number) => void) => {
			for (let t = 0; t < this.count; t++) {
				const xs = [triangles[t * 9]!, triangles[t * 9 + 3]!, triangles[t * 9 + 6]!];
				const ys = [triangles[t * 9 + 1]!, triangles[t * 9 + 4]!, triangles[t * 9 + 7]!];
				this.boxes(Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys), (box) => visit(box, t));
			}
		};
		eachBox((box) => this.start[box + 1]!++);
		for (let b = 1; b < this.start.length; b++) this.start[b]! += this.start[b - 1]!;
		const next = this.start.slice();
		this.items = new Uint32Array(this.start.at(-1)!);
		eachBox((box, t) => (this.items[next[box]!++] = t));
		this.seenFor = new Uint32Array(this.count);
	}

	private boxes(x0: number, y0: number, x1: number, y1: number, visit: (box: number) => void): void {
		const at = (v: number, from: number, most: number) =>
			Math.min(most - 1, Math.max(0, Math.floor((v - from) / this.size)));
		const [i0, i1] = [at(x0, this.x0, this.across), at(x1, this.x0, this.across)];
		const [j0, j1] = [at(y0, this.y0, this.up), at(y1, this.y0, this.up)];
		for (let j = j0; j <= j1; j++) for (let i = i0; i <= i1; i++) visit(j * this.across + i);
	}

	/** Calls back with each piece of a line that can be seen, as shares of its length, in order. */
	visible(
		ax: number,
		ay: number,
		az: number,
		bx: number,
		by: number,
		bz: number,
		see: (from: number, to: number) => void
	): void {
		const { scene, items, start, seenFor } = this;
		const length = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
		const hidden: [number, number][] = [];
		const span: Span = { from: 0, to: 1 };
		// What lies before a cut is not there.
		if (!narrow(span, scene.nearest - az, scene.nearest - bz)) return;
		const [from, to] = [span.from, span.to];
		const line = ++this.lines;
		this.boxes(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by), (box) => {
			for (let k = start[box]!; k < start[box + 1]!; k++) {
				const t = items[k]!;
				if (seenFor[t] === line) continue;
				seenFor[t] = line;
				[span.from, span.to] = [from, to];
				if (this.behind(t * 9, ax, ay, az, bx, by, bz, span)) hidden.push([span.from, span.to]);
			}
		});
		hidden.sort((a, b) => a[0] - b[0]);
		const least = length > 0 ? SEEN_PIECE_MM / length : Infinity;
		let at = from;
		for (const [start, end] of hidden) {
			if (start - at > least) see(at, start);
			at = Math.max(at, end);
		}
		if (to - at > least) see(at, to);
	}

	/** Whether a point can be seen. */
	sees(x: number, y: number, z: number): boolean {
		if (z > this.scene.nearest) return false;
		let seen = true;
		this.boxes(x, y, x, y, (box) => {
			for (let k = this.start[box]!; k < this.start[box + 1]! && seen; k++)
				if (this.behind(this.items[k]! * 9, x, y, z, x, y, z, { from: 0, to: 1 })) seen = false;
		});
		return seen;
	}

	/** Narrows a span of a line to where it lies behind a triangle; answers whether anything is left. */
	private behind(
		o: number,
		ax: number,
		ay: number,
		az: number,
		bx: number,
		by: number,
		bz: number,
		span: Span
	): boolean {
		const { triangles: t, nearest } = this.scene;
		const [px, py, pz] = [t[o]!, t[o + 1]!, t[o + 2]!];
		const [ux, uy, uz] = [t[o + 3]! - px, t[o + 4]! - py, t[o + 5]! - pz];
		const [vx, vy, vz] = [t[o + 6]! - px, t[o + 7]! - py, t[o + 8]! - pz];
		const area = ux * vy - uy * vx;
		// Seen on its edge it hides nothing.
		if (Math.abs(area) < 1) return false;
		// Shares of its sides from the first corner, and its depth, at a place.
		const shareU = (x: number, y: number) => ((x - px) * vy - (y - py) * vx) / area;
		const shareV = (x: number, y: number) => (ux * (y - py) - uy * (x - px)) / area;
		const [ua, ub, va, vb] = [shareU(ax, ay), shareU(bx, by), shareV(ax, ay), shareV(bx, by)];
		const [da, db] = [pz + ua * uz + va * vz, pz + ub * uz + vb * vz];
		return (
			narrow(span, ua, ub) &&
			narrow(span, va, vb) &&
			narrow(span, 1 - ua - va, 1 - ub - vb) &&
			narrow(span, da - az - HIDDEN_BEHIND_MM, db - bz - HIDDEN_BEHIND_MM) &&
			narrow(span, nearest - da, nearest - db)
		);
	}
}

interface Span {
	from: number;
	to: number;
}

/** Narrows a span to where something that changes evenly from `a` at 0 to `b` at 1 is not below nothing; whether anything is left. */
function narrow(span: Span, a: number, b: number): boolean {
	if (a < 0 && b < 0) return false;
	if (a < 0) span.from = Math.max(span.from, a / (a - b));
	else if (b < 0) span.to = Math.min(span.to, a / (a - b));
	return span.from < span.to;
}
