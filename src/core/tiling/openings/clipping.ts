// By the modules of the package: its index brings everything that it can do.
import { ClipType, FillRule } from 'clipper2-ts/dist/Core.js';
import { ClipperD } from 'clipper2-ts/dist/Engine.js';
import { ClipperOffset, EndType, JoinType } from 'clipper2-ts/dist/Offset.js';

/** A closed line. */
export type Path = { x: number; y: number }[];

const MITER_LIMIT = 4;

/**
 * A line without sides that run straight back along the side before them, level with the first axis: with some of these
 * the package never comes to an end. They enclose nothing. Nothing where less than a triangle is left.
 */
function withoutSpikes(path: Path, scale: number): Path[] {
	let line = path;
	for (let k = spikeIn(line, scale); k >= 0; k = spikeIn(line, scale)) line = line.filter((_, i) => i !== k);
	return line.length > 2 ? [line] : [];
}

/** The first point that is the tip of a level spike, or of no length; -1 where there is none. */
function spikeIn(path: Path, scale: number): number {
	const last = path.length - 1;
	return path.findIndex(({ x, y }, k) => {
		const [before, after] = [path[k > 0 ? k - 1 : last]!, path[k < last ? k + 1 : 0]!];
		const level = Math.round(y * scale);
		if (Math.round(before.y * scale) !== level || Math.round(after.y * scale) !== level) return false;
		const [from, here, to] = [Math.round(before.x * scale), Math.round(x * scale), Math.round(after.x * scale)];
		return from === here || here === to || from < here === to < here;
	});
}

function clipped(kind: ClipType, some: Path[], others: Path[], digits: number): Path[] {
	const scale = Number(`1e${digits}`);
	const clipper = new ClipperD(digits);
	clipper.addSubjectPaths(some.flatMap((path) => withoutSpikes(path, scale)));
	clipper.addClipPaths(others.flatMap((path) => withoutSpikes(path, scale)));
	const found: Path[] = [];
	clipper.execute(kind, FillRule.NonZero, found);
	return found;
}

// Outer lines run anticlockwise, holes clockwise; corners are kept to so many digits after the point.
export const union = (paths: Path[], digits: number) => clipped(ClipType.Union, paths, [], digits);
export const intersection = (some: Path[], others: Path[], digits: number) =>
	clipped(ClipType.Intersection, some, others, digits);
export const difference = (some: Path[], others: Path[], digits: number) =>
	clipped(ClipType.Difference, some, others, digits);

/** Lines grown outwards by a distance, with sharp corners. */
export function grown(paths: Path[], by: number, digits: number): Path[] {
	const scale = Number(`1e${digits}`);
	const whole = (x: number) => Math.round(x * scale);
	const offset = new ClipperOffset(MITER_LIMIT, 0);
	offset.addPaths(
		paths.map((path) => path.map(({ x, y }) => ({ x: whole(x), y: whole(y) }))),
		JoinType.Miter,
		EndType.Polygon
	);
	const found: Path[] = [];
	offset.execute(by * scale, found);
	return found.map((path) => path.map(({ x, y }) => ({ x: x * (1 / scale), y: y * (1 / scale) })));
}
