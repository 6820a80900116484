import { ZygasterError } from '../errors.ts';
import type { Kit, PartStep, Step } from './schema.ts';

/** A closed line of a kit: consecutive points of a host's block. */
export interface Ring {
	readonly first: number;
	readonly count: number;
}

/** One operation that fills points. Distances name a parameter or are numbers, mm. */
export type PointOp =
	| { readonly kind: 'outline'; readonly step: string; readonly to: Ring }
	/** A hole of the host, by its number. */
	| { readonly kind: 'hole'; readonly step: string; readonly hole: number; readonly to: Ring }
	| {
			readonly kind: 'inset';
			readonly step: string;
			readonly from: Ring;
			readonly to: Ring;
			readonly distance: number | string;
	  }
	| {
			readonly kind: 'lift';
			readonly step: string;
			readonly from: Ring;
			readonly to: Ring;
			readonly distance: number | string;
			/** +1 towards the outside, -1 towards the inside. */
			readonly sign: 1 | -1;
	  };

/** One part: triangles over a host's points, the same for every host. */
export interface PartPattern {
	readonly step: PartStep;
	/** Three point indices a triangle, within a host's block; anticlockwise from outside. */
	readonly triangles: Uint16Array;
	/** The same indices times three: where the points' numbers start. */
	readonly offsets: Uint16Array;
	/** The line whose length is the part's length. */
	readonly run: Ring;
	/** The lines of a sheet that fills its outline, holes behind it. */
	readonly fills?: readonly Ring[];
}

/** A kit made ready for hosts of one corner count: what to compute, in order, and where it goes. */
export interface KitProgram {
	readonly kit: Kit;
	readonly corners: number;
	readonly pointsPerHost: number;
	readonly ops: readonly PointOp[];
	readonly parts: readonly PartPattern[];
}

/**
 * Compiles a kit for hosts with so many corners, and with holes of so many corners each. Throws a
 * ZygasterError with code `kit` that names the step at fault.
 */
export function compileKit(kit: Kit, corners: number, holes: readonly number[] = []): KitProgram {
	const { leastCorners, greatestCorners } = kit.host;
	if (corners < leastCorners || corners > greatestCorners)
		throw new ZygasterError(
			'kit',
			`“${kit.name}” fits cells with ${leastCorners} to ${greatestCorners} corners; this cell has ${corners}.`,
			kit.name
		);
	const rings = new Map<string, Ring>();
	/** The host's holes as they are beside each line: inset lines leave them, lifted ones lift them. */
	const holesOf = new Map<string, readonly Ring[]>();
	const ops: PointOp[] = [];
	const parts: PartPattern[] = [];
	const names = new Set<string>();
	let used = 0;
	for (const step of kit.steps) {
		if (names.has(step.name)) throw fault(kit, step, 'another step has the same name');
		names.add(step.name);
		const ring = (name: string) => findRing(kit, step, rings, name);
		const take = (count: number): Ring => {
			used += count;
			return { first: used - count, count };
		};
		if ('role' in step) parts.push(partPattern(kit, step, ring, (name) => holesOf.get(name) ?? []));
		else {
			const to = take(step.kind === 'outline' ? corners : ring(step.of).count);
			ops.push(pointOp(step, to, ring));
			rings.set(step.name, to);
			if (step.kind === 'inset') holesOf.set(step.name, holesOf.get(step.of) ?? []);
			else
				holesOf.set(
					step.name,
					(step.kind === 'outline' ? holes : (holesOf.get(step.of) ?? [])).map((hole, k) => {
						const around = take(typeof hole === 'number' ? hole : hole.count);
						ops.push(
							typeof hole === 'number'
								? { kind: 'hole', step: step.name, hole: k, to: around }
								: pointOp(step, around, () => hole)
						);
						return around;
					})
				);
		}
	}
	checkValues(kit);
	return { kit, corners, pointsPerHost: used, ops, parts };
}

function pointOp(
	step: Exclude<Step, PartStep>,
	to: Ring,
	ring: (name: string) => Ring
): PointOp {
	switch (step.kind) {
		case 'outline':
			return { kind: 'outline', step: step.name, to };
		case 'inset':
			return { kind: 'inset', step: step.name, from: ring(step.of), to, distance: step.distance };
		case 'lift':
			return {
				kind: 'lift',
				step: step.name,
				from: ring(step.of),
				to,
				distance: step.distance,
				sign: step.towards === 'outside' ? 1 : -1
			};
	}
}

function partPattern(kit: Kit, step: PartStep, ring: (name: string) => Ring, holesOf: (name: string) => readonly Ring[]): PartPattern {
	if (step.kind === 'ribbon') {
		const [from, to] = [ring(step.from), ring(step.to)];
		return patternOf(step, band(kit, step, from, to), from);
	}
	const outline = ring(step.outline);
	if (step.hole) return patternOf(step, band(kit, step, outline, ring(step.hole)), outline);
	return { ...patternOf(step, fan(outline), outline), fills: [outline, ...holesOf(step.outline)] };
}

/** A part with these triangles. */
export const patternOf = (step: PartStep, triangles: Uint16Array, run: Ring): PartPattern => ({
	step,
	triangles,
	offsets: triangles.map((point) => point * 3),
	run
});

/** Two triangles for each side between two rings. */
function band(kit: Kit, step: Step, outer: Ring, inner: Ring): Uint16Array {
	const n = outer.count;
	if (inner.count !== n)
		throw fault(kit, step, `its two lines have ${n} and ${inner.count} corners; needed are as many`);
	const triangles: number[] = [];
	for (let k = 0; k < n; k++) {
		const next = (k + 1) % n;
		const [a, b] = [outer.first + k, outer.first + next];
		const [c, d] = [inner.first + next, inner.first + k];
		triangles.push(a, b, c, a, c, d);
	}
	return Uint16Array.from(triangles);
}

function fan(ring: Ring): Uint16Array {
	const triangles: number[] = [];
	for (let k = 1; k + 1 < ring.count; k++)
		triangles.push(ring.first, ring.first + k, ring.first + k + 1);
	return Uint16Array.from(triangles);
}

function findRing(kit: Kit, step: Step, rings: Map<string, Ring>, name: string): Ring {
	const ring = rings.get(name);
	if (ring) return ring;
	const known = [...rings.keys()].join(', ') || 'none';
	throw fault(kit, step, `there is no line “${name}” above it; known here: ${known}`);
}

/** Every named value must be a parameter of the kit. */
function checkValues(kit: Kit): void {
	const known = new Set(kit.parameters.map((p) => p.name));
	for (const step of kit.steps)
		for (const value of [
			'distance' in step ? step.distance : 0,
			'thickness' in step ? step.thickness : 0
		])
			if (typeof value === 'string' && !known.has(value))
				throw fault(kit, step, `there is no parameter “${value}”`);
}

function fault(kit: Kit, step: Step, message: string): ZygasterError {
	return new ZygasterError(
		'kit',
		`Step “${step.name}” of kit “${kit.name}”: ${message}.`,
		`${kit.name} › ${step.name}`
	);
}
