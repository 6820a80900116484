import { openParts } from '../../geometry/seam.ts';
import type { Surface } from '../../geometry/surface.ts';
import type { FaceBody } from '../../project/faceResult.ts';
import { ByteWriter } from '../byteWriter.ts';
import { stepList, stepName, stepReal, stepText, StepWriter, type Instance } from './stepText.ts';
import type { Sink } from '../sink.ts';
import type { WriterInput } from '../writerInput.ts';

/**
 * The faces of all masses as they are, exactly, as STEP (ISO 10303-21, application protocol 214): B-spline surfaces, rational or
 * not, each with its borders, in a shell that is a product of its own, named by the face; mm. Openings are not cut. O(control points).
 */
export function writeStep({ project, model, issue }: WriterInput, sink: Sink): void {
	const out = new ByteWriter(sink);
	const day = issue?.date ?? '2000-01-01';
	out.text(
		`ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION(('Faces of a building'),'2;1');\nFILE_NAME(${stepText(`${project.name}.step`)},'${day}T00:00:00',(${stepText(issue?.author ?? '')}),(''),'Zygaster','Zygaster','');\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN { 1 0 10303 214 1 1 1 1 }'));\nENDSEC;\nDATA;\n`
	);
	const file = new StepFile(new StepWriter(out));
	for (const body of model.bodies) file.product(body);
	out.text('ENDSEC;\nEND-ISO-10303-21;\n');
	out.finish();
}

/** A border of a face: control points (x, y, z and weight, not multiplied) with their knots. */
interface Border {
	readonly degree: number;
	readonly knots: Float64Array;
	readonly control: readonly (readonly number[])[];
}

/** What shells have in common, by where it is: corners and borders of parts that meet. */
type Shared = Map<string, Instance>;

class StepFile {
	private readonly step: StepWriter;
	private contexts: ReturnType<StepFile['addContexts']> | undefined;

	constructor(step: StepWriter) {
		this.step = step;
	}

	/** A face in a shell, in parts where it closes on itself; answers the model of the shell. */
	private face({ name, mark, surface, ends }: FaceBody): Instance {
		const { step } = this;
		const label = stepText(`${mark} ${name}`);
		const shared: Shared = new Map();
		const faces = openParts(surface, ends.closedAcross, ends.closedUp).map((part) => this.part(part, label, shared));
		const shell = step.add('OPEN_SHELL', label, faces);
		return step.add('SHELL_BASED_SURFACE_MODEL', label, [shell]);
	}

	private part(surface: Surface, label: string, shared: Shared): Instance {
		const { step } = this;
		const { countU, countV, degreeU, degreeV, knotsU, knotsV } = surface;
		const across = (v: number): Border => ({
			degree: degreeU,
			knots: knotsU,
			control: Array.from({ length: countU }, (_, u) => pointOf(surface, u, v))
		});
		const up = (u: number): Border => ({
			degree: degreeV,
			knots: knotsV,
			control: Array.from({ length: countV }, (_, v) => pointOf(surface, u, v))
		});
		// Once around: a border that has run to a point is none.
		const edges = [
			[across(0), '.T.'],
			[up(countU - 1), '.T.'],
			[across(countV - 1), '.F.'],
			[up(0), '.F.']
		] as const;
		const oriented = edges.flatMap(([border, way]) => {
			const edge = this.edge(border, shared);
			return edge ? [step.add('ORIENTED_EDGE', "''", '*', '*', edge, way)] : [];
		});
		const loop = step.add('EDGE_LOOP', "''", oriented);
		const bound = step.add('FACE_OUTER_BOUND', "''", loop, '.T.');
		return step.add('ADVANCED_FACE', label, [bound], this.surface(surface), '.T.');
	}

	private point([x, y, z]: readonly number[]): Instance {
		return this.step.add('CARTESIAN_POINT', "''", stepList([x!, y!, z!].map(stepReal)));
	}

	private vertex(at: readonly number[], shared: Shared): Instance {
		const key = placeOf(at);
		const there = shared.get(key) ?? this.step.add('VERTEX_POINT', "''", this.point(at));
		shared.set(key, there);
		return there;
	}

	private edge(border: Border, shared: Shared): Instance | undefined {
		const places = border.control.map(placeOf);
		if (places.every((p) => p === places[0])) return undefined;
		const key = places.join(' ');
		const there = shared.get(key);
		if (there) return there;
		const [from, to] = [border.control[0]!, border.control.at(-1)!].map((p) => this.vertex(p, shared));
		const edge = this.step.add('EDGE_CURVE', "''", from!, to!, this.curve(border), '.T.');
		shared.set(key, edge);
		return edge;
	}

	private curve({ degree, knots, control }: Border): Instance {
		const { step } = this;
		const points = stepList(control.map((p) => stepName(this.point(p))));
		const [times, values] = knotLists(knots);
		const shape = `${degree},${points},.UNSPECIFIED.,.F.,.F.`;
		const along = `${times},${values},.UNSPECIFIED.`;
		if (control.every((p) => p[3] === control[0]![3])) return step.add('B_SPLINE_CURVE_WITH_KNOTS', "''", shape, along);
		const weights = stepList(control.map((p) => stepReal(p[3]!)));
		return step.add(
			'',
			`BOUNDED_CURVE()B_SPLINE_CURVE(${shape})B_SPLINE_CURVE_WITH_KNOTS(${along})CURVE()GEOMETRIC_REPRESENTATION_ITEM()RATIONAL_B_SPLINE_CURVE(${weights})REPRESENTATION_ITEM('')`
		);
	}

	private surface(surface: Surface): Instance {
		const { step } = this;
		const { degreeU, degreeV, countU, countV, knotsU, knotsV, rational } = surface;
		// Lists of points up, one after the other across.
		const net = (write: (point: readonly number[]) => string) =>
			stepList(
				Array.from({ length: countU }, (_, u) =>
					stepList(Array.from({ length: countV }, (_, v) => write(pointOf(surface, u, v))))
				)
			);
		const shape = `${degreeU},${degreeV},${net((p) => stepName(this.point(p)))},.UNSPECIFIED.,.F.,.F.,.F.`;
		const [[timesU, valuesU], [timesV, valuesV]] = [knotLists(knotsU), knotLists(knotsV)];
		const along = `${timesU},${timesV},${valuesU},${valuesV},.UNSPECIFIED.`;
		if (!rational) return step.add('B_SPLINE_SURFACE_WITH_KNOTS', "''", shape, along);
		const weights = net((p) => stepReal(p[3]!));
		return step.add(
			'',
			`BOUNDED_SURFACE()B_SPLINE_SURFACE(${shape})B_SPLINE_SURFACE_WITH_KNOTS(${along})GEOMETRIC_REPRESENTATION_ITEM()RATIONAL_B_SPLINE_SURFACE(${weights})REPRESENTATION_ITEM('')SURFACE()`
		);
	}

	/** Writes a face as a product. */
	product(body: FaceBody): void {
		const { step } = this;
		const { shapes, products, design } = (this.contexts ??= this.addContexts());
		const label = stepText(`${body.mark} ${body.name}`);
		const shape = step.add('MANIFOLD_SURFACE_SHAPE_REPRESENTATION', label, [this.face(body)], shapes);
		const product = step.add('PRODUCT', stepText(body.key), label, "''", [products]);
		step.add('PRODUCT_RELATED_PRODUCT_CATEGORY', "'part'", '$', [product]);
		const formation = step.add('PRODUCT_DEFINITION_FORMATION', "''", "''", product);
		const definition = step.add('PRODUCT_DEFINITION', "'design'", "''", formation, design);
		const own = step.add('PRODUCT_DEFINITION_SHAPE', "''", "''", definition);
		step.add('SHAPE_DEFINITION_REPRESENTATION', own, shape);
	}

	/** What all products share: units of mm and radians, and what they are for. */
	private addContexts() {
		const { step } = this;
		const length = step.add('', 'LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.)');
		const angle = step.add('', 'NAMED_UNIT(*)PLANE_ANGLE_UNIT()SI_UNIT($,.RADIAN.)');
		const solid = step.add('', 'NAMED_UNIT(*)SI_UNIT($,.STERADIAN.)SOLID_ANGLE_UNIT()');
		const near = step.add(
			'UNCERTAINTY_MEASURE_WITH_UNIT',
			'LENGTH_MEASURE(0.01)',
			length,
			"'distance_accuracy_value'",
			"''"
		);
		const shapes = step.add(
			'',
			`GEOMETRIC_REPRESENTATION_CONTEXT(3)GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT((${stepName(near)}))GLOBAL_UNIT_ASSIGNED_CONTEXT(${stepList([length, angle, solid].map(stepName))})REPRESENTATION_CONTEXT('','')`
		);
		const application = step.add('APPLICATION_CONTEXT', "'core data for automotive mechanical design processes'");
		step.add('APPLICATION_PROTOCOL_DEFINITION', "'international standard'", "'automotive_design'", '2000', application);
		const products = step.add('PRODUCT_CONTEXT', "''", application, "'mechanical'");
		const design = step.add('PRODUCT_DEFINITION_CONTEXT', "'part definition'", application, "'design'");
		return { shapes, products, design };
	}
}

/** Where something is, to a tenth of a mm: what is nearer is one. */
const placeOf = (at: readonly number[]) =>
	at
		.slice(0, 3)
		.map((v) => Math.round(v * 10))
		.join();

/** A control point with its weight, not multiplied by it. */
function pointOf({ control, countU }: Surface, u: number, v: number): number[] {
	const at = (v * countU + u) * 4;
	const weight = control[at + 3]!;
	return [control[at]! / weight, control[at + 1]! / weight, control[at + 2]! / weight, weight];
}

/** How often each knot stands there, and the knots. */
function knotLists(knots: Float64Array): [string, string] {
	const values: number[] = [];
	const times: number[] = [];
	for (const knot of knots)
		if (values.at(-1) === knot) times[times.length - 1]!++;
		else {
			values.push(knot);
			times.push(1);
		}
	return [stepList(times.map(String)), stepList(values.map(stepReal))];
}
