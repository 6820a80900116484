import { standingOf } from '../../geometry/transformParts.ts';
import type { Mesh } from '../../kit/mesh.ts';
import type { InstanceGeometry, PartGeometry } from '../../kit/result.ts';
import { stepList, stepReal, type Instance, type StepWriter } from '../step/stepText.ts';

/** Equal bodies, each written once and put up where its pieces are. */
export class MappedBodies {
	private readonly step: StepWriter;
	private readonly axes: Instance;
	private readonly body: Instance;
	private readonly faceSet: (mesh: Mesh, material: string) => Instance;
	/** By mesh and material: the map of the body. */
	private readonly known = new Map<Mesh, Map<string, Instance>>();

	constructor(step: StepWriter, axes: Instance, body: Instance, faceSet: (mesh: Mesh, material: string) => Instance) {
		this.step = step;
		this.axes = axes;
		this.body = body;
		this.faceSet = faceSet;
	}

	/** The representation of a piece; nothing where it is no equal body, or one that is sheared or mirrored. */
	represent(geometry: PartGeometry, element: number, material: string): Instance | undefined {
		if (geometry.kind !== 'instances') return undefined;
		const operator = this.operator(geometry, element);
		if (!operator) return undefined;
		const item = this.step.add('IFCMAPPEDITEM', this.mapOf(geometry.mesh, material), operator);
		return this.step.add('IFCSHAPEREPRESENTATION', this.body, "'Body'", "'MappedRepresentation'", [item]);
	}

	private mapOf(mesh: Mesh, material: string): Instance {
		const own = this.known.get(mesh) ?? new Map<string, Instance>();
		this.known.set(mesh, own);
		const there = own.get(material);
		if (there) return there;
		const { step } = this;
		const set = this.faceSet(mesh, material);
		const shape = step.add('IFCSHAPEREPRESENTATION', this.body, "'Body'", "'Tessellation'", [set]);
		const map = step.add('IFCREPRESENTATIONMAP', this.axes, shape);
		own.set(material, map);
		return map;
	}

	private operator({ transforms }: InstanceGeometry, element: number): Instance | undefined {
		const standing = standingOf(transforms, element * 12);
		if (!standing) return undefined;
		const { origin, axes, scale } = standing;
		const { step } = this;
		const point = (type: string, p: readonly number[]) => step.add(type, stepList(p.map(stepReal)));
		const [first, second, third] = axes.map((way) => point('IFCDIRECTION', way));
		return step.add(
			'IFCCARTESIANTRANSFORMATIONOPERATOR3DNONUNIFORM',
			first!,
			second!,
			point('IFCCARTESIANPOINT', origin),
			stepReal(scale[0]),
			third!,
			stepReal(scale[1]),
			stepReal(scale[2])
		);
	}
}
