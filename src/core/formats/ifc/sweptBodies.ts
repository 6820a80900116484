import type { Mesh } from '../../kit/mesh.ts';
import type { PartGeometry } from '../../kit/result.ts';
import { transformed } from '../../kit/unitBodies.ts';
import { prismOf, sweptOf, type Prism } from './prism.ts';
import { stepList, stepReal, type Instance, type StepWriter } from '../step/stepText.ts';

/** mm: coordinates are written to a thousandth. */
const PER_MM = 1000;
const mm = (value: number) => stepReal(Math.round(value * PER_MM) / PER_MM);
/** Digits of directions: turned by less than a thousandth of a mm on a hundred metres. */
const PER_ONE = 1e9;
const share = (value: number) => stepReal(Math.round(value * PER_ONE) / PER_ONE);

/** Prismatic bodies as outlines that are moved along a line; an outline that comes again is written once. */
export class SweptBodies {
	private readonly step: StepWriter;
	private readonly profiles = new Map<string, Instance>();
	private readonly directions = new Map<string, Instance>();
	/** Of meshes that are put up again and again. */
	private readonly known = new WeakMap<Mesh, { readonly prism: Prism | undefined }>();

	constructor(step: StepWriter) {
		this.step = step;
	}

	/** The solid of an equal body as it is put up; nothing where it is no prism. */
	instance(geometry: PartGeometry, element: number): Instance | undefined {
		if (geometry.kind !== 'instances') return undefined;
		const { mesh, transforms } = geometry;
		const known = this.known.get(mesh) ?? { prism: prismOf(mesh) };
		this.known.set(mesh, known);
		return known.prism && this.solid(known.prism, transformed(mesh, transforms, element * 12).positions);
	}

	/** The solid of a mesh; nothing where it is no prism. */
	mesh(mesh: Mesh): Instance | undefined {
		const prism = prismOf(mesh);
		return prism && this.solid(prism, mesh.positions);
	}

	private solid(prism: Prism, positions: ArrayLike<number>): Instance | undefined {
		const swept = sweptOf(prism, positions);
		if (!swept) return undefined;
		const { step } = this;
		const { origin, axis, reference, loops, direction, depth } = swept;
		const profile = this.profile(loops);
		const point = step.add('IFCCARTESIANPOINT', stepList(origin.map(mm)));
		const place = step.add('IFCAXIS2PLACEMENT3D', point, this.direction(axis), this.direction(reference));
		return step.add('IFCEXTRUDEDAREASOLID', profile, place, this.direction(direction), mm(depth));
	}

	private direction(way: readonly number[]): Instance {
		const text = stepList(way.map(share));
		const there = this.directions.get(text) ?? this.step.add('IFCDIRECTION', text);
		this.directions.set(text, there);
		return there;
	}

	private profile(loops: readonly (readonly number[])[]): Instance {
		const texts = loops.map((points) => {
			const list = Array.from(
				{ length: points.length / 2 },
				(_, k) => `(${mm(points[k * 2]!)},${mm(points[k * 2 + 1]!)})`
			);
			return stepList([...list, list[0]!]);
		});
		const key = texts.join(' ');
		const there = this.profiles.get(key);
		if (there) return there;
		const { step } = this;
		const curves = texts.map((text) =>
			step.add('IFCINDEXEDPOLYCURVE', step.add('IFCCARTESIANPOINTLIST2D', text), '$', '.F.')
		);
		const [outer, ...holes] = curves;
		const made = holes.length
			? step.add('IFCARBITRARYPROFILEDEFWITHVOIDS', '.AREA.', '$', outer!, holes)
			: step.add('IFCARBITRARYCLOSEDPROFILEDEF', '.AREA.', '$', outer!);
		this.profiles.set(key, made);
		return made;
	}
}
