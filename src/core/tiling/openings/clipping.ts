// By the modules of the package: its index brings everything that it can do.
import { ClipType, FillRule } from 'clipper2-ts/dist/Core.js';
import { ClipperD } from 'clipper2-ts/dist/Engine.js';
import { ClipperOffset, EndType, JoinType } from 'clipper2-ts/dist/Offset.js';

/** A closed line. */
export type Path = { x: number; y: number }[];

const MITER_LIMIT = 4;

function clipped(kind: ClipType, some: Path[], others: Path[], digits: number): Path[] {
	const clipper = new ClipperD(digits);
	clipper.addSubjectPaths(some);
	clipper.addClipPaths(others);
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
