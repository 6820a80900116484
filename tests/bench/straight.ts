// The least that framed panes on a bicubic roof take: a straight-line program for this one case, on typed arrays that are
// reused, to hold the pipeline against within one run. Nothing of it is used elsewhere.

const AT = new Float64Array(4);
const SLOPE = new Float64Array(4);

/** Cubic Bernstein polynomials and their slopes at `t`, four of each from `o` on. */
function bernstein(t: number, values: Float64Array, slopes: Float64Array, o: number): void {
	const s = 1 - t;
	values[o] = s * s * s;
	values[o + 1] = 3 * s * s * t;
	values[o + 2] = 3 * s * t * t;
	values[o + 3] = t * t * t;
	slopes[o] = -3 * s * s;
	slopes[o + 1] = 3 * s * s - 6 * s * t;
	slopes[o + 2] = 6 * s * t - 3 * t * t;
	slopes[o + 3] = 3 * t * t;
}

/** Control points of a roof of this size, mm: four by four, stride 3. */
function control(width: number, depth: number): Float64Array {
	const points = new Float64Array(48);
	for (let j = 0; j < 4; j++)
		for (let i = 0; i < 4; i++) {
			const o = (j * 4 + i) * 3;
			points[o] = (width * i) / 3;
			points[o + 1] = (depth * j) / 3;
			points[o + 2] = (width / 12) * (i % 3 === 0 ? 0 : 1) + (depth / 20) * (j === 1 ? 1 : j === 2 ? -0.5 : 0);
		}
	return points;
}

const FRAME = 50;
const RECESS = 30;
/** Points of a pane: the rim, the frame inside it, the glass behind it; stride 3. */
const PANE = 12 * 3;

/** Arrays of a size, made once. */
export interface StraightRoom {
	readonly across: number;
	readonly up: number;
	readonly position: Float64Array;
	readonly normal: Float64Array;
	readonly readings: Float64Array;
	readonly panes: Float64Array;
	readonly weights: Float64Array;
	readonly text: Uint8Array;
}

const READINGS = 9;

export function straightRoom(across: number, up: number): StraightRoom {
	const cells = across * up;
	const nodes = (across + 1) * (up + 1);
	return {
		across,
		up,
		position: new Float64Array(nodes * 3),
		normal: new Float64Array(nodes * 3),
		readings: new Float64Array(cells * READINGS),
		panes: new Float64Array(cells * PANE),
		weights: new Float64Array(cells),
		text: new Uint8Array(cells * 110)
	};
}

/** Nodes with normals. */
export function straightNodes({ across, up, position, normal }: StraightRoom): void {
	const points = control(across * 1500, up * 1500);
	const values = new Float64Array((across + 1) * 4);
	const slopes = new Float64Array((across + 1) * 4);
	for (let i = 0; i <= across; i++) bernstein(i / across, values, slopes, i * 4);
	const row = new Float64Array(12);
	const rowSlope = new Float64Array(12);
	let o = 0;
	for (let j = 0; j <= up; j++) {
		bernstein(j / up, AT, SLOPE, 0);
		for (let k = 0; k < 12; k++) {
			const [a, b, c, d] = [points[k]!, points[12 + k]!, points[24 + k]!, points[36 + k]!];
			row[k] = AT[0]! * a + AT[1]! * b + AT[2]! * c + AT[3]! * d;
			rowSlope[k] = SLOPE[0]! * a + SLOPE[1]! * b + SLOPE[2]! * c + SLOPE[3]! * d;
		}
		for (let i = 0; i <= across; i++, o += 3) {
			const k = i * 4;
			for (let c = 0; c < 3; c++)
				position[o + c] =
					values[k]! * row[c]! +
					values[k + 1]! * row[3 + c]! +
					values[k + 2]! * row[6 + c]! +
					values[k + 3]! * row[9 + c]!;
			const ux = slopes[k]! * row[0]! + slopes[k + 1]! * row[3]! + slopes[k + 2]! * row[6]! + slopes[k + 3]! * row[9]!;
			const uy = slopes[k]! * row[1]! + slopes[k + 1]! * row[4]! + slopes[k + 2]! * row[7]! + slopes[k + 3]! * row[10]!;
			const uz = slopes[k]! * row[2]! + slopes[k + 1]! * row[5]! + slopes[k + 2]! * row[8]! + slopes[k + 3]! * row[11]!;
			const vx =
				values[k]! * rowSlope[0]! +
				values[k + 1]! * rowSlope[3]! +
				values[k + 2]! * rowSlope[6]! +
				values[k + 3]! * rowSlope[9]!;
			const vy =
				values[k]! * rowSlope[1]! +
				values[k + 1]! * rowSlope[4]! +
				values[k + 2]! * rowSlope[7]! +
				values[k + 3]! * rowSlope[10]!;
			const vz =
				values[k]! * rowSlope[2]! +
				values[k + 1]! * rowSlope[5]! +
				values[k + 2]! * rowSlope[8]! +
				values[k + 3]! * rowSlope[11]!;
			const x = uy * vz - uz * vy;
			const y = uz * vx - ux * vz;
			const z = ux * vy - uy * vx;
			const scale = 1 / Math.sqrt(x * x + y * y + z * z);
			normal[o] = x * scale;
			normal[o + 1] = y * scale;
			normal[o + 2] = z * scale;
		}
	}
}

/** Width, height, area, warp, perimeter, tilt and the unit normal of every cell. */
export function straightReadings({ across, up, position: p, readings }: StraightRoom): void {
	let r = 0;
	for (let j = 0; j < up; j++)
		for (let i = 0; i < across; i++, r += READINGS) {
			const a = (j * (across + 1) + i) * 3;
			const b = a + 3;
			const d = a + (across + 1) * 3;
			const c = d + 3;
			const ux = p[c]! - p[a]!;
			const uy = p[c + 1]! - p[a + 1]!;
			const uz = p[c + 2]! - p[a + 2]!;
			const vx = p[d]! - p[b]!;
			const vy = p[d + 1]! - p[b + 1]!;
			const vz = p[d + 2]! - p[b + 2]!;
			const nx = uy * vz - uz * vy;
			const ny = uz * vx - ux * vz;
			const nz = ux * vy - uy * vx;
			const twice = Math.sqrt(nx * nx + ny * ny + nz * nz);
			const scale = 1 / twice;
			const ex = p[b]! - p[a]!;
			const ey = p[b + 1]! - p[a + 1]!;
			const ez = p[b + 2]! - p[a + 2]!;
			const sx = p[d]! - p[a]!;
			const sy = p[d + 1]! - p[a + 1]!;
			const sz = p[d + 2]! - p[a + 2]!;
			const ab = Math.sqrt(ex * ex + ey * ey + ez * ez);
			const ad = Math.sqrt(sx * sx + sy * sy + sz * sz);
			readings[r] = ab;
			readings[r + 1] = ad;
			readings[r + 2] = twice / 2;
			readings[r + 3] = Math.abs((ex * nx + ey * ny + ez * nz) * scale);
			readings[r + 4] = 2 * (ab + ad);
			readings[r + 5] = Math.atan2(Math.sqrt(nx * nx + ny * ny), nz);
			readings[r + 6] = nx * scale;
			readings[r + 7] = ny * scale;
			readings[r + 8] = nz * scale;
		}
}

/** A rim, a frame inside it and glass behind, and what they weigh. */
export function straightPanes({ across, up, position: p, readings, panes, weights }: StraightRoom): void {
	let o = 0;
	let cell = 0;
	const corner = new Int32Array(4);
	for (let j = 0; j < up; j++)
		for (let i = 0; i < across; i++, o += PANE, cell++) {
			corner[0] = (j * (across + 1) + i) * 3;
			corner[1] = corner[0] + 3;
			corner[3] = corner[0] + (across + 1) * 3;
			corner[2] = corner[3] + 3;
			const r = cell * READINGS;
			let frame = 0;
			for (let k = 0; k < 4; k++) {
				const a = corner[k]!;
				const before = corner[(k + 3) & 3]!;
				const after = corner[(k + 1) & 3]!;
				let px = p[a]! - p[before]!;
				let py = p[a + 1]! - p[before + 1]!;
				let pz = p[a + 2]! - p[before + 2]!;
				let qx = p[after]! - p[a]!;
				let qy = p[after + 1]! - p[a + 1]!;
				let qz = p[after + 2]! - p[a + 2]!;
				const ps = 1 / Math.sqrt(px * px + py * py + pz * pz);
				const length = Math.sqrt(qx * qx + qy * qy + qz * qz);
				px *= ps;
				py *= ps;
				pz *= ps;
				qx /= length;
				qy /= length;
				qz /= length;
				frame += length;
				const cx = py * qz - pz * qy;
				const cy = pz * qx - px * qz;
				const cz = px * qy - py * qx;
				const t = FRAME / Math.sqrt(cx * cx + cy * cy + cz * cz);
				const w = o + k * 3;
				for (let c = 0; c < 3; c++) panes[w + c] = p[a + c]!;
				panes[w + 12] = p[a]! + t * (qx - px);
				panes[w + 13] = p[a + 1]! + t * (qy - py);
				panes[w + 14] = p[a + 2]! + t * (qz - pz);
				for (let c = 0; c < 3; c++) panes[w + 24 + c] = panes[w + 12 + c]! - RECESS * readings[r + 6 + c]!;
			}
			weights[cell] = readings[r + 2]! * 6 * 2.5e-6 + frame * FRAME * 2 * 2.7e-6;
		}
}

const ZERO = 48;

/** A number with `decimals` from 0 to 4; answers where it ends. */
function put(text: Uint8Array, start: number, value: number, decimals: number): number {
	let scaled = Math.round(value * (decimals === 4 ? 10_000 : decimals === 2 ? 100 : decimals === 1 ? 10 : 1));
	let digits = 1;
	for (let power = 10; power <= scaled; power *= 10) digits++;
	if (digits <= decimals) digits = decimals + 1;
	const end = start + digits + (decimals ? 1 : 0);
	for (let at = end - 1, k = 0; at >= start; at--, k++) {
		if (decimals && k === decimals) {
			text[at] = 46;
			continue;
		}
		const next = (scaled / 10) | 0;
		text[at] = ZERO + scaled - next * 10;
		scaled = next;
	}
	return end;
}

/** Row, column, width, height, area, warp, perimeter and weight of every cell as text; answers how long it is. */
export function straightCsv({ across, up, readings, weights, text }: StraightRoom): number {
	let at = 0;
	let cell = 0;
	for (let j = 0; j < up; j++)
		for (let i = 0; i < across; i++, cell++) {
			const r = cell * READINGS;
			at = put(text, at, j + 1, 0);
			text[at++] = 44;
			at = put(text, at, i + 1, 0);
			text[at++] = 44;
			at = put(text, at, readings[r]!, 1);
			text[at++] = 44;
			at = put(text, at, readings[r + 1]!, 1);
			text[at++] = 44;
			at = put(text, at, readings[r + 2]! / 1e6, 4);
			text[at++] = 44;
			at = put(text, at, readings[r + 3]!, 2);
			text[at++] = 44;
			at = put(text, at, readings[r + 4]!, 1);
			text[at++] = 44;
			at = put(text, at, weights[cell]!, 2);
			text[at++] = 10;
		}
	return at;
}

/** All stages in order. */
export function straight(room: StraightRoom): number {
	straightNodes(room);
	straightReadings(room);
	straightPanes(room);
	return straightCsv(room);
}
