import earcut from 'earcut';
import { norm } from '../../elementary/index.ts';
import { pointOn, type FacePoint } from '../../geometry/pointOn.ts';
import { cross, dot, plus } from '../../geometry/vectors.ts';
import { meshVolume, turnedMesh, type Mesh } from '../../kit/mesh.ts';
import type { FaceModel } from '../../project/faceResult.ts';
import { openingRows } from '../../schedule/own/openings.ts';
import { developmentOf, FlatFinder, moveOverSeam } from '../../settingout/development.ts';
import type { Opening } from '../../tiling/openings/schema.ts';
import { followed } from '../../tiling/openings/onFace.ts';
import { stepReal, stepText, type Instance } from '../step/stepText.ts';
import type { IfcWriter } from './ifcWriter.ts';
import type { Looks } from './looks.ts';
import { PART, type GlobalIds } from './globalId.ts';
import type { PropertySets } from './propertySets.ts';
import type { Contained } from './spatial.ts';

/** How far the body of an opening reaches to either side of the face, mm: through what stands on it (practice). */
const REACH = 300;

/** What an opening is filled with, by what the project says of it. */
const FILLINGS = {
	window: {
		entity: 'IFCWINDOW',
		more: ['.WINDOW.', '.NOTDEFINED.', '$'],
		properties: 'Pset_WindowCommon',
		quantities: 'Qto_WindowBaseQuantities'
	},
	door: {
		entity: 'IFCDOOR',
		more: ['.DOOR.', '.NOTDEFINED.', '$'],
		properties: 'Pset_DoorCommon',
		quantities: 'Qto_DoorBaseQuantities'
	}
} as const;

export interface OpeningPorts {
	readonly step: IfcWriter;
	readonly sets: PropertySets;
	readonly looks: Looks;
	readonly ids: (name: string) => GlobalIds;
	readonly placement: Instance;
	/** Keeps what is of a kind, so that it can be classified. */
	readonly remember: (of: 'opening' | 'window' | 'door', element: Instance) => void;
	/** The shape of a body of triangles. */
	readonly shapeOf: (item: Instance) => Instance;
}

/**
 * The openings of a face: each a void in an element that has no body, and where it has a window or a door, that in the void.
 * Answers what fills them.
 */
export function writeOpenings(
	{ step, sets, looks, ids, placement, remember, shapeOf }: OpeningPorts,
	face: FaceModel,
	element: Instance,
	openings: readonly Opening[]
): Contained[] {
	const development = developmentOf(face.charted);
	const finder = new FlatFinder(development);
	return openingRows(face).flatMap(({ opening, copy, mark, figures }) => {
		const goesAround = opening.around?.[copy] ?? 0;
		const flat = followed(opening.rings[copy]!, goesAround);
		const line = flat.map(([x, y]) => {
			const at =
				[[x, y] as const, moveOverSeam(development, x, y, 1), moveOverSeam(development, x, y, -1)]
					.map((p) => finder.find(...p))
					.find(Boolean) ?? finder.nearest(x, y);
			return pointOn(face.charted.surface, at.u, at.v);
		});
		const cap = earcut(goesAround > 0 ? seenSquare(line) : flat.flat());
		const body = throughFace(line, cap);
		const name = stepText(mark);
		const own = ids(`opening ${face.key} ${opening.id} ${copy}`);
		const hole = step.root(
			'IFCOPENINGELEMENT',
			own,
			PART.itself,
			name,
			'$',
			'$',
			placement,
			shapeOf(looks.faceSet(body, true)),
			name,
			'.OPENING.'
		);
		remember('opening', hole);
		step.root('IFCRELVOIDSELEMENT', own, PART.aggregates, '$', '$', element, hole);
		sets.properties(own, PART.common, 'Pset_OpeningElementCommon', hole, [
			sets.shared('Reference', opening.name, 'IDENTIFIER')
		]);
		sets.quantities(own, PART.quantities, 'Qto_OpeningElementBaseQuantities', hole, [
			['LENGTH', 'Width', figures.width],
			['LENGTH', 'Height', figures.height],
			['LENGTH', 'Depth', 2 * REACH],
			['AREA', 'Area', figures.area],
			['VOLUME', 'Volume', meshVolume(body)]
		]);
		const filling = openings.find((o) => o.id === opening.id)?.filling ?? 'nothing';
		if (filling === 'nothing') return [];
		const { entity, more, properties, quantities } = FILLINGS[filling];
		const inIt = ids(`filling ${face.key} ${opening.id} ${copy}`);
		const surface = looks.faceSet(
			{ positions: Float64Array.from(line.flatMap((p) => p.position)), triangles: Uint32Array.from(cap) },
			false
		);
		const filled = step.root(
			entity,
			inIt,
			PART.itself,
			name,
			'$',
			'$',
			placement,
			shapeOf(surface),
			name,
			stepReal(figures.height),
			stepReal(figures.width),
			...more
		);
		remember(filling, filled);
		step.root('IFCRELFILLSELEMENT', inIt, PART.aggregates, '$', '$', hole, filled);
		sets.properties(inIt, PART.common, properties, filled, sets.common(opening.name));
		sets.quantities(inIt, PART.quantities, quantities, filled, [
			['LENGTH', 'Width', figures.width],
			['LENGTH', 'Height', figures.height],
			['LENGTH', 'Perimeter', figures.around],
			['AREA', 'Area', figures.area]
		]);
		return [{ element: filled, lowest: Math.min(...line.map((p) => p.position[2]!)) }];
	});
}

/** Points seen along the mean of the normals there, stride 2. */
function seenSquare(line: readonly FacePoint[]): number[] {
	const normal = line.map((p) => p.normal).reduce(plus);
	const right = cross(line[0]!.dv, normal);
	const up = cross(normal, right);
	const [r, u] = [norm(right), norm(up)];
	return line.flatMap(({ position }) => [dot(position, right) / r, dot(position, up) / u]);
}

/** The closed body between a line moved outwards and inwards, wound outwards. */
function throughFace(line: readonly FacePoint[], cap: readonly number[]): Mesh {
	const n = line.length;
	const positions = new Float64Array(n * 6);
	line.forEach(({ position, normal }, k) => {
		for (let c = 0; c < 3; c++) {
			positions[k * 3 + c] = position[c]! + normal[c]! * REACH;
			positions[(n + k) * 3 + c] = position[c]! - normal[c]! * REACH;
		}
	});
	const triangles: number[] = [];
	for (let t = 0; t < cap.length; t += 3) {
		const [a, b, c] = [cap[t]!, cap[t + 1]!, cap[t + 2]!];
		triangles.push(a, b, c, n + a, n + c, n + b);
	}
	for (let k = 0; k < n; k++) {
		const next = (k + 1) % n;
		triangles.push(k, n + k, next, next, n + k, n + next);
	}
	const mesh = { positions, triangles: Uint32Array.from(triangles) };
	return meshVolume(mesh) < 0 ? turnedMesh(mesh) : mesh;
}
