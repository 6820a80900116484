import DxfParser from 'dxf-parser';
import svgpath from 'svgpath';
import { ZygasterError } from '../../core/errors.ts';
import type { DrawnPoint, DrawnProfile } from '../../core/mass/profile.ts';
import { signedArea } from '../../core/mass/profile.ts';
import { COINCIDENT_MM } from '../../core/tolerances.ts';
import { reverseLine } from './drawing.ts';

/** Smooth points on each curved piece of an SVG path. */
const PIECES = 4;
const MOST_POINTS = 500;

/** The longest line of a DXF or SVG file; `mm` is the size of one unit where the file does not say. */
export function readLine(name: string, text: string, mm: number): DrawnProfile {
	const lines = /\.dxf$/i.test(name) ? readDxf(text, mm) : /\.svg$/i.test(name) ? readSvg(text, mm) : undefined;
	if (!lines) throw new ZygasterError('line-file', `“${name}” is neither an SVG nor a DXF file.`);
	const longest = lines.sort((a, b) => lengthOf(b) - lengthOf(a))[0];
	if (!longest) throw new ZygasterError('line-file', `“${name}” holds no line; polylines and paths are read.`);
	if (longest.points.length > MOST_POINTS)
		throw new ZygasterError(
			'line-file',
			`The longest line of “${name}” has ${longest.points.length} points; at most ${MOST_POINTS} are read.`
		);
	return longest.closed && signedArea(longest.points) < 0 ? reverseLine(longest) : longest;
}

function readSvg(text: string, mm: number): DrawnProfile[] {
	const svg = new DOMParser().parseFromString(text, 'image/svg+xml');
	if (svg.querySelector('parsererror')) throw new ZygasterError('line-file', 'This is not a sound SVG file.');
	const paths = [...svg.querySelectorAll('path')].map((p) => p.getAttribute('d') ?? '');
	for (const poly of svg.querySelectorAll('polyline, polygon'))
		paths.push(`M${poly.getAttribute('points') ?? ''}${poly.tagName === 'polygon' ? 'Z' : ''}`);
	return paths.flatMap((d) => pathLines(d, mm));
}

/** The lines of an SVG path, its y turned upwards. Throws a ZygasterError for a path that is none. */
export function pathLines(d: string, mm: number): DrawnProfile[] {
	const path = svgpath(d).abs().unshort().unarc();
	const fault = (path as unknown as { err?: string }).err;
	if (fault) throw new ZygasterError('line-file', `A path cannot be read: ${fault}.`);
	const lines: { closed: boolean; points: DrawnPoint[] }[] = [];
	path.iterate(([command, ...n], _, x, y) => {
		const points = lines.at(-1)?.points;
		const add = (px: number, py: number, smooth: boolean) => points!.push({ x: px * mm, y: -py * mm, smooth, arc: 0 });
		switch (command) {
			case 'M':
				lines.push({ closed: false, points: [{ x: n[0]! * mm, y: -n[1]! * mm, smooth: false, arc: 0 }] });
				break;
			case 'L':
				add(n[0]!, n[1]!, false);
				break;
			case 'H':
				add(n[0]!, y, false);
				break;
			case 'V':
				add(x, n[0]!, false);
				break;
			case 'C':
			case 'Q': {
				const bezier = [x, y, ...n];
				for (let k = 1; k <= PIECES; k++) {
					const t = k / PIECES;
					add(bezierAt(bezier, 0, t), bezierAt(bezier, 1, t), k < PIECES);
				}
				break;
			}
			case 'Z':
				lines.at(-1)!.closed = true;
		}
	});
	return lines.map(({ closed, points }) => finished(closed, points)).filter((l) => l !== undefined);
}

function bezierAt(numbers: readonly number[], axis: 0 | 1, t: number): number {
	let row = numbers.filter((_, k) => k % 2 === axis);
	while (row.length > 1) row = row.slice(1).map((v, k) => row[k]! * (1 - t) + v * t);
	return row[0]!;
}

/** mm of a DXF drawing unit, by the header's number. Source: the DXF reference's $INSUNITS. */
const DXF_UNITS: Readonly<Record<number, number>> = { 1: 25.4, 2: 304.8, 4: 1, 5: 10, 6: 1000 };

interface DxfEntity {
	readonly type: string;
	readonly vertices?: readonly { x: number; y: number; bulge?: number }[];
	readonly shape?: boolean;
	readonly center?: { x: number; y: number };
	readonly radius?: number;
}

/** The lines of a DXF drawing; its own unit goes before `mm`. */
export function readDxf(text: string, mm: number): DrawnProfile[] {
	let drawing;
	try {
		drawing = new DxfParser().parseSync(text);
	} catch (cause) {
		throw new ZygasterError('line-file', 'This is not a sound DXF file.', '', { cause });
	}
	const unit = DXF_UNITS[Number(drawing?.header?.$INSUNITS)] ?? mm;
	return ((drawing?.entities ?? []) as unknown as DxfEntity[])
		.map((entity) => {
			if (entity.type === 'CIRCLE' && entity.center && entity.radius) {
				const { center: c, radius: r } = entity;
				const half = (x: number): DrawnPoint => ({ x: x * unit, y: c.y * unit, smooth: false, arc: 1 });
				return finished(true, [half(c.x + r), half(c.x - r)]);
			}
			const points = (entity.vertices ?? []).map(({ x, y, bulge }): DrawnPoint => ({
				x: x * unit,
				y: y * unit,
				smooth: false,
				arc: bulge ?? 0
			}));
			return finished(entity.shape === true, points);
		})
		.filter((line) => line !== undefined);
}

/** A line without points that stand twice; nothing where too few are left. */
function finished(closed: boolean, points: DrawnPoint[]): DrawnProfile | undefined {
	const apart = points.filter(
		(p, k) => k === 0 || Math.hypot(p.x - points[k - 1]!.x, p.y - points[k - 1]!.y) > COINCIDENT_MM
	);
	const [first, last] = [apart[0], apart.at(-1)];
	if (apart.length > 2 && Math.hypot(first!.x - last!.x, first!.y - last!.y) <= COINCIDENT_MM) {
		apart.pop();
		closed = true;
	}
	return apart.length < 2 ? undefined : { kind: 'drawn', closed, rounding: 0, points: apart };
}

const lengthOf = ({ points }: DrawnProfile) =>
	points.reduce((sum, p, k) => (k === 0 ? 0 : sum + Math.hypot(p.x - points[k - 1]!.x, p.y - points[k - 1]!.y)), 0);
